import type { PartDescriptor } from '../descriptor';
import SnapControls from '../SnapControls.svelte';

export default {
  kind: 'snap',
  order: 50,
  adding: [
    ['Object: draw loosely round it', ({ draw }) => draw('snap')],
    ['Object: scribble over it', ({ take }) => take('this')],
  ],
  controls: SnapControls,
} satisfies PartDescriptor;
