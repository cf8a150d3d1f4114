import { ApiError, call, OFFLINE, reasonOf } from '../api/client';
import type { Recipe, RecipeState } from '../api/types';

const RETRY_MS = 2500;

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
  #queue: { recipe: Recipe; key: string }[] = [];
  #last = '';
  #running: Promise<void> | null = null;
  #steps: Promise<unknown> = Promise.resolve();

  constructor(
    readonly photoId: number,
    state: RecipeState,
    trying = false,
  ) {
    if (trying) this.status = 'trying';
    this.take(state);
  }

  get unsaved(): boolean {
    return this.status !== 'saved' && this.status !== 'trying';
  }

  take(state: RecipeState): void {
    this.revision = state.revision;
    this.canUndo = state.can_undo && this.status !== 'trying';
    this.canRedo = state.can_redo && this.status !== 'trying';
    if (!this.#queue.length) this.#last = JSON.stringify(state.recipe);
  }

  /** A step that changes nothing is none. */
  push(recipe: Recipe): void {
    const document = JSON.stringify(recipe);
    if (document === this.#last || this.status === 'trying') return;
    this.#last = document;
    this.#queue.push({ recipe, key: newKey() });
    this.canUndo = true;
    this.canRedo = false;
    if (this.status !== 'conflict') this.#start();
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
    this.#running ??= this.#drain().finally(() => (this.#running = null));
  }

  async #drain(): Promise<void> {
    for (let next = this.#queue[0]; next; next = this.#queue[0]) {
      this.status = this.status === 'waiting' ? 'waiting' : 'saving';
      try {
        const state = await call('put', '/api/photos/{photo_id}/recipe', {
          path: { photo_id: this.photoId },
          body: {
            revision: this.revision,
            ...next,
          },
        });
        this.#queue.shift();
        this.take(state);
      } catch (error) {
        if (!(await this.#bear(error))) return;
      }
    }
    this.status = 'saved';
    this.reason = '';
  }

  /** Whether to try again. */
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
      this.status = 'refused';
      return false;
    }
    this.status = 'waiting';
    await new Promise((resolve) => setTimeout(resolve, RETRY_MS));
    return true;
  }
}
