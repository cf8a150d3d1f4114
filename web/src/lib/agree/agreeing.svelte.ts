import { SvelteMap } from 'svelte/reactivity';
import { call, reasonOf } from '../api/client';
import type {
  Agreement,
  Chosen,
  Job,
  LibraryEntry,
  Photo,
  PhotoStanding,
  Shoot,
  Vector,
} from '../api/types';
import { Following } from '../jobs/following.svelte';
import { photosToAgree } from './chosen';

export const ORDERS = [
  ['off', 'farthest first'],
  ['set', 'as in the set'],
] as const;

/** One colour over a set of photos. */
export class Agreeing {
  shoot = $state.raw<Shoot | null>(null);
  photos = $state.raw<Photo[]>([]);
  library = $state.raw<LibraryEntry[]>([]);
  agreement = $state.raw<Agreement | null>(null);
  /** What was chosen, and what it goes by. */
  chosen = $state.raw<Chosen | null>(null);
  name = $state('');
  order = $state<'off' | 'set'>('off');
  trouble = $state('');
  busy = $state(0);
  readonly standings = new SvelteMap<number, PhotoStanding>();
  readonly revisions = new SvelteMap<number, number>();
  readonly following = new Following((job) => void this.#step(job));
  /** Places that were pointed at, by photo. */
  readonly said = new SvelteMap<number, Vector>();

  constructor(readonly shootId: number) {}

  async load(): Promise<void> {
    await this.#attempt(async () => {
      const path = { shoot_id: this.shootId };
      this.shoot = await call('get', '/api/shoots/{shoot_id}', { path });
      const some = photosToAgree(this.shootId);
      const all = this.shoot.photos;
      this.photos = some.length ? all.filter((p) => some.includes(p.id)) : all;
      for (const photo of this.photos) this.revisions.set(photo.id, photo.revision);
      this.library = await call('get', '/api/references', { query: { shoot: this.shootId } });
    });
  }

  /** A place of a photo, as it stands now. */
  async choosePlace(photo: Photo, at: Vector): Promise<void> {
    this.said.clear();
    await this.#look({ photo: photo.id, at, lab: null }, `${photo.title}`);
  }

  async chooseEntry(entry: LibraryEntry): Promise<void> {
    this.said.clear();
    await this.#look({ photo: null, at: null, lab: entry.colour.lab }, entry.name);
  }

  async #look(chosen: Chosen, name: string): Promise<void> {
    this.chosen = chosen;
    this.name = name;
    const body = {
      photos: this.photos.map((p) => p.id),
      chosen,
      said: Object.fromEntries(this.said),
    };
    const path = { shoot_id: this.shootId };
    await this.following.follow(call('post', '/api/shoots/{shoot_id}/agree', { path, body }));
  }

  async #step(job: Job): Promise<void> {
    if (job.state !== 'done') return;
    await this.#attempt(async () => {
      const path = { job_id: job.id };
      this.agreement = await call('get', '/api/jobs/{job_id}/agreement', { path });
      this.standings.clear();
      for (const row of this.agreement.rows) this.standings.set(row.photo, row);
    });
  }

  /** Where it is on a photo, as somebody says who sees it. */
  async say(photo: Photo, at: Vector): Promise<void> {
    const { agreement } = this;
    if (!agreement) return;
    await this.#attempt(async () => {
      this.said.set(photo.id, at);
      const row = await call('post', '/api/photos/{photo_id}/standing', {
        path: { photo_id: photo.id },
        body: { at, wanted: agreement.chosen },
      });
      this.standings.set(photo.id, row);
    });
  }

  async level(photo: Photo): Promise<void> {
    const { agreement } = this;
    const at = this.standings.get(photo.id)?.at;
    if (!agreement || !at) return;
    this.busy += 1;
    await this.#attempt(async () => {
      const done = await call('post', '/api/photos/{photo_id}/level', {
        path: { photo_id: photo.id },
        body: { at, wanted: agreement.chosen, name: this.name },
      });
      this.standings.set(photo.id, done.standing);
      this.revisions.set(photo.id, done.state.revision);
    });
    this.busy -= 1;
  }

  /** Take the last step of a photo back. */
  async undo(photo: Photo): Promise<void> {
    const { agreement } = this;
    const at = this.standings.get(photo.id)?.at;
    if (!agreement || !at) return;
    await this.#attempt(async () => {
      const path = { photo_id: photo.id };
      const revision = this.revisions.get(photo.id) ?? 0;
      const state = await call('post', '/api/photos/{photo_id}/undo', {
        path,
        body: { revision },
      });
      this.revisions.set(photo.id, state.revision);
      const body = { at, wanted: agreement.chosen };
      this.standings.set(
        photo.id,
        await call('post', '/api/photos/{photo_id}/standing', { path, body }),
      );
    });
  }

  readonly outliers = $derived.by((): Photo[] =>
    this.photos.filter((p) => this.standings.get(p.id)?.off),
  );

  /** Found ones, in the order that is wanted; those that were not found come last. */
  readonly listed = $derived.by((): Photo[] => {
    const off = (p: Photo): number => {
      const row = this.standings.get(p.id);
      return row?.before ? Math.max(row.before.distance, row.now?.distance ?? 0) : -1;
    };
    const photos = [...this.photos];
    return this.order === 'set' ? photos : photos.sort((a, b) => off(b) - off(a));
  });

  async #attempt(work: () => Promise<void>): Promise<void> {
    try {
      await work();
      this.trouble = '';
    } catch (error) {
      this.trouble = reasonOf(error);
    }
  }
}
