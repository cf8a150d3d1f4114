// Changes of a recipe, each as a new document. Nothing here computes colours.
import { KINDS } from '../../generated/kinds';
import type {
  Brush,
  Cast,
  ColourKey,
  Guard,
  Lent,
  NamedKey,
  Oval,
  Pair,
  Part,
  Path,
  PathNode,
  PersonPart,
  Ramp,
  Range,
  Recipe,
  Refine,
  Remedy,
  Sample,
  Similar,
  Snap,
  Stroke,
  Touch,
  Vector,
} from '../api/types';
import { letterOf, newId, newPart, newRemedy } from './kinds';

export { letterOf, newId } from './kinds';

/** Whether two documents, or parts of them, say the same. */
export function same(one: unknown, two: unknown): boolean {
  return one === two || JSON.stringify(one) === JSON.stringify(two);
}

const MID_GREY: Sample['rgb'] = [0.18, 0.18, 0.18];

export function withRemedy(cast: Cast, kind: Remedy['kind']): Cast {
  const pair = cast.pairs[0];
  const target = pair?.reference?.rgb ?? pair?.tainted.rgb ?? MID_GREY;
  return { ...cast, remedies: [...cast.remedies, newRemedy(kind, target)] };
}

/** Earlier (-1) or later (1) in the order of treatment. */
export function movedRemedy(cast: Cast, id: string, by: -1 | 1): Cast {
  const remedies = [...cast.remedies];
  const at = remedies.findIndex((r) => r.id === id);
  const [one] = remedies.splice(at, 1);
  if (one) remedies.splice(Math.max(at + by, 0), 0, one);
  return { ...cast, remedies };
}

export function withoutRemedy(cast: Cast, id: string): Cast {
  return { ...cast, remedies: cast.remedies.filter((r) => r.id !== id) };
}

/** At a place in the order. */
export function remedyPut(cast: Cast, id: string, to: number): Cast {
  const moved = cast.remedies.find((r) => r.id === id);
  if (!moved) return cast;
  const rest = withoutRemedy(cast, id).remedies;
  return { ...cast, remedies: [...rest.slice(0, to), moved, ...rest.slice(to)] };
}

export function newCast(): Cast {
  return {
    id: newId(),
    name: '',
    on: true,
    pairs: [],
    guards: [],
    touches: [],
    mask: { parts: [], refine: NO_REFINE },
    link: null,
    finding: null,
    remedies: [newRemedy('neutralise', MID_GREY)],
    after_look: false,
  };
}

export const NO_REFINE: Refine = KINDS.refine;

export function newRamp(full: Vector, none: Vector): Ramp {
  return newPart('ramp', { full, none });
}

export function newOval(centre: Vector, radii: Vector): Oval {
  return newPart('oval', { centre, radii });
}

export function newPath(nodes: PathNode[]): Path {
  return newPart('path', { nodes });
}

export function newSnap(loop: Vector[]): Snap {
  return newPart('snap', { loop });
}

export function newSimilar(seed: Vector): Similar {
  return newPart('similar', { seeds: [seed] });
}

export function newLent(cast: string): Lent {
  return newPart('lent', { cast });
}

/** A kept key as a part of a mask. */
export function newKey({ hue, saturation, luminance, left_out }: NamedKey): ColourKey {
  return newPart('colour-key', { hue, saturation, luminance, left_out });
}

/** Only the range of luminance counts. */
export function newLuminanceRange(): ColourKey {
  const any: Range = { on: false, core: [0, 100], fade: [0, 0] };
  const luminance: Range = { on: true, core: [40, 70], fade: [15, 15] };
  return newKey({ name: '', hue: any, saturation: any, luminance, left_out: [] });
}

/** Each cast with its letter. */
export function lettered(recipe: Recipe): { cast: Cast; letter: string }[] {
  return recipe.casts.map((cast, i) => ({ cast, letter: letterOf(i) }));
}

/** The casts whose masks use that of a cast. */
export function borrowersOf(recipe: Recipe, castId: string): Cast[] {
  return recipe.casts.filter((c) => c.mask.parts.some((p) => isLent(p) && p.cast === castId));
}

/** Whether a cast's mask depends on another's, in however many steps. */
export function dependsOn(recipe: Recipe, castId: string, other: string): boolean {
  const cast = recipe.casts.find((c) => c.id === castId);
  const lenders = cast?.mask.parts.filter(isLent).map((p) => p.cast) ?? [];
  return lenders.some((id) => id === other || dependsOn(recipe, id, other));
}

export function changeCast(recipe: Recipe, id: string, change: (cast: Cast) => Cast): Recipe {
  return { ...recipe, casts: recipe.casts.map((c) => (c.id === id ? change(c) : c)) };
}

function withParts(cast: Cast, parts: Part[]): Cast {
  return { ...cast, mask: { ...cast.mask, parts } };
}

/** The part once more, behind itself. */
export function withPartTwice(cast: Cast, id: string, newPartId: string): Cast {
  const twice = (p: Part): Part[] => (p.id === id ? [p, { ...p, id: newPartId }] : [p]);
  return withParts(cast, cast.mask.parts.flatMap(twice));
}

/** A cast for exactly what another's mask leaves, however that changes. */
export function castOfTheRest(cast: Cast): Cast {
  const rest: Lent = { ...newLent(cast.id), invert: true };
  return { ...newCast(), mask: { parts: [rest], refine: NO_REFINE } };
}

/** A cast under the same mask as another, however that changes. */
export function castWithin(cast: Cast): Cast {
  return { ...newCast(), mask: { parts: [newLent(cast.id)], refine: NO_REFINE } };
}

export function changePart(cast: Cast, id: string, change: (part: Part) => Part): Cast {
  return withParts(
    cast,
    cast.mask.parts.map((p) => (p.id === id ? change(p) : p)),
  );
}

export function withPart(cast: Cast, part: Part): Cast {
  const first = cast.mask.parts.length === 0;
  return withParts(cast, [...cast.mask.parts, first ? { ...part, join: 'add' } : part]);
}

/** The part that becomes first joins nothing, so it adds. */
export function withoutPart(cast: Cast, id: string): Cast {
  const parts = cast.mask.parts.filter((p) => p.id !== id);
  return withParts(
    cast,
    parts.map((p, i) => (i ? p : { ...p, join: 'add' })),
  );
}

export function withStroke(part: Brush, stroke: Stroke): Brush {
  return { ...part, strokes: [...part.strokes, stroke] };
}

/** Every remedy that acts, at a share of its amount, rounded to whole per cents. */
export function withLess(cast: Cast, share: number): Cast {
  const less = (r: Remedy): Remedy =>
    r.on ? { ...r, amount: Math.floor(r.amount * share * 100) / 100 } : r;
  return { ...cast, remedies: cast.remedies.map(less) };
}

/** All of the cast, by what neutralises it. */
export function withAmount(cast: Cast, amount: number): Cast {
  const all = (r: Remedy): Remedy => (r.kind === 'neutralise' && r.on ? { ...r, amount } : r);
  return { ...cast, remedies: cast.remedies.map(all) };
}

/** The same amount in more of the mask: half as much as each pixel seems to carry. */
export function withLessFollowing(cast: Cast): Cast {
  const even = (r: Remedy): Remedy =>
    r.kind === 'neutralise' && r.on ? { ...r, follow: Math.round(r.follow * 50) / 100 } : r;
  return { ...cast, remedies: cast.remedies.map(even) };
}

const SOFTER = 0.006; // of the long edge
const SOFTEST = 0.05;

export function withSofterMask(cast: Cast): Cast {
  const { refine } = cast.mask;
  const soften = Math.min(refine.soften + SOFTER, SOFTEST);
  return { ...cast, mask: { ...cast.mask, refine: { ...refine, soften } } };
}

export function waitingPair(cast: Cast): Pair | undefined {
  return cast.pairs.find((p) => !p.reference);
}

export function withTainted(cast: Cast, tainted: Sample): Cast {
  const pair: Pair = { id: newId(), tainted, reference: null, level: false, second: false };
  return { ...cast, pairs: [...cast.pairs, pair] };
}

export function changePair(cast: Cast, id: string, change: (pair: Pair) => Pair): Cast {
  return { ...cast, pairs: cast.pairs.map((p) => (p.id === id ? change(p) : p)) };
}

/** level: whether the reference counts under as much light as the sample has. */
export function withReference(cast: Cast, pairId: string, reference: Sample, level: boolean): Cast {
  return changePair(cast, pairId, (p) => ({ ...p, reference, level }));
}

export function withoutPair(cast: Cast, id: string): Cast {
  return { ...cast, pairs: cast.pairs.filter((p) => p.id !== id) };
}

/** The pair that the next reference is for. */
export function pairToRefer(cast: Cast): Pair | undefined {
  return waitingPair(cast) ?? cast.pairs.at(-1);
}

export function withGuard(cast: Cast, sample: Sample): Cast {
  const guard: Guard = { id: newId(), sample };
  return { ...cast, guards: [...cast.guards, guard] };
}

export function withTouch(cast: Cast, touch: Touch): Cast {
  return { ...cast, touches: [...cast.touches, touch] };
}

export function changeTouch(cast: Cast, id: string, change: (touch: Touch) => Touch): Cast {
  return { ...cast, touches: cast.touches.map((t) => (t.id === id ? change(t) : t)) };
}

export function withoutTouch(cast: Cast, id: string): Cast {
  return { ...cast, touches: cast.touches.filter((t) => t.id !== id) };
}

export type Role = 'tainted' | 'reference' | 'keep';

/** Which sample of a cast: of a pair, or the guard of that id. */
export interface Whose {
  id: string;
  role: Role;
}

export function sampleOf(cast: Cast, { id, role }: Whose): Sample | null | undefined {
  if (role === 'keep') return cast.guards.find((g) => g.id === id)?.sample;
  return cast.pairs.find((p) => p.id === id)?.[role];
}

export function changeSample(cast: Cast, whose: Whose, change: (sample: Sample) => Sample): Cast {
  const { id, role } = whose;
  if (role === 'keep') {
    const guards = cast.guards.map((g) => (g.id === id ? { ...g, sample: change(g.sample) } : g));
    return { ...cast, guards };
  }
  return changePair(cast, id, (pair) => {
    const sample = pair[role];
    return sample ? { ...pair, [role]: change(sample) } : pair;
  });
}

/** Without a sample: a pair goes with its tainted one, and waits again without its reference. */
export function withoutSample(cast: Cast, { id, role }: Whose): Cast {
  if (role === 'tainted') return withoutPair(cast, id);
  if (role === 'reference') return changePair(cast, id, (p) => ({ ...p, reference: null }));
  return { ...cast, guards: cast.guards.filter((g) => g.id !== id) };
}

export interface Marked extends Whose {
  sample: Sample;
  number: number;
}

/** The samples, numbered in the order of the list; references only if they have a place. */
export function markedSamples(cast: Cast): Marked[] {
  const marked: Marked[] = [];
  const mark = (id: string, role: Role, sample: Sample | null | undefined) => {
    if (sample) marked.push({ id, role, sample, number: marked.length + 1 });
  };
  for (const pair of cast.pairs) {
    mark(pair.id, 'tainted', pair.tainted);
    if (pair.reference?.at) mark(pair.id, 'reference', pair.reference);
  }
  for (const guard of cast.guards) mark(guard.id, 'keep', guard.sample);
  return marked;
}

export function numberOf(cast: Cast, sample: Sample | null | undefined): number | null {
  return markedSamples(cast).find((m) => m.sample === sample)?.number ?? null;
}

export function isSnap(part: Part | undefined): part is Snap {
  return part?.kind === 'snap';
}

export function isSimilar(part: Part | undefined): part is Similar {
  return part?.kind === 'similar';
}

export function isLent(part: Part): part is Lent {
  return part.kind === 'lent';
}

export function isPerson(part: Part | undefined): part is PersonPart {
  return part?.kind === 'people';
}

export function isBrush(part: Part | undefined): part is Brush {
  return part?.kind === 'brush';
}

export function isColourKey(part: Part | undefined): part is ColourKey {
  return part?.kind === 'colour-key';
}
