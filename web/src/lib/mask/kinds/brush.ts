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
      ({ addPart, take }) => {
        addPart(newPart('brush'));
        take('paint');
      },
    ],
  ],
  controls: BrushControls as PartDescriptor['controls'],
} satisfies PartDescriptor;
