// Changes of a recipe, each as a new document. Nothing here computes colours.
import type {
  Brush,
  Cast,
  ColourKey,
  Guard,
  Guess,
  Lent,
  NamedKey,
  Oval,
  Pair,
  Part,
  Path,
  PathNode,
  Ramp,
  Range,
  Recipe,
  Refine,
  Remedy,
  Sample,
  Similar,
  Snap,
  Stroke,
  Vector,
} from '../api/types';

export function newId(): string {
  return Array.from(crypto.getRandomValues(new Uint8Array(5)), (b) =>
    b.toString(16).padStart(2, '0'),
  ).join('');
}

/** Whether two documents, or parts of them, say the same. */
export function same(one: unknown, two: unknown): boolean {
  return one === two || JSON.stringify(one) === JSON.stringify(two);
}

/** A, B … Z, AA, AB … */
export function letterOf(index: number): string {
  const last = String.fromCharCode(65 + (index % 26));
  return index < 26 ? last : letterOf(Math.floor(index / 26) - 1) + last;
}

export const REMEDY_NAMES: Record<Remedy['kind'], string> = {
  neutralise: 'Neutralise',
  match: 'Match',
  shift: 'Shift',
  'even-out': 'Even out',
  restore: 'Restore',
};

/** A remedy as it is added. Modest where it acts by itself, at rest where a hand must move it. */
export function newRemedy(kind: Remedy['kind'], target: Sample['rgb']): Remedy {
  const shared = { id: newId(), on: true, amount: 1 };
  switch (kind) {
    case 'neutralise':
      return { ...shared, kind, follow: 1, soften: 0, hold_lightness: 1 };
    case 'match':
      return {
        ...shared,
        kind,
        follow: 1,
        hold_neutrals: false,
        lighten: 1,
        darken: 1,
        hold_luminance: 1,
      };
    case 'shift':
      return { ...shared, kind, hue: 0, saturation: 0, luminance: 0 };
    case 'even-out':
      return { ...shared, kind, target, hue: 0.6, saturation: 0.3, lightness: 0 };
    case 'restore':
      return { ...shared, kind, colour_only: false };
  }
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

export function newCast(): Cast {
  return {
    id: newId(),
    name: '',
    on: true,
    pairs: [],
    guards: [],
    mask: { parts: [], refine: NO_REFINE },
    link: null,
    remedies: [newRemedy('neutralise', MID_GREY)],
  };
}

export const NO_REFINE: Refine = { clean: 0, grow: 0, follow: 0, soften: 0 };

const shared = { join: 'add', on: true, invert: false, strength: 1 } as const;

export function newBrush(): Brush {
  return { ...shared, id: newId(), kind: 'brush', strokes: [] };
}

export function newRamp(full: Vector, none: Vector): Ramp {
  return { ...shared, id: newId(), kind: 'ramp', full, none };
}

export function newOval(centre: Vector, radii: Vector): Oval {
  const rest = { angle: 0, inside: 0.3, outside: 0.3 };
  return { ...shared, id: newId(), kind: 'oval', centre, radii, ...rest };
}

export function newPath(nodes: PathNode[]): Path {
  return { ...shared, id: newId(), kind: 'path', nodes, feather: 0.02 };
}

export function newSnap(loop: Vector[]): Snap {
  return { ...shared, id: newId(), kind: 'snap', loop, this: [], other: [] };
}

export function newSimilar(seed: Vector): Similar {
  return { ...shared, id: newId(), kind: 'similar', seeds: [seed], tolerance: 14, fade: 0.5 };
}

export function newGuess(of: Guess['of']): Guess {
  return { ...shared, id: newId(), kind: 'guess', of };
}

export function newLent(cast: string): Lent {
  return { ...shared, id: newId(), kind: 'lent', cast };
}

/** A kept key as a part of a mask. */
export function newKey({ hue, saturation, luminance, left_out }: NamedKey): ColourKey {
  const ranges = { hue, saturation, luminance, left_out };
  return { ...shared, id: newId(), kind: 'colour-key', ...ranges, taken: [] };
}

/** Only the range of luminance counts. */
export function newLuminanceRange(): ColourKey {
  const any: Range = { on: false, core: [0, 100], fade: [0, 0] };
  const luminance: Range = { on: true, core: [40, 70], fade: [15, 15] };
  return newKey({ name: '', hue: any, saturation: any, luminance, left_out: [] });
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

export function newWhole(): Part {
  return { ...shared, id: newId(), kind: 'whole' };
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

export const PART_NAMES: Record<Part['kind'], string> = {
  path: 'Path',
  oval: 'Oval',
  ramp: 'Ramp',
  brush: 'Brush',
  'colour-key': 'Colour key',
  picture: 'Region',
  whole: 'Whole photo',
  snap: 'Object',
  similar: 'Similar',
  guess: 'Guess',
  lent: 'Mask of',
};

export function isSnap(part: Part | undefined): part is Snap {
  return part?.kind === 'snap';
}

export function isSimilar(part: Part | undefined): part is Similar {
  return part?.kind === 'similar';
}

export function isLent(part: Part): part is Lent {
  return part.kind === 'lent';
}

export function isBrush(part: Part | undefined): part is Brush {
  return part?.kind === 'brush';
}

export function isColourKey(part: Part | undefined): part is ColourKey {
  return part?.kind === 'colour-key';
}
