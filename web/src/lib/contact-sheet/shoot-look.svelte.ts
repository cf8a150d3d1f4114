import { SvelteMap } from 'svelte/reactivity';
import { call, callInLines, reasonOf } from '../api/client';
import type { Photo, RecipeState } from '../api/types';

/** Looking for casts at one photo of a shoot after the other. */
export class ShootLook {
  /** Photos done, while looking. */
  done = $state<number | null>(null);
  total = $state(0);
  trouble = $state('');
  /** How often each photo was looked at here, so that its card asks for its dials again. */
  readonly looked = new SvelteMap<number, number>();
  #stop: AbortController | null = null;

  async start(photos: Photo[]): Promise<void> {
    const stop = (this.#stop = new AbortController());
    this.total = photos.length;
    this.done = 0;
    this.trouble = '';
    for (const photo of photos) {
      try {
        await this.#lookAt(photo.id, stop.signal);
        this.looked.set(photo.id, (this.looked.get(photo.id) ?? 0) + 1);
      } catch (error) {
        // One photo that cannot be looked at does not keep the others from it.
        if (!stop.signal.aborted) this.trouble = `${photo.title}: ${reasonOf(error)}`;
      }
      if (stop.signal.aborted) return;
      this.done += 1;
    }
    this.done = null;
  }

  cancel(): void {
    this.#stop?.abort();
    this.done = null;
  }

  async #lookAt(id: number, signal: AbortSignal): Promise<void> {
    const { recipe } = await call<RecipeState>('GET', `/photos/${id}/recipe`);
    if (signal.aborted) return;
    await callInLines(`/photos/${id}/look`, { recipe }, signal, (line) => {
      const { detail } = line as { detail?: string };
      if (detail) throw new Error(detail);
    });
  }
}
