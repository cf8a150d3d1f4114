import { call, reasonOf } from '../api/client';
import type { Job, SheetsKnown } from '../api/types';
import { Following, worthTelling } from '../jobs/following.svelte';

/** Has the proof sheets of a shoot's treated photos made. */
export class SheetMaker {
  known = $state.raw<SheetsKnown | null>(null);
  trouble = $state('');
  readonly following = new Following((job) => {
    if (job.over) void this.#count();
  });

  constructor(readonly shootId: number) {}

  get #path(): { shoot_id: number } {
    return { shoot_id: this.shootId };
  }

  async load(): Promise<void> {
    await this.#count();
    await this.#attempt(async () => {
      const jobs = await call('get', '/api/shoots/{shoot_id}/jobs', { path: this.#path });
      const job: Job | undefined = worthTelling(jobs, 'prove');
      if (job && !this.following.running) await this.following.follow(Promise.resolve(job));
    });
  }

  async make(): Promise<void> {
    const path = this.#path;
    await this.following.follow(call('post', '/api/shoots/{shoot_id}/sheets', { path }));
  }

  async #count(): Promise<void> {
    await this.#attempt(async () => {
      this.known = await call('get', '/api/shoots/{shoot_id}/sheets', { path: this.#path });
    });
  }

  async #attempt(work: () => Promise<void>): Promise<void> {
    try {
      await work();
      this.trouble = '';
    } catch (error) {
      this.trouble = reasonOf(error);
    }
  }
}
