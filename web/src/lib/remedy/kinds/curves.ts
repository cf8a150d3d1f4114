import CurveControls from '../../shaping/CurveControls.svelte';
import { amount, draggedAmount, type RemedyDescriptor } from '../descriptor';

export default {
  kind: 'curves',
  order: 77,
  purpose: 'light, channels, inks',
  drawing: 'M4 4V20H20M4 20C10 20 9 8 20 6',
  settings: [amount('curves', 100)],
  controls: CurveControls,
  ...draggedAmount(1),
} satisfies RemedyDescriptor;
