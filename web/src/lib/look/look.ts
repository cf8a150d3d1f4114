import type { Cast, Look, NamedKey, Recipe, TableFile } from '../api/types';
import { newCast, newKey } from '../recipe/edit';
import { newRemedy } from '../recipe/kinds';

const NO_AIM: [number, number, number] = [0.2, 0.2, 0.2];

/** A recipe with a table as its look; one that was laid keeps its strength. */
export function withLook(recipe: Recipe, table: TableFile): Recipe {
  const look: Look = recipe.look
    ? { ...recipe.look, on: true, table }
    : { id: 'look', kind: 'look', on: true, amount: 1, table };
  return { ...recipe, look };
}

export function withoutLook(recipe: Recipe): Recipe {
  return { ...recipe, look: null, casts: recipe.casts.map((c) => ({ ...c, after_look: false })) };
}

export function changedLook(recipe: Recipe, to: Partial<Look>): Recipe {
  return recipe.look ? { ...recipe, look: { ...recipe.look, ...to } } : recipe;
}

/** A cast after the look that brings what a key finds back to how it was before it. */
export function savingCast(name: string, key: NamedKey): Cast {
  const cast = newCast();
  const restore = { ...newRemedy('restore', NO_AIM), to: 'before-look', colour_only: true };
  return {
    ...cast,
    name,
    after_look: true,
    mask: { ...cast.mask, parts: [newKey(key)] },
    remedies: [restore as Cast['remedies'][number]],
  };
}
