import ZonesControls from '../../zones/ZonesControls.svelte';
import { amount, draggedAmount, type RemedyDescriptor } from '../descriptor';

export default {
  kind: 'zones',
  order: 70,
  purpose: 'shadows, mids, lights',
  drawing: 'M3 19H21M3 19C7 19 7 8 10 8S13 14 15 14S18 5 21 5M9 5V21M16 5V21',
  settings: [amount('zones')],
  controls: ZonesControls,
  ...draggedAmount(1.5),
} satisfies RemedyDescriptor;
