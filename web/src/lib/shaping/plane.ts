import type { Remedy, Vector } from '../api/types';
import { newId } from '../recipe/kinds';

export type InPlane = Extract<Remedy, { kind: 'in-plane' }>;
export type Held = InPlane['points'][number];

export const MOST_POINTS = 24;
/** Of OKLab: a colour so near to a point is that point's; a point that ends so far from where it was meant to
 * has met the limit. */
const NEAR = 0.018;
const SHORT = 0.006;
const FARTHEST = 0.45;

const round = (v: number): number => Math.round(v * 1e4) / 1e4;
const limited = (v: number, most = FARTHEST): number => round(Math.min(Math.max(v, -most), most));

export function isInPlane(remedy: Remedy | undefined): remedy is InPlane {
  return remedy?.kind === 'in-plane';
}

export function isPinned({ start, end, light }: Held): boolean {
  return start[0] === end[0] && start[1] === end[1] && !light;
}

/** With a point that starts at a colour, last in the list: one that lies there, or a new one at rest. */
export function grabbed(remedy: InPlane, at: Vector, reach: Held['reach'] = 'all'): InPlane {
  const away = (p: Held): number => Math.hypot(p.start[0] - at[0], p.start[1] - at[1]);
  const near = remedy.points.filter((p) => p.reach === reach && away(p) < NEAR);
  const found = near.sort((p, q) => away(p) - away(q))[0];
  if (!found && remedy.points.length >= MOST_POINTS) return remedy;
  const start: [number, number] = [limited(at[0]), limited(at[1])];
  const point = found ?? { id: newId(), start, end: start, light: 0, loose: 0, reach };
  return { ...remedy, points: [...remedy.points.filter((p) => p !== found), point] };
}

export function changed(remedy: InPlane, id: string, to: Partial<Held>): InPlane {
  const kept = (p: Held): Held => ({
    ...p,
    ...to,
    end: [limited((to.end ?? p.end)[0]), limited((to.end ?? p.end)[1])],
    light: limited(to.light ?? p.light, 0.3),
    loose: Math.min(Math.max(to.loose ?? p.loose, 0), 1),
  });
  return { ...remedy, points: remedy.points.map((p) => (p.id === id ? kept(p) : p)) };
}

export function without(remedy: InPlane, id: string): InPlane {
  return { ...remedy, points: remedy.points.filter((p) => p.id !== id) };
}

/** Every point looser by a step, so that the plane bends less. */
export function smoothed(remedy: InPlane): InPlane {
  const loose = (p: Held): number => round(Math.min(p.loose + 0.25, 1));
  return { ...remedy, points: remedy.points.map((p) => ({ ...p, loose: loose(p) })) };
}

/** Where going on would fold the plane: firm points that come short of where they were dragged. */
export function stopped(remedy: InPlane, reached: Record<string, Vector>): Held[] {
  const share = remedy.amount;
  return remedy.points.filter((p) => {
    const to = reached[p.id];
    const end = p.start.map((v, i) => v + share * ((p.end[i] ?? v) - v));
    return to && p.loose === 0 && Math.hypot(to[0] - (end[0] ?? 0), to[1] - (end[1] ?? 0)) > SHORT;
  });
}
