import { SvelteMap } from 'svelte/reactivity';
import { ApiError, call, reasonOf } from '../api/client';
import type { Binned, Card, Photo, Refusal, Shoot, Standing } from '../api/types';
import { Selection } from './selection.svelte';

export const STANDINGS: readonly [Standing, string][] = [
  ['untouched', 'Untouched'],
  ['asks', 'Asks'],
  ['found', 'Found'],
  ['treated', 'Treated'],
  ['check', 'Needs a look'],
  ['delivered', 'Delivered'],
];
export const SORTS = [
  ['shot', 'as shot'],
  ['name', 'by name'],
  ['severity', 'worst first'],
  ['state', 'by state'],
] as const;
export type Sort = (typeof SORTS)[number][0];

/** What a cause is called on the sheet. */
export const KINDS: Record<string, string> = {
  spill: 'colour spill',
  'mixed-light': 'mixed light',
  flash: 'flash',
  water: 'water',
  foliage: 'foliage',
  gel: 'stage light',
  unknown: 'of unknown cause',
};

const DEVELOPED_MS = 1500;
const SELDOM_MS = 24_000;

/** A shoot's photos, which of them are shown, and in which order. */
export class Sheet {
  shoot = $state<Shoot | null>(null);
  readonly cards = new SvelteMap<number, Card>();
  bin = $state.raw<Binned[]>([]);
  refusals = $state.raw<Refusal[]>([]);
  standing = $state<Standing | null>(null);
  kind = $state('');
  words = $state('');
  sort = $state<Sort>('shot');
  trouble = $state('');
  readonly selection = new Selection(() => this.shown.map((p) => p.id));
  readonly #asked = new Set<number>();
  #closed = false;
  #waiting: ReturnType<typeof setTimeout> | undefined;

  constructor(readonly shootId: number) {}

  get #path(): { shoot_id: number } {
    return { shoot_id: this.shootId };
  }

  async load(): Promise<void> {
    try {
      const path = this.#path;
      const [shoot, cards] = await Promise.all([
        call('get', '/api/shoots/{shoot_id}', { path }),
        call('get', '/api/shoots/{shoot_id}/cards', { path }),
      ]);
      for (const card of cards) this.cards.set(card.photo, card);
      this.shoot = shoot;
      this.#waitForDeveloped();
      await this.loadLeftOut();
    } catch (error) {
      const gone = error instanceof ApiError && error.status === 404;
      this.trouble = gone ? 'There is no such shoot' : reasonOf(error);
    }
  }

  /** What is in the bin, and what was refused. */
  async loadLeftOut(): Promise<void> {
    if (this.shoot?.may === 'see') return;
    const path = this.#path;
    [this.bin, this.refusals] = await Promise.all([
      call('get', '/api/shoots/{shoot_id}/bin', { path }),
      call('get', '/api/shoots/{shoot_id}/refusals', { path }),
    ]);
  }

  /** Photos in some order, as the words and the kind let through, of any standing. */
  readonly #through = $derived.by((): Photo[] => {
    const words = this.words.toLowerCase().split(/\s+/).filter(Boolean);
    return (this.shoot?.photos ?? []).filter((photo) => {
      const card = this.cards.get(photo.id);
      if (this.kind && !card?.kinds.includes(this.kind)) return false;
      const said = [photo.title, photo.caption, photo.file_name, ...(card?.names ?? [])]
        .join(' ')
        .toLowerCase();
      return words.every((word) => said.includes(word));
    });
  });

  readonly counts = $derived.by((): Map<Standing, number> => {
    const counts = new Map<Standing, number>();
    for (const photo of this.#through) {
      const state = this.#standing(photo);
      counts.set(state, (counts.get(state) ?? 0) + 1);
    }
    return counts;
  });

  readonly shown = $derived.by((): Photo[] => {
    const chosen = this.#through.filter(
      (p) => this.standing === null || this.#standing(p) === this.standing,
    );
    return chosen.sort(ORDERS[this.sort](this.cards));
  });

  get through(): number {
    return this.#through.length;
  }

  /** Of the casts that were found anywhere in the shoot. */
  readonly kinds = $derived.by((): string[] => {
    const kinds = new Set<string>();
    for (const card of this.cards.values()) for (const kind of card.kinds) kinds.add(kind);
    return [...kinds].sort();
  });

  #standing(photo: Photo): Standing {
    return this.cards.get(photo.id)?.state ?? 'untouched';
  }

  /** Ask for what of a card has to be computed, once. */
  async complete(id: number): Promise<void> {
    if (this.#asked.has(id) || this.cards.get(id)?.dials !== null) return;
    this.#asked.add(id);
    // The card is worth showing without it; the work screen will tell what is wrong.
    await this.refresh(id).catch(() => {});
  }

  async refresh(id: number): Promise<void> {
    const card = await call('get', '/api/photos/{photo_id}/card', { path: { photo_id: id } });
    this.cards.set(id, card);
  }

  add(photo: Photo): void {
    if (!this.shoot?.photos.some((p) => p.id === photo.id)) this.shoot?.photos.push(photo);
    void this.refresh(photo.id).catch(() => {});
    if (photo.preview) this.#waitForDeveloped();
  }

  /** Nobody looks any more. */
  close(): void {
    this.#closed = true;
    clearTimeout(this.#waiting);
  }

  /** Small pictures are their cameras' own until then: asked for the whole shoot at once, less and less often
   * as long as nothing comes of it. */
  #waitForDeveloped(after = DEVELOPED_MS): void {
    clearTimeout(this.#waiting);
    const waiting = this.shoot?.photos.filter((p) => p.preview).length ?? 0;
    if (!waiting || this.#closed) return;
    this.#waiting = setTimeout(() => void this.#lookWhether(waiting, after), after);
  }

  async #lookWhether(waiting: number, after: number): Promise<void> {
    try {
      const now = await call('get', '/api/shoots/{shoot_id}', { path: this.#path });
      if (this.#closed || !this.shoot) return;
      const fresh = new Map(now.photos.map((photo) => [photo.id, photo]));
      this.shoot.photos = this.shoot.photos.map((p) => (p.preview ? (fresh.get(p.id) ?? p) : p));
    } catch {
      // It is asked again.
    }
    const left = this.shoot?.photos.filter((p) => p.preview).length ?? 0;
    const next = left < waiting ? DEVELOPED_MS : Math.min(2 * after, SELDOM_MS);
    this.#waitForDeveloped(next);
  }

  async remove(ids: number[]): Promise<void> {
    await this.#attempt(async () => {
      await call('post', '/api/shoots/{shoot_id}/remove', {
        path: this.#path,
        body: { photos: ids },
      });
      this.#gone(ids);
    });
  }

  async putBack(ids: number[]): Promise<void> {
    await this.#attempt(async () => {
      const body = { photos: ids };
      await call('post', '/api/shoots/{shoot_id}/put-back', { path: this.#path, body });
      await this.load();
    });
  }

  async emptyBin(): Promise<void> {
    await this.#attempt(async () => {
      await call('delete', '/api/shoots/{shoot_id}/bin', { path: this.#path });
    });
  }

  async forgetRefusals(): Promise<void> {
    await this.#attempt(async () => {
      await call('delete', '/api/shoots/{shoot_id}/refusals', { path: this.#path });
    });
  }

  async move(ids: number[], to: number): Promise<void> {
    await this.#attempt(async () => {
      const body = { photos: ids, to };
      await call('post', '/api/shoots/{shoot_id}/move', { path: this.#path, body });
      this.#gone(ids);
    });
  }

  /** Somebody has looked at them, and they are right. */
  async lookedOver(ids: number[]): Promise<void> {
    await this.#attempt(async () => {
      for (const id of ids) {
        await call('delete', '/api/photos/{photo_id}/check', { path: { photo_id: id } });
        await this.refresh(id);
      }
    });
  }

  #gone(ids: number[]): void {
    if (this.shoot) this.shoot.photos = this.shoot.photos.filter((p) => !ids.includes(p.id));
    this.selection.forget(ids);
  }

  async #attempt(work: () => Promise<void>): Promise<void> {
    try {
      await work();
      this.trouble = '';
      await this.loadLeftOut();
    } catch (error) {
      this.trouble = reasonOf(error);
    }
  }
}

type Order = (one: Photo, two: Photo) => number;
type Cards = ReadonlyMap<number, Card>;

/** When it was taken, where its camera says so; else when it was added. */
const byTime: Order = (one, two) =>
  (one.shot ?? '').localeCompare(two.shot ?? '') || one.id - two.id;

const ORDERS: Record<Sort, (cards: Cards) => Order> = {
  shot: () => byTime,
  name: () => (one, two) =>
    one.title.localeCompare(two.title, undefined, { numeric: true }) || one.id - two.id,
  severity: (cards) => (one, two) =>
    (cards.get(two.id)?.severity ?? 0) - (cards.get(one.id)?.severity ?? 0) || byTime(one, two),
  state: (cards) => (one, two) => rank(cards, one) - rank(cards, two) || byTime(one, two),
};

function rank(cards: Cards, photo: Photo): number {
  return STANDINGS.findIndex(([state]) => state === (cards.get(photo.id)?.state ?? 'untouched'));
}
