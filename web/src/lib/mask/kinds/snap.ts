import type { PartDescriptor } from '../descriptor';
import SnapControls from '../SnapControls.svelte';

export default {
  kind: 'snap',
  order: 50,
  adding: [
    [
      'Object: draw loosely round it',
      'M7 8H17V17H7ZM4 6C8 2 17 3 20 6S22 18 18 20S4 21 3 17S2 9 4 6',
      ({ draw }) => draw('snap'),
    ],
    ['Object: scribble over it', 'M5 6H19V19H5ZM8 10L11 15L13 9L16 15', ({ take }) => take('this')],
  ],
  controls: SnapControls,
} satisfies PartDescriptor;
