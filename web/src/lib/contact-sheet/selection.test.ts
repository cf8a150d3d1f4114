import { describe, expect, it } from 'vitest';
import { Selection } from './selection.svelte';

const made = (): Selection => new Selection(() => [1, 2, 3, 4, 5]);

describe('a selection', () => {
  it('is one, until more are wanted', () => {
    const chosen = made();
    chosen.pick(2);
    chosen.pick(4);
    expect(chosen.list).toEqual([4]);
    chosen.pick(1, { more: true });
    expect(chosen.list).toEqual([1, 4]);
    chosen.pick(4, { more: true });
    expect(chosen.list).toEqual([1]);
    chosen.pick(1);
    expect(chosen.count).toBe(0);
  });

  it('stretches from where it began, either way', () => {
    const chosen = made();
    chosen.pick(3);
    chosen.pick(5, { range: true });
    expect(chosen.list).toEqual([3, 4, 5]);
    chosen.pick(1, { range: true });
    expect(chosen.list).toEqual([1, 2, 3]);
    chosen.pick(5, { more: true });
    chosen.pick(4, { range: true, more: true });
    expect(chosen.list).toEqual([1, 2, 3, 4, 5]);
  });

  it('keeps what is not shown any more', () => {
    let order = [1, 2, 3];
    const chosen = new Selection(() => order);
    chosen.all();
    order = [2];
    expect(chosen.list).toEqual([2, 1, 3]);
    chosen.forget([1]);
    expect(chosen.list).toEqual([2, 3]);
  });
});
