import { amount, draggedAmount, type RemedyDescriptor, setting } from '../descriptor';

export default {
  kind: 'even-out',
  order: 40,
  purpose: 'to one hue, or away',
  drawing: 'M4 6L11 12L4 18M20 6L13 12L20 18M12 10V14',
  settings: [
    amount('even-out', 100),
    setting('even-out', 'hue', 'Hue'),
    setting('even-out', 'saturation', 'Saturation'),
    setting('even-out', 'lightness', 'Lightness'),
  ],
  ...draggedAmount(1),
} satisfies RemedyDescriptor;
