import { newPart } from '../../recipe/kinds';
import type { PartDescriptor } from '../descriptor';

export default {
  kind: 'whole',
  order: 100,
  last: true,
  adding: [['Whole photo', ({ addPart }) => addPart(newPart('whole'))]],
  note: () => 'Everything. Join a colour key by intersecting, or take a brush away from it.',
} satisfies PartDescriptor;
