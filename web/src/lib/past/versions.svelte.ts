import { call } from '../api/client';
import type { VersionEntry } from '../api/types';
import type { Editor } from '../studio/editor.svelte';

const ALL = '/api/photos/{photo_id}/versions';
const ONE = `${ALL}/{version_id}` as const;

/** The states of a photo's recipe that are kept under names. */
export class Versions {
  all = $state.raw<VersionEntry[]>([]);
  /** The one that is shown in place of the present. */
  flippedId = $state<number | null>(null);

  constructor(private readonly editor: Editor) {}

  get flipped(): VersionEntry | undefined {
    return this.all.find((v) => v.id === this.flippedId);
  }

  get #photo(): { photo_id: number } {
    return { photo_id: this.editor.photo.id };
  }

  async load(): Promise<void> {
    this.all = await call('get', ALL, { path: this.#photo });
  }

  /** Keep the present under a name. */
  keep(name: string): Promise<boolean> {
    return this.#attempt(async () => {
      await this.editor.saver.settled();
      await call('post', ALL, { path: this.#photo, body: { name } });
    });
  }

  rename(id: number, name: string): Promise<boolean> {
    return this.#attempt(() =>
      call('put', ONE, { path: { ...this.#photo, version_id: id }, body: { name } }),
    );
  }

  remove(id: number): Promise<boolean> {
    return this.#attempt(async () => {
      await call('delete', ONE, { path: { ...this.#photo, version_id: id } });
      if (this.flippedId === id) this.flippedId = null;
    });
  }

  /** Work on from a version; the present is one undo away. */
  take(id: number): Promise<boolean> {
    return this.#attempt(async () => {
      await this.editor.saver.settled();
      const { revision } = this.editor.saver;
      this.editor.adoptState(
        await call('post', `${ONE}/take`, {
          path: { ...this.#photo, version_id: id },
          body: { revision },
        }),
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
    return this.editor.attempt(async () => {
      await work();
      await this.load();
    });
  }
}
