import { amount, draggedAmount, type RemedyDescriptor } from '../descriptor';

export default {
  kind: 'restore',
  order: 50,
  menu: 'Restore the photo as it came',
  settings: [amount('restore', 100)],
  ticks: [['colour_only', 'Colour only']],
  ...draggedAmount(1),
} satisfies RemedyDescriptor;
