import CalmControls from '../CalmControls.svelte';
import { amount, draggedAmount, type RemedyDescriptor, setting } from '../descriptor';

export default {
  kind: 'calm',
  order: 80,
  purpose: 'noise as it is around',
  drawing: 'M3 12L5 7L7 16L9 8L11 14C13 12 13 12 21 12',
  settings: [
    amount('calm', 100),
    setting('calm', 'colour', 'Colour'),
    setting('calm', 'lightness', 'Lightness'),
  ],
  controls: CalmControls,
  ...draggedAmount(1),
} satisfies RemedyDescriptor;
