import type { Remedy, Vector } from '../api/types';

export type Curves = Extract<Remedy, { kind: 'curves' }>;
export const CURVES = [
  ['lightness', 'light'],
  ['red', 'red'],
  ['green', 'green'],
  ['blue', 'blue'],
  ['cyan', 'cyan'],
  ['magenta', 'magenta'],
  ['yellow', 'yellow'],
  ['black', 'black'],
] as const;
export type CurveName = (typeof CURVES)[number][0];
/** From one point of a curve to the next. */
const LEAST_APART = 0.01;
const MOST_POINTS = 16;

export function isCurves(remedy: Remedy | undefined): remedy is Curves {
  return remedy?.kind === 'curves';
}

const round = (v: number): number => Math.round(Math.min(Math.max(v, 0), 1) * 1000) / 1000;

/** A point moved, or a new one where `index` is none: between its neighbours, and never falling. */
export function bent(
  points: readonly Vector[],
  index: number | null,
  [x, y]: Vector,
): { points: Vector[]; index: number } | null {
  const others = points.filter((_, i) => i !== index);
  if (index === null && others.length >= MOST_POINTS) return null;
  const at =
    index ??
    (others.findIndex((p) => p[0] > x) === -1 ? others.length : others.findIndex((p) => p[0] > x));
  const before = others[at - 1];
  const after = others[at];
  const least = before ? before[0] + LEAST_APART : 0;
  const most = after ? after[0] - LEAST_APART : 1;
  if (least > most) return null;
  const point: Vector = [
    round(Math.min(Math.max(x, least), most)),
    round(Math.min(Math.max(y, before?.[1] ?? 0), after?.[1] ?? 1)),
  ];
  return { points: [...others.slice(0, at), point, ...others.slice(at)], index: at };
}
