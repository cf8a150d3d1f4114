import type { PartDescriptor } from '../descriptor';
import ShapeControls from '../ShapeControls.svelte';

export default {
  kind: 'oval',
  order: 30,
  adding: [['Oval: drag from its middle', ({ draw }) => draw('oval')]],
  controls: ShapeControls,
} satisfies PartDescriptor;
