import { ApiError, callForPicture } from '../api/client';
import type { Ink, PictureRequest, Recipe, Said, Show, ShownFigure } from '../api/types';
import type { Stage } from './stage.svelte';
import { sameView, type View } from './viewport';

export interface Wanted {
  recipe: Recipe;
  version: number;
  view: View;
  /** The whole photo fitted, kept behind the region so that panning never shows a hole. */
  whole: View;
  show: Show;
  /** With the map: after which words it was made. */
  said: Said;
  cast?: string | null;
  /** Of the mask this part alone. */
  part?: string | null;
  ink: Ink;
  /** The pixels behind this line of the proof. */
  figure?: ShownFigure | null;
  draft: boolean;
}

/** As many pixels as the stage has; changing that empties a canvas. */
export function fitCanvas(canvas: HTMLCanvasElement, { canvas: { width, height } }: Stage): void {
  if (canvas.width === width && canvas.height === height) return;
  canvas.width = width;
  canvas.height = height;
}

/** Draw layers over each other, wherever the stage shows their views. */
export function drawLayers(
  context: CanvasRenderingContext2D,
  layers: (Layer | null)[],
  stage: Stage,
): void {
  context.clearRect(0, 0, context.canvas.width, context.canvas.height);
  context.imageSmoothingEnabled = stage.viewport.scale <= 1;
  for (const layer of layers) {
    if (!layer) continue;
    const { left, top, width, height } = stage.placeOf(layer.view);
    context.drawImage(layer.bitmap, left, top, width, height);
  }
}

/** what: all that the picture depends on but the view. */
export interface Layer {
  bitmap: ImageBitmap;
  view: View;
  version: number;
  what: string;
  draft: boolean;
}

/** In the order in which they are fetched. */
type Slot = 'now' | 'before' | 'nowWhole' | 'beforeWhole';
interface Todo {
  slot: Slot;
  asked: PictureRequest;
  layer: Omit<Layer, 'bitmap'>;
}

const IDLE_MS = 180;
const AGAIN_MS = [1000, 2000, 4000, 8000];
const BUSY = 503;
const OVERTAKEN = 409;

const recipes = new WeakMap<Recipe, number>();
let recipesKnown = 0;

/** Recipes are never changed, only replaced: each has a number. */
function numberOf(recipe: Recipe): number {
  const known = recipes.get(recipe) ?? ++recipesKnown;
  recipes.set(recipe, known);
  return known;
}

/** The pictures on the canvas, fetched one at a time. The last good one stays until the next is there. */
export class Pictures {
  now: Layer | null = null;
  nowWhole: Layer | null = null;
  before: Layer | null = null;
  beforeWhole: Layer | null = null;
  #wanted: Wanted | null = null;
  #running = false;
  #closed = false;
  #failures = 0;
  /** Ends the pause that the loop makes, if it makes one. */
  #wake = () => {};

  /** untouched: whether the photo as it came is drawn too, when it is held up. */
  constructor(
    readonly photoId: number,
    readonly onpicture: () => void,
    readonly ontrouble: (error: unknown) => void,
    readonly untouched = true,
  ) {}

  want(wanted: Wanted): void {
    this.#wanted = wanted;
    this.#failures = 0;
    this.#wake();
    if (!this.#running) void this.#run();
  }

  /** Nothing is fetched any more; what comes late is let go. */
  close(): void {
    this.#closed = true;
    this.#wake();
    for (const slot of ['now', 'nowWhole', 'before', 'beforeWhole'] as const) {
      this[slot]?.bitmap.close();
      this[slot] = null;
    }
  }

  async #run(): Promise<void> {
    this.#running = true;
    try {
      for (let todo = this.#next(); todo; todo = this.#next()) {
        // What is held behind is fetched when nothing else is wanted for a while.
        if (todo.slot !== 'now' && !(await this.#pause(IDLE_MS))) continue;
        await this.#fetch(todo);
      }
    } finally {
      this.#running = false;
    }
  }

  /** Whether nothing new was wanted meanwhile. */
  async #pause(milliseconds: number): Promise<boolean> {
    const wanted = this.#wanted;
    await new Promise<void>((resolve) => {
      const timer = setTimeout(resolve, milliseconds);
      this.#wake = () => {
        clearTimeout(timer);
        resolve();
      };
    });
    this.#wake = () => {};
    return wanted === this.#wanted && !this.#closed;
  }

  /** The first that is not there as it is wanted. */
  #next(): Todo | null {
    if (!this.#wanted || this.#closed) return null;
    return this.#todo(this.#wanted).find((todo) => !this.#isThere(todo)) ?? null;
  }

  #isThere({ slot, layer }: Todo): boolean {
    const there = this[slot];
    if (!there || there.what !== layer.what || !sameView(there.view, layer.view)) return false;
    // A draft does while a handle moves; a picture without haste always does.
    if (there.draft && !layer.draft) return false;
    if (there.version !== layer.version) {
      there.version = layer.version;
      this.onpicture();
    }
    return true;
  }

  #todo(wanted: Wanted): Todo[] {
    const { view, whole, draft } = wanted;
    const isWhole = sameView(view, whole);
    const came: Wanted = { ...wanted, show: 'before', figure: null };
    const todo = [askedFor('now', wanted, view, draft)];
    if (this.untouched) todo.push(askedFor('before', came, view, false));
    if (!isWhole) todo.push(askedFor('nowWhole', wanted, whole, false));
    if (this.untouched && !isWhole) todo.push(askedFor('beforeWhole', came, whole, false));
    return todo;
  }

  async #fetch({ slot, asked, layer }: Todo): Promise<void> {
    const wanted = this.#wanted;
    const stale = () => this.#closed || this.#wanted !== wanted;
    try {
      const question = { path: { photo_id: this.photoId }, body: asked };
      const address = '/api/photos/{photo_id}/picture';
      const bitmap = await callForPicture(address, question, stale);
      if (this.#closed) return bitmap.close();
      this[slot]?.bitmap.close();
      this[slot] = { ...layer, bitmap };
      this.#failures = 0;
      this.onpicture();
    } catch (error) {
      await this.#bear(error, stale);
    }
  }

  /** What failed is asked for again, later each time, as long as it is still wanted; a refusal is final. */
  async #bear(error: unknown, stale: () => boolean): Promise<void> {
    const status = error instanceof ApiError ? error.status : 0;
    if (stale() && (status === BUSY || status === OVERTAKEN)) return;
    if (this.#closed) return;
    this.ontrouble(error);
    if (stale()) return;
    const pause = AGAIN_MS[Math.min(this.#failures++, AGAIN_MS.length - 1)] ?? 0;
    if (status >= 400 && status < 500) this.#wanted = null;
    else await this.#pause(pause);
  }
}

function askedFor(slot: Slot, wanted: Wanted, view: View, draft: boolean): Todo {
  const { version, view: _, whole: __, recipe, ...rest } = wanted;
  const asked: PictureRequest = { ...rest, recipe, ...view, draft };
  return { slot, asked, layer: { view, version, draft, what: whatOf(wanted) } };
}

/** The photo as it came is the same for every recipe. */
function whatOf({ recipe, show, said, cast, part, ink, figure }: Wanted): string {
  if (show === 'before' && !figure) return 'before';
  return JSON.stringify([numberOf(recipe), show, said, cast, part, ink, figure]);
}
