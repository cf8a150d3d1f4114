import type { Vector } from '../api/types';

/** Where a pointer is in an element, 0..1 from its left top. */
export function within(element: Element, event: { clientX: number; clientY: number }): Vector {
  const box = element.getBoundingClientRect();
  const part = (v: number, from: number, size: number): number =>
    Math.min(Math.max((v - from) / size, 0), 1);
  return [part(event.clientX, box.left, box.width), part(event.clientY, box.top, box.height)];
}
