/** Until when a list that arrives is held: what stands below it must not move under a pointer that is on its
 * way to a button. */
const REST_MS = 350;
const MOST_MS = 3000;
let moved = -Infinity;

if (typeof addEventListener === 'function')
  for (const kind of ['pointermove', 'pointerdown', 'pointerup'])
    addEventListener(kind, () => (moved = performance.now()), { capture: true, passive: true });

/** Resolves when the pointer has rested for a moment; at once when it has for longer. */
export async function pointerRests(): Promise<void> {
  const begun = performance.now();
  for (;;) {
    const now = performance.now();
    const left = Math.min(moved + REST_MS - now, begun + MOST_MS - now);
    if (left <= 0) return;
    await new Promise((resolve) => setTimeout(resolve, left));
  }
}
