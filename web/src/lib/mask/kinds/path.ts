import type { PartDescriptor } from '../descriptor';
import ShapeControls from '../ShapeControls.svelte';

export default {
  kind: 'path',
  order: 20,
  adding: [
    [
      'Lasso: draw round it',
      'M5 14C1 6 12 2 18 5S20 16 12 16S5 12 8 21',
      ({ draw }) => draw('lasso'),
    ],
    [
      'Path: click points, drag curves',
      'M4 18C6 6 14 6 20 8M3 17H6V20H3ZM19 7H22V10H19Z',
      ({ draw }) => draw('path'),
    ],
  ],
  controls: ShapeControls,
} satisfies PartDescriptor;
