import { newPart } from '../../recipe/kinds';
import type { PartDescriptor } from '../descriptor';

export default {
  kind: 'whole',
  order: 100,
  last: true,
  adding: [
    [
      'Whole photo',
      'M3 5H21V19H3ZM3 15L9 10L14 15L17 12L21 16',
      ({ addPart }) => addPart(newPart('whole')),
    ],
  ],
  note: () => 'Everything. Join a colour key by intersecting, or take a brush away from it.',
} satisfies PartDescriptor;
