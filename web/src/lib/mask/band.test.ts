import { describe, expect, it } from 'vitest';
import { HANDLES, moved, TWINS, turned, valueOf } from './band';

const range = { on: true, core: [20, 40] as [number, number], fade: [10, 5] as [number, number] };

describe('a range on its band', () => {
  it('has its handles at core and fade', () => {
    expect(HANDLES.map((h) => valueOf(range, h))).toEqual([10, 20, 40, 45]);
    expect(HANDLES.map((h) => TWINS[h])).toEqual([
      'fade-high',
      'core-high',
      'core-low',
      'fade-low',
    ]);
  });

  it('fades to nothing, never below it, and half way round at most where it wraps', () => {
    expect(moved(range, 'fade-low', 50, 100, false).fade).toEqual([0, 5]);
    expect(moved(range, 'fade-high', 500, 360, true).fade).toEqual([10, 180]);
    expect(moved(range, 'fade-high', 500, 100, false).fade).toEqual([10, 100]);
  });

  it("has core's ends that push no further than each other", () => {
    expect(moved(range, 'core-low', 50, 100, false).core).toEqual([40, 40]);
    expect(moved(range, 'core-high', -50, 100, false).core).toEqual([20, 20]);
    expect(moved(range, 'core-low', -50, 100, false).core).toEqual([0, 40]);
    expect(moved(range, 'core-low', -500, 360, true).core).toEqual([-320, 40]);
  });

  it('stays within the band as a whole, or goes round', () => {
    expect(moved(range, 'core', -50, 100, false).core).toEqual([0, 20]);
    expect(moved(range, 'core', 90, 100, false).core).toEqual([80, 100]);
    expect(moved(range, 'core', -50, 360, true).core).toEqual([330, 350]);
    expect(turned({ ...range, core: [370, 380] }, 360, true).core).toEqual([10, 20]);
    expect(turned(range, 100, false)).toBe(range);
  });
});
