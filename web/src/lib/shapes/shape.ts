// Handles of the shapes of a mask, in fractions of the long edge. Nothing here touches pixels.
import type { Oval, Part, Path, PathNode, Ramp, Vector } from '../api/types';

export type Shape = Path | Oval | Ramp;

export function isShape(part: Part | undefined): part is Shape {
  return part?.kind === 'path' || part?.kind === 'oval' || part?.kind === 'ramp';
}

/** node: of a path, its index; side: which of its Bezier handles. */
export interface Handle {
  name: string;
  at: Vector;
  node?: number;
  side?: 'before' | 'after';
}

const plus = ([ax, ay]: Vector, [bx, by]: Vector): Vector => [ax + bx, ay + by];
const minus = ([ax, ay]: Vector, [bx, by]: Vector): Vector => [ax - bx, ay - by];

function axes({ angle }: Oval): [Vector, Vector] {
  const turn = (angle * Math.PI) / 180;
  return [
    [Math.cos(turn), Math.sin(turn)],
    [-Math.sin(turn), Math.cos(turn)],
  ];
}

const along = ([x, y]: Vector, length: number): Vector => [x * length, y * length];

export function handlesOf(part: Shape): Handle[] {
  if (part.kind === 'ramp') {
    return [
      { name: 'full effect', at: part.full },
      { name: 'no effect', at: part.none },
    ];
  }
  if (part.kind === 'oval') {
    const [one, two] = axes(part);
    return [
      { name: 'centre', at: part.centre },
      { name: 'width and turn', at: plus(part.centre, along(one, part.radii[0])) },
      { name: 'height', at: plus(part.centre, along(two, part.radii[1])) },
    ];
  }
  return part.nodes.flatMap((n, node): Handle[] => {
    const own: Handle[] = [{ name: `point ${node + 1}`, at: n.at, node }];
    for (const side of ['before', 'after'] as const) {
      const at = n[side];
      if (at) own.push({ name: `handle ${side} point ${node + 1}`, at, node, side });
    }
    return own;
  });
}

/** The shape with one handle elsewhere; alone: a Bezier handle does not take its opposite along. */
export function movedHandle(part: Shape, handle: Handle, to: Vector, alone: boolean): Shape {
  if (part.kind === 'ramp')
    return handle.name === 'full effect' ? { ...part, full: to } : { ...part, none: to };
  if (part.kind === 'oval') return movedOval(part, handle.name, to);
  const nodes = part.nodes.map((n, i) => (i === handle.node ? movedNode(n, handle, to, alone) : n));
  return { ...part, nodes };
}

const LEAST_RADIUS = 0.002;

function movedOval(part: Oval, name: string, to: Vector): Oval {
  if (name === 'centre') return { ...part, centre: to };
  const [dx, dy] = minus(to, part.centre);
  const length = Math.max(Math.hypot(dx, dy), LEAST_RADIUS);
  if (name === 'height') return { ...part, radii: [part.radii[0], length] };
  const angle = (Math.atan2(dy, dx) * 180) / Math.PI;
  return { ...part, radii: [length, part.radii[1]], angle };
}

function movedNode(n: PathNode, { side }: Handle, to: Vector, alone: boolean): PathNode {
  if (!side) {
    const by = minus(to, n.at);
    const taken = (v: Vector | null | undefined): Vector | null => (v ? plus(v, by) : null);
    return { at: to, before: taken(n.before), after: taken(n.after) };
  }
  const other = side === 'before' ? 'after' : 'before';
  const opposite = alone ? n[other] : mirrored(n, to, n[other]);
  return { ...n, [side]: to, [other]: opposite };
}

/** Opposite a handle, as long as it was. */
function mirrored(n: PathNode, to: Vector, old: Vector | null | undefined): Vector | null {
  if (!old) return null;
  const [dx, dy] = minus(n.at, to);
  const [ox, oy] = minus(old, n.at);
  const factor = Math.hypot(ox, oy) / Math.max(Math.hypot(dx, dy), 1e-9);
  return plus(n.at, [dx * factor, dy * factor]);
}

/** A point drawn out of a straight piece, half way to the next. */
export function withNodeAfter(part: Path, node: number): Path {
  const one = part.nodes[node];
  const two = part.nodes[(node + 1) % part.nodes.length];
  if (!one || !two) return part;
  const at: Vector = [(one.at[0] + two.at[0]) / 2, (one.at[1] + two.at[1]) / 2];
  const added: PathNode = { at, before: null, after: null };
  return {
    ...part,
    nodes: [...part.nodes.slice(0, node + 1), added, ...part.nodes.slice(node + 1)],
  };
}

const between = (a: Vector, b: Vector, t: number): Vector => [
  a[0] + (b[0] - a[0]) * t,
  a[1] + (b[1] - a[1]) * t,
];

/** The four points of the curve from a node to the next; null where it is straight. */
function curveOf(one: PathNode, two: PathNode): [Vector, Vector, Vector, Vector] | null {
  if (!one.after && !two.before) return null;
  return [one.at, one.after ?? one.at, two.before ?? two.at, two.at];
}

/** A point on the outline where it is nearest to a place, which leaves its form as it is. By de Casteljau. */
export function withNodeAt(part: Path, place: Vector): { path: Path; node: number } {
  const { nodes } = part;
  let best = { off: Infinity, node: 0, t: 0.5 };
  nodes.forEach((one, node) => {
    const two = nodes[(node + 1) % nodes.length] as PathNode;
    for (let i = 1; i < 32; i++) {
      const [x, y] = minus(splitAt(one, two, i / 32).middle.at, place);
      const off = Math.hypot(x, y);
      if (off < best.off) best = { off, node, t: i / 32 };
    }
  });
  const next = (best.node + 1) % nodes.length;
  const { one, middle, two } = splitAt(
    nodes[best.node] as PathNode,
    nodes[next] as PathNode,
    best.t,
  );
  const changed = nodes.map((n, i) => (i === best.node ? one : i === next ? two : n));
  changed.splice(best.node + 1, 0, middle);
  return { path: { ...part, nodes: changed }, node: best.node + 1 };
}

function splitAt(one: PathNode, two: PathNode, t: number) {
  const curve = curveOf(one, two);
  if (!curve)
    return { one, two, middle: { at: between(one.at, two.at, t), before: null, after: null } };
  const [a, b, c, d] = curve;
  const [ab, bc, cd] = [between(a, b, t), between(b, c, t), between(c, d, t)];
  const [before, after] = [between(ab, bc, t), between(bc, cd, t)];
  const middle: PathNode = { at: between(before, after, t), before, after };
  return { one: { ...one, after: ab }, middle, two: { ...two, before: cd } };
}

export function withoutNode(part: Path, node: number): Path {
  if (part.nodes.length <= 3) return part;
  return { ...part, nodes: part.nodes.filter((_, i) => i !== node) };
}

/** A corner gets handles along its neighbours; a smooth point becomes a corner. */
export function turnedNode(part: Path, node: number): Path {
  const n = part.nodes[node];
  const { length } = part.nodes;
  const before = part.nodes[(node + length - 1) % length];
  const after = part.nodes[(node + 1) % length];
  if (!n || !before || !after) return part;
  const [dx, dy] = minus(after.at, before.at);
  const reach: Vector = [dx / 5, dy / 5];
  const smooth = { ...n, before: minus(n.at, reach), after: plus(n.at, reach) };
  const turned = n.before || n.after ? { ...n, before: null, after: null } : smooth;
  return { ...part, nodes: part.nodes.map((v, i) => (i === node ? turned : v)) };
}

/** Points of a freehand outline that are worth keeping: those off the line between their neighbours. */
export function simplified(points: Vector[], off: number): Vector[] {
  if (points.length < 3) return points;
  const [first, last] = [points[0] as Vector, points.at(-1) as Vector];
  const [dx, dy] = minus(last, first);
  const size = Math.hypot(dx, dy);
  const away = points.map((p) => {
    const [x, y] = minus(p, first);
    return size < 1e-9 ? Math.hypot(x, y) : Math.abs(x * dy - y * dx) / size;
  });
  const farthest = away.indexOf(Math.max(...away));
  if ((away[farthest] ?? 0) <= off) return [first, last];
  const left = simplified(points.slice(0, farthest + 1), off);
  return [...left.slice(0, -1), ...simplified(points.slice(farthest), off)];
}

/** The outline as an SVG path, through a way from places to the screen. */
export function svgOf(nodes: PathNode[], closed: boolean, show: (at: Vector) => string): string {
  const pieces = nodes.map((n, i) => {
    if (!i) return `M${show(n.at)}`;
    return piece(nodes[i - 1] as PathNode, n, show);
  });
  if (closed && nodes.length > 1)
    pieces.push(`${piece(nodes.at(-1) as PathNode, nodes[0] as PathNode, show)}Z`);
  return pieces.join('');
}

function piece(one: PathNode, two: PathNode, show: (at: Vector) => string): string {
  if (!one.after && !two.before) return `L${show(two.at)}`;
  return `C${show(one.after ?? one.at)} ${show(two.before ?? two.at)} ${show(two.at)}`;
}
