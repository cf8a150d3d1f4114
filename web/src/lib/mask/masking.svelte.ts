import { call } from '../api/client';
import type { Brush, Part, Recipe, Sample, Stroke, Vector } from '../api/types';
import * as edit from '../recipe/edit';
import { newPart } from '../recipe/kinds';
import type { Editor } from '../studio/editor.svelte';
import { keyAround } from './keys';
import { PAINTING } from '../studio/tools';

/** The mask of the chosen cast: its parts, and the brush in hand. */
export class Masking {
  partId = $state<string | null>(null);
  /** Whether the next colour that is sampled for a key makes a new one. */
  makingKey = false;
  /** Fractions of the long edge, shares of radius and strength. */
  brush = $state({ size: 0.12, feather: 0.6, flow: 1, opacity: 1, edges: false });
  /** Whether the key that shows the matte while a handle moves is held. */
  peeking = $state(false);
  /** A part that is pointed at in the list. */
  hintedPart = $state<string | null>(null);
  /** Whether the mask's station shows what is done to the mask as a whole. */
  refining = $state(false);

  /** While a stroke is being painted: the recipe without it, and the brush that it goes to. */
  #painting: { onto: Recipe; brush: Brush } | null = null;

  constructor(private readonly editor: Editor) {}

  get part(): Part | undefined {
    const parts = this.editor.cast?.mask.parts ?? [];
    return parts.find((p) => p.id === this.partId) ?? parts.at(-1);
  }

  /** Where the brush was lifted last. */
  get lastPoint(): Stroke['points'][number] | undefined {
    return this.#brushToPaint().strokes.at(-1)?.points.at(-1);
  }

  /** Another cast is chosen. */
  rest(): void {
    this.refining = false;
    this.partId = this.editor.cast?.mask.parts.at(-1)?.id ?? null;
  }

  changePart(change: (part: Part) => Part, done = true): void {
    const id = this.part?.id;
    if (id) this.editor.changeCast((cast) => edit.changePart(cast, id, change), done);
  }

  /** Lay a stroke on the mask; not done: it is still growing. */
  paint(stroke: Stroke, done = true): void {
    const { castId } = this.editor;
    if (!castId || !this.editor.cast) return;
    this.#painting ??= { onto: this.editor.recipe, brush: this.#brushToPaint() };
    const { onto, brush } = this.#painting;
    const stroked = edit.withStroke(brush, stroke);
    const recipe = edit.changeCast(onto, castId, (cast) =>
      cast.mask.parts.some((p) => p.id === brush.id)
        ? edit.changePart(cast, brush.id, () => stroked)
        : edit.withPart(cast, stroked),
    );
    if (done) this.#painting = null;
    if (done) this.editor.commit(recipe);
    else this.editor.preview(recipe);
    this.partId = brush.id;
  }

  /** Say over which places the object is, or is not, that the mask snaps to. */
  scribble({ points, size }: Stroke): void {
    const drawn = { size, points: points.map(([at]) => at) };
    const name = this.editor.tool === 'other' ? 'other' : 'this';
    if (edit.isSnap(this.part))
      this.changePart((p) => (edit.isSnap(p) ? { ...p, [name]: [...p[name], drawn] } : p));
    else if (name === 'this') this.addPart({ ...edit.newSnap([]), this: [drawn] });
  }

  /** Choose the part that lies at a place; again: the next one there. */
  async selectAt(at: Vector): Promise<void> {
    await this.editor.attempt(async () => {
      const { photo, recipe } = this.editor;
      const question = { path: { photo_id: photo.id }, body: { recipe, at } };
      const found = await call('post', '/api/photos/{photo_id}/parts-at', question);
      const own = found.filter((f) => f.cast === this.editor.castId);
      const there = [...own, ...found.filter((f) => f.cast !== this.editor.castId)];
      const now = there.findIndex((f) => f.cast === this.editor.castId && f.part === this.part?.id);
      const next = there[(now + 1) % Math.max(there.length, 1)];
      if (!next) return;
      if (next.cast !== this.editor.castId) this.editor.select(next.cast);
      this.partId = next.part;
      this.refining = false;
    });
  }

  addPart(part: Part): void {
    this.refining = false;
    // Its controls are to be in sight, not the brush's.
    if (PAINTING.includes(this.editor.tool) && !edit.isBrush(part)) this.editor.tool = 'look';
    this.editor.changeCast((cast) => edit.withPart(cast, part));
    this.partId = part.id;
  }

  /** A colour key round the tainted samples, within what is masked already; without any, of the colour that
   * is clicked next. */
  async addKey(): Promise<void> {
    const cast = this.editor.cast;
    if (!cast) return;
    const colours = cast.pairs.map((p) => p.tainted.rgb);
    if (!colours.length) {
      this.makingKey = true;
      this.editor.tool = 'key';
      return;
    }
    await this.editor.attempt(() => this.addKeyOf(colours));
  }

  async addKeyOf(colours: Sample['rgb'][]): Promise<void> {
    const key = await keyAround(this.editor, edit.newId(), colours);
    this.makingKey = false;
    this.addPart({ ...key, join: this.editor.cast?.mask.parts.length ? 'intersect' : 'add' });
  }

  duplicatePart(id: string): void {
    const twice = edit.newId();
    this.editor.changeCast((cast) => edit.withPartTwice(cast, id, twice));
    this.partId = twice;
  }

  removePart(id: string): void {
    this.editor.changeCast((cast) => edit.withoutPart(cast, id));
    if (this.partId === id) this.partId = this.editor.cast?.mask.parts.at(-1)?.id ?? null;
  }

  #brushToPaint(): Brush {
    if (edit.isBrush(this.part)) return this.part;
    const last = this.editor.cast?.mask.parts.findLast(edit.isBrush);
    return last ?? newPart('brush');
  }
}
