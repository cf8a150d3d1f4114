import MixControls from '../../shaping/MixControls.svelte';
import { amount, draggedAmount, type RemedyDescriptor } from '../descriptor';

export default {
  kind: 'channel-mix',
  order: 78,
  purpose: 'channels made of channels',
  drawing: 'M4 6H10L14 18H20M4 18H10L14 6H20M4 12H20',
  settings: [amount('channel-mix', 100)],
  controls: MixControls,
  ticks: [
    ['keep_grey', 'Greys stay grey'],
    ['hold_luminance', 'Hold lightness'],
  ],
  ...draggedAmount(1),
} satisfies RemedyDescriptor;
