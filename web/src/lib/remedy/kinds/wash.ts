import WashControls from '../../wash/WashControls.svelte';
import { amount, draggedAmount, type RemedyDescriptor } from '../descriptor';

export default {
  kind: 'wash',
  order: 55,
  purpose: 'stroke by stroke',
  drawing: 'M4 20C8 20 8 16 11 13L19 5L21 7L13 15C10 18 8 20 4 20Z',
  settings: [amount('wash', 100)],
  controls: WashControls,
  ...draggedAmount(1),
} satisfies RemedyDescriptor;
