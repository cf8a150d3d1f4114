import type { PartDescriptor } from '../descriptor';

export default {
  kind: 'picture',
  order: 110,
  adding: [],
  note: () =>
    'A region as it was found, or a grey picture that came with the recipe. Add a brush to widen it, or to take away from it.',
} satisfies PartDescriptor;
