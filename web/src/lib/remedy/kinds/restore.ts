import { amount, draggedAmount, type RemedyDescriptor } from '../descriptor';

export default {
  kind: 'restore',
  order: 90,
  purpose: 'as it was before',
  drawing: 'M5 12A7 7 0 1 0 8 6.3M8 3V7H12',
  settings: [amount('restore', 100)],
  ticks: [['colour_only', 'Colour only']],
  ...draggedAmount(1),
} satisfies RemedyDescriptor;
