import { describe, expect, it } from 'vitest';
import { newRemedy } from '../recipe/kinds';
import { bent } from './bends';
import * as hues from './hues';
import * as plane from './plane';

const AIM: [number, number, number] = [0.2, 0.2, 0.2];

describe('a hue taken hold of', () => {
  const rest = newRemedy('by-hue', AIM) as hues.ByHue;

  it('is the nearest point, also across 0, or a new one at rest; last in the list', () => {
    const one = hues.grabbed(rest, 355);
    const two = hues.grabbed(one, 120);
    expect(two.points.map((p) => p.hue)).toEqual([355, 120]);
    const again = hues.grabbed(two, 4);
    expect(again.points.map((p) => p.hue)).toEqual([120, 355]);
    expect(again.points.every(hues.restsAt)).toBe(true);
  });

  it('moves within bounds and round the circle', () => {
    const one = hues.grabbed(rest, 350);
    const id = one.points[0]?.id ?? '';
    const [point] = hues.changed(one, id, { hue: 365, turn: 99, saturation: -3 }).points;
    expect(point).toMatchObject({ hue: 5, turn: 60, saturation: -1, light: 0 });
    expect(hues.without(one, id).points).toEqual([]);
  });
});

describe('a colour taken hold of', () => {
  const rest = newRemedy('in-plane', AIM) as plane.InPlane;

  it('is pinned until it is dragged, and found again near its start', () => {
    const one = plane.grabbed(rest, [0.1, 0.05]);
    const [pin] = one.points;
    expect(pin && plane.isPinned(pin)).toBe(true);
    expect(plane.grabbed(one, [0.105, 0.05]).points).toHaveLength(1);
    expect(plane.grabbed(one, [0.105, 0.05], 'dark').points).toHaveLength(2);
    const [dragged] = plane.changed(one, pin?.id ?? '', { end: [0.9, 0.1] }).points;
    expect(dragged?.end).toEqual([0.45, 0.1]);
  });

  it('has met the limit where it comes short, unless it is loose', () => {
    const one = plane.grabbed(rest, [0.1, 0]);
    const id = one.points[0]?.id ?? '';
    const far = plane.changed(one, id, { end: [0.2, 0] });
    expect(plane.stopped(far, { [id]: [0.15, 0] })).toHaveLength(1);
    expect(plane.stopped(far, { [id]: [0.2, 0] })).toHaveLength(0);
    expect(plane.stopped(plane.smoothed(far), { [id]: [0.15, 0] })).toHaveLength(0);
  });
});

describe('a curve', () => {
  it('keeps its points in order, apart and rising', () => {
    const one = bent([], null, [0.5, 0.6]);
    expect(one).toEqual({ points: [[0.5, 0.6]], index: 0 });
    const two = bent(one?.points ?? [], null, [0.7, 0.2]);
    expect(two?.points).toEqual([
      [0.5, 0.6],
      [0.7, 0.6],
    ]);
    const moved = bent(two?.points ?? [], 0, [0.9, 0.9]);
    expect(moved?.points[0]).toEqual([0.69, 0.6]);
  });

  it('has sixteen points at most', () => {
    const some = (count: number): [number, number][] =>
      Array.from({ length: count }, (_, i) => [i / 20, i / 20]);
    expect(bent(some(15), null, [0.9, 0.9])?.points).toHaveLength(16);
    expect(bent(some(16), null, [0.9, 0.9])).toBeNull();
    expect(bent(some(16), 15, [0.8, 0.8])?.points).toHaveLength(16);
  });
});
