import type { PartDescriptor } from '../descriptor';
import ShapeControls from '../ShapeControls.svelte';

export default {
  kind: 'path',
  order: 20,
  adding: [
    ['Lasso: draw round it', ({ draw }) => draw('lasso')],
    ['Path: click points, drag curves', ({ draw }) => draw('path')],
  ],
  controls: ShapeControls,
} satisfies PartDescriptor;
