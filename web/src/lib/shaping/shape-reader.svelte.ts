import { untrack } from 'svelte';
import { call } from '../api/client';
import { LatestWins } from '../api/latest-wins';
import type { Recipe, Shaping, Vector } from '../api/types';
import type { Studio } from '../studio/studio.svelte';

interface Asked {
  recipe: Recipe;
  cast: string;
  remedy: string;
}

/** What the chosen remedy is set over, read anew whenever the recipe changes. Made by a component. */
export class ShapeReader {
  read = $state.raw<Shaping | null>(null);

  constructor(studio: Studio) {
    const asked = new LatestWins<Asked>(async (body) => {
      await studio.attempt(async () => {
        const path = { photo_id: studio.photo.id };
        this.read = await call('post', '/api/photos/{photo_id}/shaping', { path, body });
      });
    });
    $effect(() => {
      const { recipe, castId } = studio;
      const remedy = studio.remedy?.id;
      if (castId && remedy) untrack(() => asked.want({ recipe, cast: castId, remedy }));
    });
  }
}

/** OKLab lightness, a, b of a place, as the chosen remedy finds it. */
export async function colourAt(
  studio: Studio,
  at: Vector,
): Promise<[number, number, number] | null> {
  const { recipe, castId } = studio;
  const remedy = studio.remedy?.id;
  if (!castId || !remedy) return null;
  const path = { photo_id: studio.photo.id };
  const body = { recipe, cast: castId, remedy, at };
  return (await call('post', '/api/photos/{photo_id}/shaping', { path, body })).at;
}
