import { describe, expect, it } from 'vitest';
import type { Recipe } from '../api/types';
import { newCast } from '../recipe/edit';
import { changedLook, withLook, withoutLook } from './look';

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
