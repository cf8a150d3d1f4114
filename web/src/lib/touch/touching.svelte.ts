import { KINDS } from '../../generated/kinds';
import { call } from '../api/client';
import type { Touch, Vector } from '../api/types';
import * as edit from '../recipe/edit';
import type { Editor } from '../studio/editor.svelte';

const PER_PIXEL = 0.005;
const NEAR = 0.012; // of the long edge: a press so near a touch takes hold of it

export function percent(amount: number): string {
  return `${Math.round(amount * 100)} %`;
}

/** Amounts set by hand: press on the photo and drag, and what is taken off there follows. */
export class Touching {
  /** The touch under the hand; while its place is still being read, without an amount. */
  held = $state.raw<{ id: string; at: Vector; from: number | null } | null>(null);
  /** Whether the tool shows what is taken off, or the result. */
  showsField = $state(true);
  #by = 0;
  /** Whether the hand was lifted before the place was read. */
  #lifted = false;

  constructor(private readonly editor: Editor) {}

  /** Whether the photo shows what is taken off. */
  get field(): boolean {
    return this.editor.tool === 'touch' && this.showsField;
  }

  get touches(): Touch[] {
    return this.editor.cast?.touches ?? [];
  }

  get told(): string {
    const held = this.touches.find((t) => t.id === this.held?.id);
    if (held) return `Taken off here: ${percent(held.amount)} of the cast`;
    return 'Press where too much or too little is taken off, and drag sideways.';
  }

  press(at: Vector): void {
    const near = this.touches.find((t) => Math.hypot(t.at[0] - at[0], t.at[1] - at[1]) < NEAR);
    this.#by = 0;
    this.#lifted = false;
    this.held = { id: near?.id ?? edit.newId(), at: near?.at ?? at, from: near?.amount ?? null };
    if (!near) void this.#read(at);
  }

  /** by: CSS pixels to the right of where the hand went down. */
  drag(by: number): void {
    this.#by = by;
    this.#put(false);
  }

  release(): void {
    if (!this.held) return;
    this.#lifted = true;
    if (this.held.from !== null) this.#finish();
  }

  set(id: string, amount: number, done = true): void {
    this.editor.changeCast((cast) => edit.changeTouch(cast, id, (t) => ({ ...t, amount })), done);
  }

  move(id: string, at: Vector): void {
    this.editor.changeCast((cast) => edit.changeTouch(cast, id, (t) => ({ ...t, at })));
  }

  remove(id: string): void {
    this.editor.changeCast((cast) => edit.withoutTouch(cast, id));
  }

  /** What lies at the place before it is touched. */
  async #read(at: Vector): Promise<void> {
    const { id } = this.held ?? {};
    const read = await this.editor.attempt(async () => {
      const { photo, recipe, castId } = this.editor;
      const question = { path: { photo_id: photo.id }, body: { recipe, at, cast: castId ?? '' } };
      const { amount } = await call('post', '/api/photos/{photo_id}/amount-at', question);
      if (amount === null) throw new Error('Nothing is taken off there: mask the place first');
      if (this.held?.id === id) this.held = { ...this.held, from: amount } as typeof this.held;
    });
    if (this.held?.id !== id) return;
    if (!read) this.held = null;
    else if (this.#lifted) this.#finish();
    else this.#put(false);
  }

  #finish(): void {
    const found = this.touches.find((t) => t.id === this.held?.id);
    const from = this.held?.from;
    // A press alone on a touch changes nothing; on a free place it holds what lies there.
    if (!found || this.#by || found.amount !== from) this.#put(true);
    this.held = null;
  }

  #put(done: boolean): void {
    const { held } = this;
    if (!held || held.from === null) return;
    const wanted = held.from + this.#by * PER_PIXEL;
    const amount = Math.round(Math.min(Math.max(wanted, 0), KINDS.most_touched) * 100) / 100;
    const { id, at } = held;
    if (this.touches.some((t) => t.id === id)) this.set(id, amount, done);
    else this.editor.changeCast((cast) => edit.withTouch(cast, { id, at, amount }), done);
  }
}
