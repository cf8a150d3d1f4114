import { call } from '../api/client';
import { LatestWins } from '../api/latest-wins';
import type { Box, Recipe, Scopes, Vector } from '../api/types';

export type Instrument = 'scope' | 'ab' | 'levels' | 'pairs';
export type Area = 'photo' | 'mask' | 'box';
export type Zoom = 1 | 2 | 4;

interface Wanted {
  recipe: Recipe;
  cast: string | null;
  box: Box | null;
  skin_at: Vector | null;
  zoom: Zoom;
}

/** What the instruments are set to, and what the engine read last. */
export class ScopeReader {
  instrument = $state<Instrument>('scope');
  area = $state<Area>('photo');
  zoom = $state<Zoom>(2);
  /** The rectangle being or last dragged, fractions of the long edge. */
  box = $state.raw<Box | null>(null);
  skinAt = $state.raw<Vector | null>(null);
  read = $state.raw<Scopes | null>(null);
  #latest: LatestWins<Wanted>;

  constructor(readonly photoId: number) {
    this.#latest = new LatestWins((wanted) => this.#read(wanted));
  }

  /** Skin is judged in the vectorscope, enlarged about the line on which it lies. */
  lookAtSkin(at: Vector | null): void {
    this.instrument = 'scope';
    this.zoom = 4;
    this.skinAt = at;
  }

  /** What can be read of the area asked for. */
  areaFor(castId: string | null): Area {
    return this.area === 'mask' && !castId ? 'photo' : this.area;
  }

  want(recipe: Recipe, castId: string | null): void {
    const area = this.areaFor(castId);
    this.#latest.want({
      recipe,
      cast: area === 'mask' ? castId : null,
      box: area === 'box' ? this.box : null,
      skin_at: this.skinAt,
      zoom: this.zoom,
    });
  }

  async #read(wanted: Wanted): Promise<void> {
    try {
      this.read = await call('post', '/api/photos/{photo_id}/scopes', {
        path: { photo_id: this.photoId },
        body: wanted,
      });
    } catch {
      // An instrument that cannot be read keeps what it showed; the picture will tell what is wrong.
    }
  }
}
