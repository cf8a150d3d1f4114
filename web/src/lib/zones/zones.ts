import { KINDS } from '../../generated/kinds';
import type { Remedy } from '../api/types';

export type Zones = Extract<Remedy, { kind: 'zones' }>;
export const ZONES = ['shadows', 'mids', 'lights'] as const;
export type Zone = (typeof ZONES)[number];
export type Move = 'red' | 'yellow' | 'saturation' | 'light';

export const LEAST_APART = 0.08; // of lightness, between the crossovers
/** Of a zone in the a-b plane. */
export const [, FARTHEST] = KINDS.remedies.zones.bounds.mids_red;

/** What the core calls a zone's move. */
export function nameOf(zone: Zone, move: Move): `${Zone}_${Move}` {
  return `${zone}_${move}`;
}

export function isZones(remedy: Remedy | undefined): remedy is Zones {
  return remedy?.kind === 'zones';
}

export function restsAt(zones: Zones, zone: Zone): boolean {
  return (['red', 'yellow', 'saturation', 'light'] as const).every((m) => !zones[nameOf(zone, m)]);
}

/** A crossover moved: the other one gives way, so that they keep their order and distance. */
export function crossed(zones: Zones, which: 'low' | 'high', to: number): Zones {
  const round = (v: number): number => Math.round(v * 1000) / 1000;
  if (which === 'low') {
    const low = round(Math.min(Math.max(to, 0), 1 - LEAST_APART));
    return { ...zones, low, high: round(Math.max(zones.high, low + LEAST_APART)) };
  }
  const high = round(Math.min(Math.max(to, LEAST_APART), 1));
  return { ...zones, high, low: round(Math.min(zones.low, high - LEAST_APART)) };
}

/** How much of a lightness belongs to a zone, as the engine's joints have it; to draw them. */
export function shareOf({ low, high }: Zones, zone: Zone, light: number): number {
  const above = (joint: number): number => {
    const t = Math.min(Math.max((light - joint) / (high - low) + 0.5, 0), 1);
    return t * t * (3 - 2 * t);
  };
  if (zone === 'shadows') return 1 - above(low);
  return zone === 'lights' ? above(high) : above(low) - above(high);
}
