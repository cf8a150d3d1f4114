import { newId } from '../recipe/kinds';
import type { Remedy } from '../api/types';

export type ByHue = Extract<Remedy, { kind: 'by-hue' }>;
export type HuePoint = ByHue['points'][number];
export type HueMove = 'turn' | 'saturation' | 'light';

/** The most that a point may move. */
export const MOST: Record<HueMove, number> = { turn: 60, saturation: 1, light: 0.3 };
export const MOST_POINTS = 12;
/** Degrees: a hue so near to a point is that point's. */
const NEAR = 15;

const round = (v: number): number => Math.round(v * 1e4) / 1e4;
const limited = (v: number, most: number): number => round(Math.min(Math.max(v, -most), most));

export function isByHue(remedy: Remedy | undefined): remedy is ByHue {
  return remedy?.kind === 'by-hue';
}

export function apart(one: number, two: number): number {
  const d = Math.abs(one - two) % 360;
  return Math.min(d, 360 - d);
}

/** With a point at a hue, last in the list: the nearest one that lies there, or a new one at rest. */
export function grabbed(remedy: ByHue, hue: number): ByHue {
  const near = remedy.points.filter((p) => apart(p.hue, hue) < NEAR);
  near.sort((p, q) => apart(p.hue, hue) - apart(q.hue, hue));
  const found = near[0];
  if (!found && remedy.points.length >= MOST_POINTS) return remedy;
  const point = found ?? { id: newId(), hue: round(hue), turn: 0, saturation: 0, light: 0 };
  return { ...remedy, points: [...remedy.points.filter((p) => p !== found), point] };
}

export function changed(remedy: ByHue, id: string, to: Partial<HuePoint>): ByHue {
  const kept = (p: HuePoint): HuePoint => ({
    ...p,
    ...to,
    hue: round((((to.hue ?? p.hue) % 360) + 360) % 360),
    turn: limited(to.turn ?? p.turn, MOST.turn),
    saturation: limited(to.saturation ?? p.saturation, MOST.saturation),
    light: limited(to.light ?? p.light, MOST.light),
  });
  return { ...remedy, points: remedy.points.map((p) => (p.id === id ? kept(p) : p)) };
}

export function without(remedy: ByHue, id: string): ByHue {
  return { ...remedy, points: remedy.points.filter((p) => p.id !== id) };
}

export function restsAt(point: HuePoint): boolean {
  return !point.turn && !point.saturation && !point.light;
}
