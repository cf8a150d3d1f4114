import { call, reasonOf } from '../api/client';
import type { BatchWords, Job, Order } from '../api/types';
import { Following, worthTelling } from '../jobs/following.svelte';
import { router } from '../router.svelte';
import type { Sheet } from './sheet.svelte';

const WORDS: Record<string, string> = {
  prove: 'Proving',
  treat: 'Treating',
  'deliver-set': 'Delivering',
};

/** Long work on the photos that are chosen; looking has its own place. */
export class ChosenWork {
  readonly following = new Following((job) => this.#over(job));
  trouble = $state('');
  /** Where what was made can be had. */
  made = $state<{ text: string; href: string; notes: string[] } | null>(null);

  /** What reports were asked of, whatever is chosen by the time they are there; none is all. */
  #proving: number[] = [];

  constructor(readonly sheet: Sheet) {}

  get #path(): { shoot_id: number } {
    return { shoot_id: this.sheet.shootId };
  }

  get reason(): string {
    return this.trouble || this.following.reason;
  }

  get text(): string {
    const { job } = this.following;
    if (!job) return '';
    if (job.cancelled) return 'Stopping';
    const word = WORDS[job.kind] ?? 'Working on';
    return `${word} ${Math.min(job.done + 1, job.total)} of ${job.total}`;
  }

  /** Go on telling of what is under way since an earlier visit. */
  async resume(jobs: Job[]): Promise<void> {
    for (const kind of ['deliver-set', 'prove']) {
      const job = worthTelling(jobs, kind);
      if (job) return this.following.follow(Promise.resolve(job));
    }
  }

  async prove(photos: number[]): Promise<void> {
    this.made = null;
    this.#proving = photos;
    const params = { path: this.#path, query: { photos: photos.join(',') } };
    await this.following.follow(call('post', '/api/shoots/{shoot_id}/sheets', params));
  }

  async deliver(photos: number[], order: Order): Promise<void> {
    this.made = null;
    const question = { path: this.#path, body: { photos, order } };
    await this.following.follow(call('post', '/api/shoots/{shoot_id}/deliveries', question));
  }

  /** Have a treatment proposed, and go where it can be looked at. */
  async treat(words: BatchWords): Promise<boolean> {
    try {
      const question = { path: this.#path, body: words };
      const begun = await call('post', '/api/shoots/{shoot_id}/batches', question);
      router.go(`/batches/${begun.batch}`);
      return true;
    } catch (error) {
      this.trouble = reasonOf(error);
      return false;
    }
  }

  #over(job: Job): void {
    if (job.state !== 'done') return;
    const count = job.photos.length === 1 ? '1 photo' : `${job.photos.length} photos`;
    if (job.kind === 'deliver-set') {
      for (const id of job.photos) void this.sheet.refresh(id).catch(() => {});
      const lost = job.done < job.total ? `${job.done} of ${job.total} photos, ` : '';
      const text = `${lost}${job.files} ${job.files === 1 ? 'file' : 'files'}`;
      const { notes } = job;
      if (job.folder) this.made = { text: `${text} in ${job.folder}`, href: '', notes };
      else if (job.files) this.made = { text, href: `/api/jobs/${job.id}/files.zip`, notes };
    } else if (job.kind === 'prove') {
      const photos = this.#proving.join(',');
      const href = `/api/shoots/${this.sheet.shootId}/report.html?photos=${photos}`;
      this.made = { text: `The proof${photos ? '' : ` of ${count}`}`, href, notes: [] };
    }
  }
}
