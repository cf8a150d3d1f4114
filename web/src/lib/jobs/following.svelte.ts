import { ApiError, call, reasonOf } from '../api/client';
import type { Job } from '../api/types';

const EVERY_MS = 300;
/** Short work is told at once. */
const FIRST_MS = 60;
const MOST_TOLD = 3;

const WORK: Record<string, string> = {
  look: 'Finding casts',
  prove: 'Making reports',
  deliver: 'Exporting a photo',
  'deliver-set': 'Exporting photos',
  treat: 'Proposing treatments',
  agree: 'Comparing a colour',
  copy: 'Copying casts',
  'carry-over': 'Updating linked photos',
  develop: 'Developing a raw file',
  'take-in': 'Importing a file',
};

/** What a piece of work does, as people say it. */
export function doing(job: Job): string {
  return WORK[job.kind] ?? 'Working';
}

/** The first of them, and how many more there are. */
export function inShort(troubles: string[]): string {
  const more = troubles.length - MOST_TOLD;
  const told = troubles.slice(0, MOST_TOLD).join(' ');
  return more > 0 ? `${told} And ${more} more.` : told;
}

/** Follows one piece of long work at the server, which goes on whether or not anybody follows it. */
export class Following {
  job = $state.raw<Job | null>(null);
  trouble = $state('');
  #closed = false;
  #timer = 0;

  /** What is told of it each time, and once more when it is over. */
  constructor(readonly onstep: (job: Job) => void = () => {}) {}

  get running(): boolean {
    return this.job !== null && !this.job.over;
  }

  /** Whether it ended before it was done, and what is left can be taken up. */
  get leftOff(): boolean {
    return this.job?.state === 'interrupted' || this.job?.state === 'failed';
  }

  /** What went wrong, in one line. */
  get reason(): string {
    const { job } = this;
    if (this.trouble) return this.trouble;
    if (job?.state === 'failed') return job.error;
    if (job?.state === 'interrupted')
      return `${doing(job)} was interrupted because the server stopped.`;
    return job ? inShort(job.troubles) : '';
  }

  /** Follow work that was begun just now, or is found under way. */
  async follow(beginning: Promise<Job>): Promise<void> {
    clearTimeout(this.#timer);
    this.trouble = '';
    try {
      this.#take(await beginning);
    } catch (error) {
      this.trouble = reasonOf(error);
    }
  }

  async cancel(): Promise<void> {
    await this.#ask((path) => call('delete', '/api/jobs/{job_id}', { path }));
  }

  /** Do what is left of it. */
  async takeUp(): Promise<void> {
    await this.#ask((path) => call('post', '/api/jobs/{job_id}/take-up', { path }));
  }

  /** Look no longer; the work goes on. */
  close(): void {
    this.#closed = true;
    clearTimeout(this.#timer);
  }

  async #ask(question: (path: { job_id: string }) => Promise<Job>): Promise<void> {
    if (this.job) await this.follow(question({ job_id: this.job.id }));
  }

  #take(job: Job): void {
    if (this.#closed) return;
    this.job = job;
    this.onstep(job);
    clearTimeout(this.#timer);
    const wait = job.state === 'waiting' ? FIRST_MS : EVERY_MS;
    if (!job.over) this.#timer = window.setTimeout(() => void this.#look(job.id), wait);
  }

  async #look(id: string): Promise<void> {
    try {
      this.#take(await call('get', '/api/jobs/{job_id}', { path: { job_id: id } }));
      this.trouble = '';
    } catch (error) {
      if (this.#closed) return;
      // The work may well go on; so does the looking.
      this.trouble = reasonOf(error);
      this.#timer = window.setTimeout(() => void this.#look(id), 5 * EVERY_MS);
    }
  }
}

/** Wait until work is done. Throws why it was not. */
export async function finished(
  beginning: Promise<Job>,
  onstep: (job: Job) => void = () => {},
): Promise<Job> {
  const begun = await beginning;
  return new Promise((resolve, reject) => {
    const following = new Following((job) => {
      onstep(job);
      if (job.state === 'done') resolve(job);
      else if (job.over) reject(new ApiError(409, job.error || `${doing(job)} was stopped`));
    });
    void following.follow(Promise.resolve(begun));
  });
}

/** The newest piece of work of a kind, if it still has something to say: under way, or left off. */
export function worthTelling(jobs: Job[], kind: string): Job | undefined {
  const told = ['waiting', 'running', 'interrupted'];
  return jobs.find((job) => job.kind === kind && told.includes(job.state));
}
