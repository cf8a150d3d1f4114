import type { Lent } from '../../api/types';
import { letterOf } from '../../recipe/kinds';
import type { PartDescriptor } from '../descriptor';

export default {
  kind: 'lent',
  order: 90,
  title: (part, { casts }) =>
    `Mask of ${letterOf(casts.findIndex((c) => c.id === (part as Lent).cast))}`,
  adding: [],
  note: () => 'The mask of that cast, as it is there: what is changed there changes here as well.',
} satisfies PartDescriptor;
