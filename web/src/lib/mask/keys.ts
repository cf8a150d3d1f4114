import { call, type Question } from '../api/client';
import type { ColourKey, Photo, Recipe, Sample } from '../api/types';

/** Of what colours are spoken. */
export interface Here {
  photo: Photo;
  recipe: Recipe;
}

type Asked = Omit<Question<'post', '/api/photos/{photo_id}/key'>['body'], 'base'>;

export function askKey({ photo, recipe }: Here, asked: Asked): Promise<ColourKey> {
  const body = { base: recipe.base, ...asked };
  return call('post', '/api/photos/{photo_id}/key', { path: { photo_id: photo.id }, body });
}

/** A key that takes colours in; spacious: how much wider than usual. */
export function keyAround(
  here: Here,
  id: string,
  colours: Sample['rgb'][],
  spacious = 1,
): Promise<ColourKey> {
  return askKey(here, { id, colours, spacious });
}
