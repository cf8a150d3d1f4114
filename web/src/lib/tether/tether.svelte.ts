import { ApiError, call, reasonOf } from '../api/client';
import type { Photo, Shoot, Watch } from '../api/types';

const EVERY_MS = 1000;

/** A shoot's watched folder, and the simulated camera on its cable. */
export class Tether {
  shoot = $state.raw<Shoot | null>(null);
  watch = $state.raw<Watch | null>(null);
  trouble = $state('');
  /** Seconds between two exposures, 0 for one at a time. */
  every = $state(0);
  exposing = $state(false);
  #asking = 0;
  #exposing = 0;
  #closed = false;

  constructor(readonly shootId: number) {}

  get #path(): { shoot_id: number } {
    return { shoot_id: this.shootId };
  }

  /** The photo that arrived last. */
  get last(): Photo | null {
    return this.watch?.arrivals.find((a) => a.photo)?.photo ?? null;
  }

  async load(): Promise<void> {
    try {
      this.shoot = await call('get', '/api/shoots/{shoot_id}', { path: this.#path });
      await this.#ask();
    } catch (error) {
      const gone = error instanceof ApiError && error.status === 404;
      this.trouble = gone ? 'There is no such shoot' : reasonOf(error);
    }
  }

  close(): void {
    this.#closed = true;
    clearTimeout(this.#asking);
    clearTimeout(this.#exposing);
  }

  async #ask(): Promise<void> {
    clearTimeout(this.#asking);
    await this.#attempt(async () => {
      this.watch = await call('get', '/api/shoots/{shoot_id}/watch', { path: this.#path });
    });
    if (!this.#closed) this.#asking = window.setTimeout(() => void this.#ask(), EVERY_MS);
  }

  /** Watch the folder, with the treatment of a photo laid on what arrives, or none. */
  begin(source: number | null): Promise<void> {
    return this.#attempt(async () => {
      const question = { path: this.#path, body: { source } };
      this.watch = await call('put', '/api/shoots/{shoot_id}/watch', question);
    });
  }

  end(): Promise<void> {
    this.repeat(0);
    return this.#attempt(async () => {
      this.watch = await call('delete', '/api/shoots/{shoot_id}/watch', { path: this.#path });
    });
  }

  async press(): Promise<void> {
    if (this.exposing) return;
    this.exposing = true;
    await this.#attempt(async () => {
      await call('post', '/api/shoots/{shoot_id}/camera', { path: this.#path });
    });
    this.exposing = false;
  }

  /** One exposure every so many seconds, as long as the page is open; 0 stops. */
  repeat(seconds: number): void {
    this.every = seconds;
    clearTimeout(this.#exposing);
    if (!seconds) return;
    const again = async (): Promise<void> => {
      await this.press();
      if (this.every && !this.#closed)
        this.#exposing = window.setTimeout(() => void again(), 1000 * this.every);
    };
    void again();
  }

  async #attempt(work: () => Promise<void>): Promise<void> {
    try {
      await work();
      this.trouble = '';
    } catch (error) {
      this.trouble = reasonOf(error);
      this.every = 0;
    }
  }
}
