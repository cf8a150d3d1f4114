import { call } from '../api/client';
import type { RecipeState, VersionEntry } from '../api/types';
import type { Studio } from '../studio/studio.svelte';

/** The states of a photo's recipe that are kept under names. */
export class Versions {
  all = $state.raw<VersionEntry[]>([]);
  /** The one that is shown in place of the present. */
  flippedId = $state<number | null>(null);

  constructor(readonly studio: Studio) {}

  get flipped(): VersionEntry | undefined {
    return this.all.find((v) => v.id === this.flippedId);
  }

  get #path(): string {
    return `/photos/${this.studio.photo.id}/versions`;
  }

  async load(): Promise<void> {
    this.all = await call<VersionEntry[]>('GET', this.#path);
  }

  /** Keep the present under a name. */
  keep(name: string): Promise<boolean> {
    return this.#attempt(async () => {
      await this.studio.saver.settled();
      await call('POST', this.#path, { name });
    });
  }

  rename(id: number, name: string): Promise<boolean> {
    return this.#attempt(() => call('PUT', `${this.#path}/${id}`, { name }));
  }

  remove(id: number): Promise<boolean> {
    return this.#attempt(async () => {
      await call('DELETE', `${this.#path}/${id}`);
      if (this.flippedId === id) this.flippedId = null;
    });
  }

  /** Work on from a version; the present is one undo away. */
  take(id: number): Promise<boolean> {
    return this.#attempt(async () => {
      await this.studio.saver.settled();
      const { revision } = this.studio.saver;
      this.studio.adoptState(
        await call<RecipeState>('POST', `${this.#path}/${id}/take`, { revision }),
      );
      this.flippedId = null;
    });
  }

  /** Show the next one in place, or the one before; after the last comes the present again. */
  flip(by: 1 | -1): void {
    const stops = [null, ...this.all.map((v) => v.id)];
    const at = Math.max(stops.indexOf(this.flippedId), 0);
    this.flippedId = stops[(at + by + stops.length) % stops.length] ?? null;
  }

  #attempt(work: () => Promise<unknown>): Promise<boolean> {
    return this.studio.attempt(async () => {
      await work();
      await this.load();
    });
  }
}
