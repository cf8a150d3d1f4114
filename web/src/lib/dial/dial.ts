import type { Vector } from '../api/types';

/** Distance in a*, b* that reaches the ring; farther colours stand on it. */
export const RING = 20;

/** Where a colour stands on a dial of this radius; y grows downwards. */
export function onDial([a, b]: Vector, radius: number): { x: number; y: number } {
  const length = Math.hypot(a, b);
  const factor = (radius * Math.min(length / RING, 1)) / (length || 1);
  return { x: a * factor, y: -b * factor };
}
