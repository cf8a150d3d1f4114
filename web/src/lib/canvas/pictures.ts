import { callForPicture } from '../api/client';
import { LatestWins } from '../api/latest-wins';
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

export interface Layer {
  bitmap: ImageBitmap;
  view: View;
  version: number;
}

function asItCame(wanted: Wanted): Wanted {
  return { ...wanted, show: 'before', figure: null };
}

const IDLE_MS = 180;

/** The pictures on the canvas. The last good one stays until the next is there. */
export class Pictures {
  now: Layer | null = null;
  nowWhole: Layer | null = null;
  before: Layer | null = null;
  beforeWhole: Layer | null = null;
  #latest: LatestWins<Wanted>;
  #idle = 0;

  constructor(
    readonly photoId: number,
    readonly onpicture: () => void,
    readonly ontrouble: (error: unknown) => void,
  ) {
    this.#latest = new LatestWins((wanted) => this.#paint(wanted));
  }

  want(wanted: Wanted): void {
    clearTimeout(this.#idle);
    this.#latest.want(wanted);
  }

  close(): void {
    clearTimeout(this.#idle);
    for (const layer of [this.now, this.nowWhole, this.before, this.beforeWhole])
      layer?.bitmap.close();
  }

  async #paint(wanted: Wanted): Promise<void> {
    try {
      this.now = this.#replaced(this.now, await this.#fetch(wanted, wanted.view));
      this.onpicture();
    } catch (error) {
      this.ontrouble(error);
    }
    clearTimeout(this.#idle);
    this.#idle = window.setTimeout(() => void this.#catchUp(wanted), IDLE_MS);
  }

  /** With nothing else to do: the untouched photo, ready to be held up, and the whole behind. */
  async #catchUp(wanted: Wanted): Promise<void> {
    const { view, whole } = wanted;
    wanted = { ...wanted, draft: false };
    try {
      if (!this.before || !sameView(this.before.view, view)) {
        const untouched = await this.#fetch(asItCame(wanted), view);
        this.before = this.#replaced(this.before, untouched);
        this.onpicture();
      }
      if (sameView(view, whole)) {
        return;
      }
      if (this.nowWhole?.version !== wanted.version) {
        this.nowWhole = this.#replaced(this.nowWhole, await this.#fetch(wanted, whole));
        this.onpicture();
      }
      if (!this.beforeWhole || !sameView(this.beforeWhole.view, whole)) {
        const untouched = await this.#fetch(asItCame(wanted), whole);
        this.beforeWhole = this.#replaced(this.beforeWhole, untouched);
      }
    } catch (error) {
      this.ontrouble(error);
    }
  }

  #replaced(old: Layer | null, layer: Layer): Layer {
    old?.bitmap.close();
    return layer;
  }

  async #fetch(wanted: Wanted, view: View): Promise<Layer> {
    const { version, view: _, whole: __, ...asked } = wanted;
    const body: PictureRequest = { ...asked, ...view };
    const bitmap = await callForPicture('/api/photos/{photo_id}/picture', {
      path: { photo_id: this.photoId },
      body,
    });
    return { bitmap, view, version };
  }
}
