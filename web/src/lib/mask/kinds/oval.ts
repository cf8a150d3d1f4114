import type { PartDescriptor } from '../descriptor';
import ShapeControls from '../ShapeControls.svelte';

export default {
  kind: 'oval',
  order: 30,
  adding: [
    [
      'Oval: drag from its middle',
      'M3 12A9 6 0 1 0 21 12A9 6 0 1 0 3 12M12 11V13M11 12H13',
      ({ draw }) => draw('oval'),
    ],
  ],
  controls: ShapeControls,
} satisfies PartDescriptor;
