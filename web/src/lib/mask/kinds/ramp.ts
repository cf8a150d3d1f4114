import type { PartDescriptor } from '../descriptor';
import ShapeControls from '../ShapeControls.svelte';

export default {
  kind: 'ramp',
  order: 40,
  adding: [['Ramp: drag from full to nothing', ({ draw }) => draw('ramp')]],
  controls: ShapeControls,
} satisfies PartDescriptor;
