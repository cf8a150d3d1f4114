import { amount, draggedAmount, type RemedyDescriptor } from '../descriptor';

const USEFUL = 12; // per cent; more is typed

export default {
  kind: 'glaze',
  order: 60,
  purpose: 'a thin tint over all',
  drawing: 'M4 16L14 16L20 8L10 8ZM6 19H15M8 5H18',
  settings: [{ ...amount('glaze', USEFUL), label: 'Thickness', beyond: 100 }],
  ...draggedAmount(1),
} satisfies RemedyDescriptor;
