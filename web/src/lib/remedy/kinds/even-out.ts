import { amount, draggedAmount, type RemedyDescriptor, setting } from '../descriptor';

export default {
  kind: 'even-out',
  order: 40,
  menu: 'Even out, or spread, around a colour',
  settings: [
    amount('even-out', 100),
    setting('even-out', 'hue', 'Hue'),
    setting('even-out', 'saturation', 'Saturation'),
    setting('even-out', 'lightness', 'Lightness'),
  ],
  ...draggedAmount(1),
} satisfies RemedyDescriptor;
