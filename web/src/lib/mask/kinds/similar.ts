import type { PartDescriptor } from '../descriptor';
import SimilarControls from '../SimilarControls.svelte';

export default {
  kind: 'similar',
  order: 60,
  title: () => 'Similar',
  adding: [['Similar and hanging together: click', ({ take }) => take('similar')]],
  controls: SimilarControls,
} satisfies PartDescriptor;
