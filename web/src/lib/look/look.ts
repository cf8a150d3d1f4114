import type { Cast, Look, Part, Recipe, TableFile } from '../api/types';
import { newCast } from '../recipe/edit';
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

/** A cast after the look that brings what a mask finds back to how it was before it. */
export function savingCast(name: string, parts: Part[]): Cast {
  const cast = newCast();
  const restore = { ...newRemedy('restore', NO_AIM), to: 'before-look', colour_only: true };
  return {
    ...cast,
    name,
    after_look: true,
    mask: { ...cast.mask, parts },
    remedies: [restore as Cast['remedies'][number]],
  };
}

/** A cast put before another or last, before or after the look; the list is kept in the order of treatment. */
export function castPut(recipe: Recipe, id: string, before: string | null, after: boolean): Recipe {
  const cast = recipe.casts.find((c) => c.id === id);
  if (!cast) return recipe;
  const rest = recipe.casts.filter((c) => c.id !== id);
  const side = rest.filter((c) => c.after_look === after);
  const at = side.findIndex((c) => c.id === before);
  side.splice(at < 0 ? side.length : at, 0, { ...cast, after_look: after });
  const other = rest.filter((c) => c.after_look !== after);
  return { ...recipe, casts: after ? [...other, ...side] : [...side, ...other] };
}

/** A cast one place earlier (-1) or later (1); past the end of its side, and with a look, across it. */
export function castMoved(recipe: Recipe, id: string, by: -1 | 1): Recipe {
  const cast = recipe.casts.find((c) => c.id === id);
  if (!cast) return recipe;
  const side = recipe.casts.filter((c) => c.after_look === cast.after_look);
  const to = side.findIndex((c) => c.id === id) + by;
  if (to >= 0 && to < side.length) {
    const before = side[by > 0 ? to + 1 : to]?.id ?? null;
    return castPut(recipe, id, before, cast.after_look);
  }
  if (!recipe.look || cast.after_look === by > 0) return recipe;
  const first = recipe.casts.find((c) => c.after_look)?.id ?? null;
  return castPut(recipe, id, by > 0 ? first : null, by > 0);
}
