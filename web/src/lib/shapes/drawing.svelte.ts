import type { Part, PathNode, Vector } from '../api/types';
import { newOval, newPath, newRamp, newSnap } from '../recipe/edit';
import type { Editor } from '../studio/editor.svelte';
import type { Drawing as Kind } from '../studio/tools';
import { simplified } from './shape';

const LEAST = 0.004; // of the long edge: a click alone draws nothing
const CLOSING = 0.012; // so near to its beginning a path closes
const LASSO_OFF = 0.0012;

/** Drawn in one go, and closed when the pointer lifts. */
const freehand = (kind: Kind): boolean => kind === 'lasso' || kind === 'snap';

/** A new part being drawn on the photo. */
export class Drawing {
  /** The path so far; its last node follows the pointer while it is pressed. */
  nodes = $state.raw<PathNode[]>([]);
  /** Where an oval or a ramp began, and where the pointer is. */
  span = $state.raw<[Vector, Vector] | null>(null);
  kind = $state<Kind>('path');
  #lasso: Vector[] = [];

  constructor(
    private readonly editor: Editor,
    private readonly addPart: (part: Part) => void,
  ) {}

  get idle(): boolean {
    return !this.nodes.length && !this.span;
  }

  cancel(): void {
    this.nodes = [];
    this.span = null;
    this.#lasso = [];
  }

  down(kind: Kind, at: Vector): void {
    if (!this.editor.cast) {
      this.editor.complain('work', 'A mask belongs to a cast: sample a tainted place first');
      return;
    }
    if (kind !== this.kind) this.cancel();
    this.kind = kind;
    if (kind === 'oval' || kind === 'ramp') this.span = [at, at];
    else if (freehand(kind)) this.#lasso = [at];
    else if (this.#closes(at)) this.close();
    else this.nodes = [...this.nodes, { at, before: null, after: null }];
  }

  /** While the pointer is pressed. */
  move(at: Vector): void {
    if (this.span) this.span = [this.span[0], at];
    else if (freehand(this.kind) && this.#lasso.length) {
      this.#lasso.push(at);
      this.nodes = this.#lasso.map((v) => ({ at: v, before: null, after: null }));
    } else if (this.kind === 'path' && this.nodes.length) this.#pull(at);
  }

  up(): void {
    if (this.span) this.#endSpan(...this.span);
    else if (freehand(this.kind) && this.#lasso.length) {
      const kept = simplified(this.#lasso, LASSO_OFF);
      this.cancel();
      if (kept.length > 2) this.#addOutline(kept);
    }
  }

  /** The path is done. */
  close(): void {
    const nodes = this.nodes;
    this.cancel();
    if (nodes.length > 1) this.#add(nodes);
  }

  #closes([x, y]: Vector): boolean {
    const first = this.nodes[0];
    if (!first || this.nodes.length < 2) return false;
    return Math.hypot(first.at[0] - x, first.at[1] - y) < CLOSING;
  }

  /** The last node's handles, drawn out of it symmetrically. */
  #pull(to: Vector): void {
    const last = this.nodes.at(-1);
    if (!last || Math.hypot(to[0] - last.at[0], to[1] - last.at[1]) < LEAST) return;
    const before: Vector = [2 * last.at[0] - to[0], 2 * last.at[1] - to[1]];
    this.nodes = [...this.nodes.slice(0, -1), { at: last.at, before, after: to }];
  }

  #endSpan(one: Vector, two: Vector): void {
    this.span = null;
    const [dx, dy] = [Math.abs(two[0] - one[0]), Math.abs(two[1] - one[1])];
    if (Math.hypot(dx, dy) < LEAST) return;
    const oval = () => newOval(one, [Math.max(dx, LEAST), Math.max(dy, LEAST)]);
    this.addPart(this.kind === 'oval' ? oval() : newRamp(one, two));
    this.editor.tool = 'look';
  }

  #addOutline(places: Vector[]): void {
    if (this.kind === 'snap') {
      this.addPart(newSnap(places));
      this.editor.tool = 'look';
    } else this.#add(places.map((at) => ({ at, before: null, after: null })));
  }

  #add(nodes: PathNode[]): void {
    this.addPart(newPath(nodes));
    this.editor.tool = 'look';
  }
}
