import { amount, draggedAmount, type RemedyDescriptor, setting } from '../descriptor';

export default {
  kind: 'match',
  order: 20,
  purpose: 'samples onto references',
  drawing: 'M4 7H13M10 4L13 7L10 10M4 17H13M10 14L13 17L10 20M17 5H21V9H17ZM17 15H21V19H17Z',
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
