import { amount, draggedAmount, type RemedyDescriptor, setting } from '../descriptor';

export default {
  kind: 'match',
  order: 20,
  menu: 'Match: every sample onto its reference',
  settings: [
    amount('match'),
    setting('match', 'follow', 'Follow taint'),
    setting('match', 'hold_luminance', 'Hold lightness'),
    setting('match', 'lighten', 'May lighten'),
    setting('match', 'darken', 'May darken'),
  ],
  ticks: [['hold_neutrals', 'Greys stay grey']],
  ...draggedAmount(1.5),
} satisfies RemedyDescriptor;
