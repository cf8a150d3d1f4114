import { describe, expect, it } from 'vitest';
import document from '../../../../core/tests/recipes/numbered.json';
import numbers from '../../../../core/tests/recipes/numbers.json';
import type { Cast, Recipe, Sample } from '../api/types';
import * as edit from './edit';
import { capital, letterOf, nameOf, newPart, newRemedy } from './kinds';

const sample = (x: number): Sample => ({
  at: [x, 0.2],
  further: [],
  radius: 0.01,
  rgb: [0.4, 0.3, 0.2],
  spread: 1,
  count: 9,
  kind: null,
  origin: 'made',
  name: '',
});

function castWith(more: Partial<Cast> = {}): Cast {
  return { ...edit.newCast(), ...more };
}

function recipeOf(...casts: Cast[]): Recipe {
  const base = {} as Recipe['base'];
  return {
    format: 'nubilis-recipe',
    version: 6,
    base,
    casts,
    look: null,
    dismissed: [],
    answered: false,
  };
}

describe('letters and names', () => {
  it('go on after Z, and are nothing for what is not there', () => {
    expect([0, 25, 26, 51].map(letterOf)).toEqual(['A', 'Z', 'AA', 'AZ']);
    expect([-1, 52].map(letterOf)).toEqual(['', '']);
  });

  it('are those of the core', () => {
    expect(nameOf(newRemedy('even-out', [0, 0, 0]))).toBe('Even out');
    expect(capital('')).toBe('');
  });
});

describe('what is new', () => {
  it('rests as the core says, with an id of its own', () => {
    const [one, two] = [newPart('similar', { seeds: [[0.1, 0.2]] }), newPart('similar')];
    expect(one).toMatchObject({ tolerance: 14, fade: 0.5, join: 'add', on: true, strength: 1 });
    expect(one.seeds).toEqual([[0.1, 0.2]]);
    expect(one.id).not.toBe(two.id);
    expect(one.id).toMatch(/^[0-9a-f]{10}$/);
  });

  it('aims only where its kind does', () => {
    expect(newRemedy('even-out', [1, 2, 3])).toMatchObject({ target: [1, 2, 3], hue: 0.6 });
    expect(newRemedy('neutralise', [1, 2, 3])).not.toHaveProperty('target');
  });

  it('shares nothing with the next one', () => {
    const [one, two] = [newPart('brush'), newPart('brush')];
    expect(one.strokes).not.toBe(two.strokes);
  });
});

describe('parts', () => {
  const [a, b, c] = ['oval', 'ramp', 'whole'].map((kind) => newPart(kind as 'whole'));
  const three = castWith({
    mask: { parts: [a!, { ...b!, join: 'subtract' }, c!], refine: edit.NO_REFINE },
  });

  it('add when they become first', () => {
    const left = edit.withoutPart(three, a!.id).mask.parts;
    expect(left.map((p) => [p.id, p.join])).toEqual([
      [b!.id, 'add'],
      [c!.id, 'add'],
    ]);
    expect(edit.withPart(castWith(), { ...b!, join: 'intersect' }).mask.parts[0]?.join).toBe('add');
  });

  it('can stand twice, one behind the other', () => {
    const twice = edit.withPartTwice(three, b!.id, 'again').mask.parts.map((p) => p.id);
    expect(twice).toEqual([a!.id, b!.id, 'again', c!.id]);
  });

  it('change alone', () => {
    const changed = edit.changePart(three, b!.id, (p) => ({ ...p, strength: 0.5 })).mask.parts;
    expect(changed.map((p) => p.strength)).toEqual([1, 0.5, 1]);
    expect(changed[0]).toBe(a);
  });
});

describe('masks that are borrowed', () => {
  const one = castWith();
  const two = castWith({
    mask: { parts: [edit.newLent(one.id)], refine: edit.NO_REFINE },
  });
  const three = castWith({
    mask: { parts: [edit.newLent(two.id)], refine: edit.NO_REFINE },
  });
  const recipe = recipeOf(one, two, three);

  it('are known, over any number of steps', () => {
    expect(edit.dependsOn(recipe, three.id, one.id)).toBe(true);
    expect(edit.dependsOn(recipe, one.id, three.id)).toBe(false);
    expect(edit.borrowersOf(recipe, one.id)).toEqual([two]);
  });

  it('leave exactly the rest to a cast of the rest', () => {
    const [part] = edit.castOfTheRest(one).mask.parts;
    expect(part).toMatchObject({ kind: 'lent', cast: one.id, invert: true });
  });
});

describe('remedies', () => {
  it('move one place, and no further than the ends', () => {
    const ids = (cast: Cast) => cast.remedies.map((r) => r.kind);
    const cast = edit.withRemedy(edit.withRemedy(castWith(), 'shift'), 'restore');
    const [first, , last] = cast.remedies;
    expect(ids(edit.movedRemedy(cast, last!.id, -1))).toEqual(['neutralise', 'restore', 'shift']);
    expect(ids(edit.movedRemedy(cast, first!.id, -1))).toEqual(ids(cast));
    expect(ids(edit.movedRemedy(cast, last!.id, 1))).toEqual(ids(cast));
  });

  it('aim at the first reference, else at the first sample', () => {
    const pair = edit.withTainted(castWith(), sample(0.1));
    expect(edit.withRemedy(pair, 'even-out').remedies.at(-1)).toMatchObject({
      target: [0.4, 0.3, 0.2],
    });
  });

  it('do less in whole per cents, and only those that act', () => {
    const cast = edit.withRemedy(castWith(), 'shift');
    const off = cast.remedies.map((r, i) => ({ ...r, on: i === 0, amount: 0.777 }));
    const all = edit.withAmount({ ...cast, remedies: off }, 1).remedies;
    expect(all.filter((r) => r.kind === 'neutralise' && r.on).every((r) => r.amount === 1)).toBe(
      true,
    );
    const even = edit.withLessFollowing(cast).remedies.find((r) => r.kind === 'neutralise');
    expect(even).toMatchObject({ follow: 0.5 });
    const less = edit.withLess({ ...cast, remedies: off }, 0.5).remedies.map((r) => r.amount);
    expect(less).toEqual([0.38, 0.777]);
  });
});

describe('samples', () => {
  const cast = edit.withGuard(
    edit.withTainted(
      edit.withReference({ ...edit.withTainted(castWith(), sample(0.1)) }, '', sample(0.9), false),
      sample(0.3),
    ),
    sample(0.5),
  );
  const [first, second] = cast.pairs;

  it('wait for a reference, the first pair first', () => {
    expect(edit.pairToRefer(cast)).toBe(first);
    const referred = edit.withReference(cast, first!.id, sample(0.9), true);
    expect(edit.pairToRefer(referred)).toBe(second);
    expect(referred.pairs[0]).toMatchObject({ level: true });
  });

  it('are numbered in the order of the list, references only with a place', () => {
    const made = { ...sample(0), at: null };
    const one = edit.withReference(cast, first!.id, sample(0.9), false);
    const two = edit.withReference(one, second!.id, made, false);
    expect(edit.markedSamples(two).map((m) => [m.role, m.number])).toEqual([
      ['tainted', 1],
      ['reference', 2],
      ['tainted', 3],
      ['keep', 4],
    ]);
    expect(edit.numberOf(two, made)).toBeNull();
  });

  it('have the numbers that the core gives them', () => {
    const numbered = document.casts[0] as unknown as Cast;
    const own = edit.markedSamples(numbered).filter((m) => m.role !== 'reference');
    const told = Object.fromEntries(own.map((m) => [m.id, String(m.number)]));
    expect(told).toEqual(numbers);
  });

  it('go with their pair, and a pair waits again without its reference', () => {
    const referred = edit.withReference(cast, first!.id, sample(0.9), false);
    const whose = { id: first!.id, role: 'reference' } as const;
    expect(edit.withoutSample(referred, whose).pairs[0]?.reference).toBeNull();
    expect(edit.withoutSample(referred, { ...whose, role: 'tainted' }).pairs).toHaveLength(1);
    const [guard] = cast.guards;
    expect(edit.withoutSample(cast, { id: guard!.id, role: 'keep' }).guards).toEqual([]);
  });

  it('change where they are, and nowhere else', () => {
    const whose = { id: first!.id, role: 'reference' } as const;
    expect(edit.changeSample(cast, whose, () => sample(1))).toEqual(cast);
    const moved = edit.changeSample(cast, { ...whose, role: 'tainted' }, () => sample(0.7));
    expect(edit.sampleOf(moved, { ...whose, role: 'tainted' })?.at).toEqual([0.7, 0.2]);
    expect(moved.pairs[1]).toBe(second);
  });
});

describe('documents', () => {
  it('are the same when they say the same', () => {
    expect(edit.same({ a: [1] }, { a: [1] })).toBe(true);
    expect(edit.same({ a: [1] }, { a: [2] })).toBe(false);
  });

  it('soften by steps, and no further than the core allows', () => {
    let cast = castWith();
    for (let i = 0; i < 20; i++) cast = edit.withSofterMask(cast);
    expect(cast.mask.refine.soften).toBe(0.05);
  });
});
