import { describe, expect, it } from 'vitest';
import type { Vector } from '../api/types';
import { newOval, newPath, newRamp } from '../recipe/edit';
import {
  handlesOf,
  movedHandle,
  simplified,
  svgOf,
  turnedNode,
  withNodeAfter,
  withNodeAt,
  withoutNode,
} from './shape';

const corner = (x: number, y: number) => ({ at: [x, y] as Vector, before: null, after: null });
const square = newPath([corner(0, 0), corner(1, 0), corner(1, 1), corner(0, 1)]);
const round = turnedNode(square, 0);

function near(one: Vector | null | undefined, two: Vector): void {
  expect(one?.[0]).toBeCloseTo(two[0], 9);
  expect(one?.[1]).toBeCloseTo(two[1], 9);
}

describe('an oval', () => {
  const oval = { ...newOval([0.5, 0.5], [0.2, 0.1]), angle: 90 };

  it('has its handles along its own axes', () => {
    const [centre, wide, high] = handlesOf(oval).map((h) => h.at);
    near(centre, [0.5, 0.5]);
    near(wide, [0.5, 0.7]);
    near(high, [0.4, 0.5]);
  });

  it('turns and widens with one handle, and never vanishes', () => {
    const wide = handlesOf(oval)[1]!;
    expect(movedHandle(oval, wide, [0.5, 0.2], false)).toMatchObject({ angle: -90 });
    const flat = movedHandle(oval, wide, [0.5, 0.5], false);
    expect(flat).toMatchObject({ radii: [0.002, 0.1] });
  });
});

describe('a ramp', () => {
  it('moves by its ends', () => {
    const ramp = newRamp([0, 0], [1, 0]);
    const [full, none] = handlesOf(ramp);
    expect(movedHandle(ramp, full!, [0.2, 0.1], false)).toMatchObject({ full: [0.2, 0.1] });
    expect(movedHandle(ramp, none!, [0.9, 0.1], false)).toMatchObject({ none: [0.9, 0.1] });
  });
});

describe('a path', () => {
  it('takes handles along with their point', () => {
    const point = handlesOf(round).find((h) => h.node === 0 && !h.side)!;
    const moved = movedHandle(round, point, [0.5, 0.5], false);
    const [n] = moved.kind === 'path' ? moved.nodes : [];
    const [was] = round.nodes;
    near(n?.before, [was!.before![0] + 0.5, was!.before![1] + 0.5]);
    near(n?.after, [was!.after![0] + 0.5, was!.after![1] + 0.5]);
  });

  it('mirrors a handle unless it is moved alone, and keeps the length of the other', () => {
    const handle = handlesOf(round).find((h) => h.side === 'after')!;
    const length = Math.hypot(...(round.nodes[0]!.before as Vector));
    const both = movedHandle(round, handle, [0.6, 0], false);
    const alone = movedHandle(round, handle, [0.6, 0], true);
    if (both.kind !== 'path' || alone.kind !== 'path') throw new Error('not a path');
    near(both.nodes[0]!.before, [-length, 0]);
    expect(alone.nodes[0]!.before).toEqual(round.nodes[0]!.before);
  });

  it('gets a point half way, or where the outline was pressed, without changing its form', () => {
    expect(withNodeAfter(square, 3).nodes[4]?.at).toEqual([0, 0.5]);
    const { path, node } = withNodeAt(square, [0.26, -0.1]);
    expect(node).toBe(1);
    near(path.nodes[1]!.at, [0.25, 0]);
    const curved = withNodeAt(round, [0.5, 0.1]);
    const [a, m] = [curved.path.nodes[0]!, curved.path.nodes[curved.node]!];
    // By de Casteljau the new handles lie on the line through the new point.
    const [dx, dy] = [m.at[0] - m.before![0], m.at[1] - m.before![1]];
    const [ex, ey] = [m.after![0] - m.at[0], m.after![1] - m.at[1]];
    expect(dx * ey - dy * ex).toBeCloseTo(0, 9);
    expect(Math.hypot(...(a.after as Vector))).toBeLessThan(
      Math.hypot(...(round.nodes[0]!.after as Vector)),
    );
  });

  it('keeps three points', () => {
    const three = withoutNode(square, 0);
    expect(three.nodes).toHaveLength(3);
    expect(withoutNode(three, 0)).toBe(three);
  });

  it('turns a corner smooth and back', () => {
    expect(round.nodes[0]).toMatchObject({ before: [-0.2, 0.2], after: [0.2, -0.2] });
    expect(turnedNode(round, 0).nodes[0]).toEqual(corner(0, 0));
  });

  it('is drawn straight or curved as it is', () => {
    const show = ([x, y]: Vector) => `${x},${y}`;
    expect(svgOf(square.nodes, true, show)).toBe('M0,0L1,0L1,1L0,1L0,0Z');
    expect(svgOf(round.nodes, false, show)).toMatch(/^M0,0C0\.2,-0\.2 1,0 1,0L1,1L0,1$/);
  });
});

describe('a freehand outline', () => {
  it('keeps the points that are off the line', () => {
    const points: Vector[] = [
      [0, 0],
      [0.5, 0.0001],
      [1, 0],
      [1, 0.5],
      [1, 1],
    ];
    expect(simplified(points, 0.001)).toEqual([
      [0, 0],
      [1, 0],
      [1, 1],
    ]);
    expect(simplified(points.slice(0, 2), 0.001)).toHaveLength(2);
  });
});
