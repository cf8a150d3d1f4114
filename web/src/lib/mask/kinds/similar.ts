import type { PartDescriptor } from '../descriptor';
import SimilarControls from '../SimilarControls.svelte';

export default {
  kind: 'similar',
  order: 60,
  title: () => 'Similar',
  adding: [
    [
      'Similar and hanging together: click',
      'M12 12L9 5L4 8L6 14L4 19L11 20L15 17L20 18L18 11L20 6L15 6Z',
      ({ take }) => take('similar'),
    ],
  ],
  controls: SimilarControls,
} satisfies PartDescriptor;
