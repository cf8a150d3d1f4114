import type { PartDescriptor } from '../descriptor';
import ShapeControls from '../ShapeControls.svelte';

export default {
  kind: 'ramp',
  order: 40,
  adding: [
    [
      'Ramp: drag from full to nothing',
      'M5 3V21M9 3V21M14 5V19M20 9V15',
      ({ draw }) => draw('ramp'),
    ],
  ],
  controls: ShapeControls,
} satisfies PartDescriptor;
