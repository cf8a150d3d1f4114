import { call } from '../api/client';
import { LatestWins } from '../api/latest-wins';
import type { MeasuredPlace, Recipe, Vector } from '../api/types';

/** Measures places: where the pointer is, and where a sample is taken. */
export class Probe {
  /** Of a sample, as a fraction of the long edge. */
  radius = $state(0.0025);
  /** Where the pointer is on the photo, and what the engine measured there last. */
  place = $state.raw<Vector | null>(null);
  measured = $state.raw<MeasuredPlace | null>(null);
  #latest = new LatestWins<Vector>((at) => this.#readHere(at));

  constructor(
    readonly photoId: number,
    readonly recipe: () => Recipe | undefined,
    /** Whether the pixels around are wanted too, for the loupe. */
    readonly patch: () => boolean,
  ) {}

  hover(at: Vector | null): void {
    this.place = at;
    if (at) this.#latest.want(at);
    else this.measured = null;
  }

  /** The recipe has changed under the pointer. */
  refresh(): void {
    if (this.place) this.#latest.want(this.place);
  }

  measure(at: Vector, radius = this.radius, more: object = {}): Promise<MeasuredPlace> {
    return call('post', '/api/photos/{photo_id}/measure', {
      path: { photo_id: this.photoId },
      body: { at, radius, ...more },
    });
  }

  async #readHere(at: Vector): Promise<void> {
    try {
      const more = { patch: this.patch(), recipe: this.recipe() };
      const measured = await this.measure(at, this.radius, more);
      if (this.place) this.measured = measured;
    } catch {
      // A readout that cannot be had is simply not shown.
      this.measured = null;
    }
  }
}
