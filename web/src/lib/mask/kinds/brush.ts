import { newPart } from '../../recipe/kinds';
import BrushControls from '../BrushControls.svelte';
import type { PartDescriptor } from '../descriptor';

export default {
  kind: 'brush',
  order: 10,
  tool: 'paint',
  adding: [
    [
      'Brush',
      'M4 20C8 20 8 17 11 14L20 5M17 3L21 7',
      ({ addPart, take }) => {
        addPart(newPart('brush'));
        take('paint');
      },
    ],
  ],
  controls: BrushControls as PartDescriptor['controls'],
} satisfies PartDescriptor;
