import { amount, draggedAmount, type RemedyDescriptor, setting } from '../descriptor';

export default {
  kind: 'recolour',
  order: 50,
  purpose: 'another colour, same folds',
  drawing: 'M5 8L12 4L19 8V16L12 20L5 16ZM5 8L12 12L19 8M12 12V20',
  settings: [
    amount('recolour', 100),
    setting('recolour', 'variation', 'Own variation'),
    setting('recolour', 'lightness', 'Its lightness'),
  ],
  ...draggedAmount(1),
} satisfies RemedyDescriptor;
