import { SvelteMap } from 'svelte/reactivity';
import { call } from '../api/client';
import type { Job } from '../api/types';
import { Following, worthTelling } from '../jobs/following.svelte';

/** Looking for casts at all photos of a shoot. */
export class ShootLook {
  /** How often each photo was looked at here, so that its card asks for its dials again. */
  readonly looked = new SvelteMap<number, number>();
  readonly following = new Following((job) => this.#note(job));
  #noted = 0;

  constructor(readonly shootId: number) {}

  async start(): Promise<void> {
    const path = { shoot_id: this.shootId };
    this.#noted = 0;
    await this.following.follow(call('post', '/api/shoots/{shoot_id}/look', { path }));
  }

  async takeUp(): Promise<void> {
    this.#noted = 0;
    await this.following.takeUp();
  }

  /** Go on telling of what is under way since an earlier visit. */
  async resume(jobs: Job[]): Promise<void> {
    const job = worthTelling(jobs, 'look');
    this.#noted = job?.done ?? 0;
    if (job) await this.following.follow(Promise.resolve(job));
  }

  #note(job: Job): void {
    for (const id of job.photos.slice(this.#noted, job.done))
      this.looked.set(id, (this.looked.get(id) ?? 0) + 1);
    this.#noted = Math.max(this.#noted, job.done);
  }
}
