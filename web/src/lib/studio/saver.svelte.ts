import { ApiError, call, OFFLINE, reasonOf } from '../api/client';
import { pending } from '../api/pending.svelte';
import { changeOf } from '../recipe/change-of';
import type { Recipe, RecipeState } from '../api/types';

const RETRY_MS = 2500;

/** A step that the server does not take. what: it changed, in words. */
export interface RefusedStep {
  recipe: Recipe;
  key: string;
  what: string;
  reason: string;
}

/** Of photos, by their ids: they go on when the photo's page has been left. */
const unsaved = new Map<number, Saver>();

/** trying: nothing is to be saved at all. */
type Status = 'trying' | 'saved' | 'saving' | 'waiting' | 'conflict' | 'refused';

/** By which the server knows a save again whose answer was lost. */
function newKey(): string {
  const letters = crypto.getRandomValues(new Uint32Array(4));
  return [...letters].map((n) => n.toString(36)).join('-');
}

/**
 * Saves every step in order, each on top of the revision before. A step that cannot be saved now stays
 * in the queue; nothing is dropped.
 */
export class Saver {
  status = $state<Status>('saved');
  reason = $state('');
  revision = $state(0);
  canUndo = $state(false);
  canRedo = $state(false);
  /** Not taken by the server; whatever is saved after it has all that it had. */
  refused = $state.raw<RefusedStep[]>([]);
  #queue: { recipe: Recipe; key: string; what: string }[] = [];
  /** What was pushed last. */
  #newest: Recipe;
  #last = '';
  #running: Promise<void> | null = null;
  #steps: Promise<unknown> = Promise.resolve();

  constructor(
    readonly photoId: number,
    state: RecipeState,
    trying = false,
    readonly title = '',
  ) {
    if (trying) this.status = 'trying';
    this.#newest = state.recipe;
    this.take(state);
  }

  /** One that was left before all was saved. */
  static leftOf(photoId: number): Saver | undefined {
    return unsaved.get(photoId);
  }

  /** The recipe as it stands, saved or not. */
  get newest(): Recipe {
    return this.#newest;
  }

  get unsaved(): boolean {
    return this.status !== 'saved' && this.status !== 'trying';
  }

  take(state: RecipeState): void {
    this.revision = state.revision;
    this.canUndo = state.can_undo && this.status !== 'trying';
    this.canRedo = state.can_redo && this.status !== 'trying';
    if (this.#queue.length) return;
    this.#last = JSON.stringify(state.recipe);
    this.#newest = state.recipe;
  }

  /** A step that changes nothing is none. */
  push(recipe: Recipe): void {
    const document = JSON.stringify(recipe);
    if (document === this.#last || this.status === 'trying') return;
    this.#last = document;
    this.#queue.push({ recipe, key: newKey(), what: changeOf(this.#newest, recipe) });
    this.#newest = recipe;
    this.canUndo = true;
    this.canRedo = false;
    if (this.status === 'conflict') this.#tell();
    else this.#start();
  }

  /** Ask for a refused step once more. */
  tryAgain(step: RefusedStep): void {
    this.refused = this.refused.filter((one) => one !== step);
    this.#queue.push(step);
    this.#start();
  }

  /** Do without what was refused. */
  dropRefused(): void {
    this.refused = [];
    if (this.status === 'refused') this.status = 'saved';
    this.reason = '';
    this.#last = '';
    this.#tell();
  }

  #tell(): void {
    if (!this.unsaved) {
      pending.drop(this);
      if (unsaved.get(this.photoId) === this) unsaved.delete(this.photoId);
      return;
    }
    unsaved.set(this.photoId, this);
    const stuck = this.status === 'conflict' || this.status === 'refused';
    const text = `Not saved on ${this.title || 'a photo'}`;
    pending.set(this, { text, href: `/photos/${this.photoId}`, stuck });
  }

  /** Resolves when all that was pushed is saved and all steps are taken; rejects when it cannot be. */
  async settled(): Promise<void> {
    await this.#steps;
    await this.#drained();
  }

  async #drained(): Promise<void> {
    await this.#running;
    if (this.unsaved) throw new Error(this.reason || 'Not everything is saved yet');
  }

  /** Steps asked for in quick succession are taken one after another; null where the history ends. */
  step(way: 'undo' | 'redo'): Promise<RecipeState | null> {
    const step = this.#steps.then(() => this.#step(way));
    this.#steps = step.catch(() => {});
    return step;
  }

  async #step(way: 'undo' | 'redo'): Promise<RecipeState | null> {
    await this.#drained();
    if (!(way === 'undo' ? this.canUndo : this.canRedo)) return null;
    this.status = 'saving';
    try {
      const state = await call('post', `/api/photos/{photo_id}/${way}`, {
        path: { photo_id: this.photoId },
        body: { revision: this.revision },
      });
      this.take(state);
      return state;
    } finally {
      if (this.status === 'saving' && !this.#running) this.status = 'saved';
    }
  }

  /** Save on top of what the other window saved; that stays one undo away. */
  async overrule(): Promise<void> {
    const theirs = await this.#fetch();
    this.revision = theirs.revision;
    this.status = 'waiting';
    this.#start();
    await this.#running;
  }

  /** Take the other window's state; one's own stays one redo away. */
  async giveWay(): Promise<RecipeState | null> {
    await this.overrule();
    return this.step('undo');
  }

  #fetch(): Promise<RecipeState> {
    return call('get', '/api/photos/{photo_id}/recipe', { path: { photo_id: this.photoId } });
  }

  #start(): void {
    this.#running ??= this.#drain().finally(() => {
      this.#running = null;
      this.#tell();
    });
    this.#tell();
  }

  async #drain(): Promise<void> {
    for (let next = this.#queue[0]; next; next = this.#queue[0]) {
      this.status = this.status === 'waiting' ? 'waiting' : 'saving';
      try {
        const state = await call('put', '/api/photos/{photo_id}/recipe', {
          path: { photo_id: this.photoId },
          body: { revision: this.revision, recipe: next.recipe, key: next.key },
        });
        this.#queue.shift();
        this.refused = [];
        this.take(state);
      } catch (error) {
        if (!(await this.#bear(error))) return;
      }
    }
    this.status = this.refused.length ? 'refused' : 'saved';
    if (!this.refused.length) this.reason = '';
  }

  /** A step that is refused for good does not block those behind it. */
  #setAside(): void {
    const step = this.#queue.shift();
    if (step) this.refused = [...this.refused, { ...step, reason: this.reason }];
  }

  /** Whether to go on. */
  async #bear(error: unknown): Promise<boolean> {
    this.reason = reasonOf(error);
    const status = error instanceof ApiError ? error.status : OFFLINE;
    if (status === 409) {
      // Only the newest of one's own steps can still go on top.
      this.#queue = this.#queue.slice(-1);
      this.status = 'conflict';
      return false;
    }
    if (status !== OFFLINE && status < 500) {
      this.#setAside();
      return true;
    }
    this.status = 'waiting';
    await new Promise((resolve) => setTimeout(resolve, RETRY_MS));
    return true;
  }
}
