import { amount, draggedAmount, type RemedyDescriptor, setting } from '../descriptor';

export default {
  kind: 'neutralise',
  order: 10,
  menu: 'Neutralise: take the cast off',
  settings: [
    amount('neutralise'),
    setting('neutralise', 'follow', 'Follow taint'),
    setting('neutralise', 'soften', 'Soften it'),
    setting('neutralise', 'hold_lightness', 'Hold lightness'),
  ],
  ...draggedAmount(1.5),
} satisfies RemedyDescriptor;
