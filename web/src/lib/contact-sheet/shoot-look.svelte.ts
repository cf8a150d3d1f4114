import { call } from '../api/client';
import type { Job } from '../api/types';
import { Following, worthTelling } from '../jobs/following.svelte';

/** Looking for casts at the photos of a shoot. */
export class ShootLook {
  readonly following = new Following((job) => this.#note(job));
  #noted = 0;

  /** onlooked: told of each photo that was looked at. */
  constructor(
    readonly shootId: number,
    readonly onlooked: (photo: number) => void,
  ) {}

  /** At some photos, or at all. */
  async start(photos: number[] = []): Promise<void> {
    const params = { path: { shoot_id: this.shootId }, query: { photos: photos.join(',') } };
    this.#noted = 0;
    await this.following.follow(call('post', '/api/shoots/{shoot_id}/look', params));
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
    const upto = job.over ? job.photos.length : job.done;
    for (const id of job.photos.slice(this.#noted, upto)) this.onlooked(id);
    this.#noted = Math.max(this.#noted, upto);
  }
}
