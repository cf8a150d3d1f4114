import { beforeEach, describe, expect, it, vi } from 'vitest';

const heard = new Map<string, () => void>();
vi.stubGlobal('addEventListener', (kind: string, hear: () => void) => heard.set(kind, hear));
const { pointerRests } = await import('./resting');

const move = () => heard.get('pointermove')?.();

async function waited(): Promise<number> {
  const begun = performance.now();
  await pointerRests();
  return performance.now() - begun;
}

describe('a list that arrives', () => {
  beforeEach(() => void vi.useFakeTimers());

  it('is there at once while the pointer rests', async () => {
    await vi.advanceTimersByTimeAsync(5000);
    expect(await waited()).toBe(0);
  });

  it('waits for a pointer that moves, but not for ever', async () => {
    move();
    const short = waited();
    await vi.advanceTimersByTimeAsync(5000);
    expect(await short).toBe(350);
    const moving = setInterval(move, 50);
    move();
    const long = waited();
    await vi.advanceTimersByTimeAsync(5000);
    clearInterval(moving);
    expect(await long).toBe(3000);
  });
});
