import ColourKeyControls from '../ColourKeyControls.svelte';
import type { PartDescriptor } from '../descriptor';

export default {
  kind: 'colour-key',
  order: 80,
  adding: [],
  controls: ColourKeyControls,
} satisfies PartDescriptor;
