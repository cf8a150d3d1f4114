import { describe, expect, it } from 'vitest';
import type { Recipe } from '../api/types';
import { newCast } from '../recipe/edit';
import { castMoved, castPut, changedLook, withLook, withoutLook } from './look';

const table = { sha256: 'a'.repeat(64), name: 'Matinee' };
const recipe = { casts: [{ ...newCast(), after_look: true }], look: null } as unknown as Recipe;

describe('a look', () => {
  it('is laid at full strength, and another takes its place at the same', () => {
    const laid = changedLook(withLook(recipe, table), { amount: 0.4, on: false });
    const other = withLook(laid, { ...table, name: 'Plaster' });
    expect(other.look).toMatchObject({ amount: 0.4, on: true, table: { name: 'Plaster' } });
  });

  it('is taken away with the place of the casts after it', () => {
    const bare = withoutLook(withLook(recipe, table));
    expect(bare.look).toBeNull();
    expect(bare.casts[0]?.after_look).toBe(false);
    expect(changedLook(bare, { amount: 0.2 })).toBe(bare);
  });
});

describe('the order of casts round a look', () => {
  const names = (r: Recipe) => r.casts.map((c) => c.name + (c.after_look ? "'" : '')).join('');
  const cast = (name: string, after_look = false) => ({ ...newCast(), id: name, name, after_look });
  const casts = [cast('a'), cast('b'), cast('c', true)];
  const laid = withLook({ casts, look: null } as unknown as Recipe, table);

  it('puts one before another or last, on either side', () => {
    expect(names(castPut(laid, 'b', 'a', false))).toBe("bac'");
    expect(names(castPut(laid, 'a', 'c', true))).toBe("ba'c'");
    expect(names(castPut(laid, 'c', null, false))).toBe('abc');
  });

  it('moves one place by place, and across the look', () => {
    expect(names(castMoved(laid, 'a', 1))).toBe("bac'");
    expect(names(castMoved(laid, 'b', 1))).toBe("ab'c'");
    expect(names(castMoved(laid, 'c', -1))).toBe('abc');
    expect(castMoved(laid, 'a', -1)).toBe(laid);
    expect(castMoved(laid, 'c', 1)).toBe(laid);
    const bare = { ...laid, look: null };
    expect(castMoved(bare, 'b', 1)).toBe(bare);
  });
});
