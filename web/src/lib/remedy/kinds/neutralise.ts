import { amount, draggedAmount, type RemedyDescriptor, setting } from '../descriptor';

export default {
  kind: 'neutralise',
  order: 10,
  purpose: 'takes the cast off',
  drawing: 'M4 19C9 19 8 6 12 6S15 12 20 12M4 12H20',
  settings: [
    amount('neutralise'),
    setting('neutralise', 'follow', 'Follow taint'),
    setting('neutralise', 'soften', 'Soften it'),
    setting('neutralise', 'hold_lightness', 'Hold lightness'),
  ],
  ...draggedAmount(1.5),
} satisfies RemedyDescriptor;
