import { ApiError, call, reasonOf } from '../api/client';
import type { Batch, Proposal, Show, Stroke } from '../api/types';
import { Following, worthTelling } from '../jobs/following.svelte';

const PLAY_MS = 350;

/** A treatment proposed for several photos: seen, corrected, taken, taken back. */
export class Proposed {
  batch = $state.raw<Batch | null>(null);
  /** The photo that is seen large. */
  at = $state(0);
  show = $state<Show>('now');
  /** Of the recipe that is seen: whose mask. */
  letter = $state('A');
  playing = $state(false);
  trouble = $state('');
  told = $state('');
  /** Corrections that the other frames have not been followed anew by. */
  corrected = $state(0);
  readonly following = new Following((job) => void this.#step(job.over));
  #timer = 0;
  #seen = 0;

  constructor(readonly id: string) {}

  get #path(): { batch_id: string } {
    return { batch_id: this.id };
  }

  get follows(): boolean {
    return this.batch?.kind === 'follow';
  }

  get proposals(): Proposal[] {
    return this.batch?.proposals ?? [];
  }

  get proposal(): Proposal | undefined {
    return this.proposals[this.at];
  }

  get cast(): Proposal['casts'][number] | undefined {
    const casts = this.proposal?.casts ?? [];
    return casts.find((c) => c.letter === this.letter) ?? casts.at(-1);
  }

  /** Those that can be taken. */
  get open(): Proposal[] {
    return this.proposals.filter((p) => p.proposed && !p.taken);
  }

  get taken(): Proposal[] {
    return this.proposals.filter((p) => p.taken);
  }

  async load(): Promise<void> {
    try {
      this.batch = await call('get', '/api/batches/{batch_id}', { path: this.#path });
      const path = { shoot_id: this.batch.shoot };
      const jobs = await call('get', '/api/shoots/{shoot_id}/jobs', { path });
      const own = jobs.filter((j) => j.batch === this.id);
      const job = worthTelling(own, 'treat') ?? own.find((j) => j.state === 'failed');
      if (job) await this.following.follow(Promise.resolve(job));
      else this.#settle();
    } catch (error) {
      const gone = error instanceof ApiError && error.status === 404;
      this.trouble = gone ? 'There is no such proposal any more' : reasonOf(error);
    }
  }

  close(): void {
    clearTimeout(this.#timer);
    this.following.close();
  }

  /** Propose anew by what was corrected. */
  async again(): Promise<void> {
    this.corrected = 0;
    this.#seen = 0;
    const path = this.#path;
    await this.following.follow(call('post', '/api/batches/{batch_id}/again', { path }));
  }

  go(to: number): void {
    this.at = Math.min(Math.max(to, 0), Math.max(this.proposals.length - 1, 0));
  }

  play(on: boolean): void {
    this.playing = on;
    clearTimeout(this.#timer);
    if (!on) return;
    if (this.at === this.proposals.length - 1) this.at = 0;
    const next = (): void => {
      if (this.at >= this.proposals.length - 1) return this.play(false);
      this.at += 1;
      this.#timer = window.setTimeout(next, PLAY_MS);
    };
    this.#timer = window.setTimeout(next, PLAY_MS);
  }

  /** photos: null for all. */
  async take(photos: number[] | null): Promise<void> {
    await this.#attempt(async () => {
      const question = { path: this.#path, body: { photos } };
      const taken = await call('post', '/api/batches/{batch_id}/take', question);
      this.batch = taken.batch;
      this.told = [`${inWords(taken.photos)} changed.`, ...taken.left].join(' ');
    });
  }

  async takeBack(): Promise<void> {
    await this.#attempt(async () => {
      const back = await call('post', '/api/batches/{batch_id}/take-back', { path: this.#path });
      this.batch = back.batch;
      this.told = [`Taken back on ${inWords(back.photos)}.`, ...back.left].join(' ');
    });
  }

  async correct(strokes: Stroke[]): Promise<void> {
    const { proposal, cast } = this;
    if (!proposal || !cast) return;
    await this.#attempt(async () => {
      this.batch = await call('post', '/api/batches/{batch_id}/photos/{photo_id}/correct', {
        path: { ...this.#path, photo_id: proposal.photo },
        body: { cast: cast.id, strokes },
      });
      this.corrected += 1;
    });
  }

  async letGo(): Promise<void> {
    const { proposal } = this;
    if (!proposal) return;
    await this.#attempt(async () => {
      this.batch = await call('post', '/api/batches/{batch_id}/photos/{photo_id}/let-go', {
        path: { ...this.#path, photo_id: proposal.photo },
      });
      this.corrected += 1;
    });
  }

  /** How a photo would look. */
  picture(proposal: Proposal, show: Show, edge: number): string {
    if (!proposal.proposed)
      return `/api/photos/${proposal.photo}/thumbnail?revision=${proposal.revision}`;
    const cast = proposal.casts.find((c) => c.letter === this.letter) ?? proposal.casts.at(-1);
    const words = new URLSearchParams({ show, edge: String(edge), stamp: proposal.stamp });
    if (cast && show !== 'now' && show !== 'before') words.set('cast', cast.id);
    return `/api/batches/${this.id}/photos/${proposal.photo}/picture?${words}`;
  }

  /** What is there already is shown while the rest is made. */
  async #step(over: boolean): Promise<void> {
    const { job } = this.following;
    if (!job || (!over && job.done === this.#seen)) return;
    this.#seen = job.done;
    try {
      this.batch = await call('get', '/api/batches/{batch_id}', { path: this.#path });
      if (over) this.#settle();
    } catch (error) {
      this.trouble = reasonOf(error);
    }
  }

  /** Begin where somebody should look. */
  #settle(): void {
    const worst = this.proposals.findIndex((p) => p.check);
    if (this.at === 0 && worst >= 0) this.at = worst;
    else if (this.at === 0 && !this.proposal?.proposed && this.proposals.length > 1) this.at = 1;
    this.letter = this.proposal?.casts.at(-1)?.letter ?? 'A';
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

const inWords = (count: number): string => `${count} ${count === 1 ? 'photo' : 'photos'}`;
