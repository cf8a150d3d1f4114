import type { Vector } from '../api/types';
import * as geometry from './viewport';

const MARGIN = 14; // CSS pixels of surround when fitted

/** How the photo lies on the canvas: zoom, pan, and the way between pixels and places. */
export class Stage {
  viewport = $state.raw<geometry.Viewport>({ scale: 1, x: 0, y: 0 });
  /** Device pixels. */
  canvas = $state.raw<geometry.Extent>({ width: 1, height: 1 });
  dpr = $state(1);
  #followsFit = true;

  constructor(readonly photo: geometry.Extent) {}

  get longEdge(): number {
    return Math.max(this.photo.width, this.photo.height);
  }

  get margin(): number {
    return MARGIN * this.dpr;
  }

  /** Keep to the size of an element, until the returned function is called. */
  follow(holder: HTMLElement): () => void {
    const observer = new ResizeObserver(([entry]) => {
      if (entry) this.resize(entry.contentRect.width, entry.contentRect.height);
    });
    observer.observe(holder);
    return () => observer.disconnect();
  }

  resize(width: number, height: number): void {
    this.dpr = window.devicePixelRatio || 1;
    this.canvas = {
      width: Math.max(1, Math.round(width * this.dpr)),
      height: Math.max(1, Math.round(height * this.dpr)),
    };
    if (this.#followsFit) this.fit();
    else this.#settle(this.viewport);
  }

  fit(): void {
    this.viewport = geometry.fitted(this.photo, this.canvas, this.margin);
    this.#followsFit = true;
  }

  get fitted(): boolean {
    const least = geometry.fitScale(this.photo, this.canvas, this.margin);
    return Math.abs(this.viewport.scale - least) < 1e-9;
  }

  zoomTo(scale: number, at?: geometry.Point): void {
    const centre = { x: this.canvas.width / 2, y: this.canvas.height / 2 };
    this.#settle(geometry.zoomedAt(this.viewport, this.canvas, at ?? centre, scale));
  }

  pan(dx: number, dy: number): void {
    this.#settle(geometry.panned(this.viewport, dx * this.dpr, dy * this.dpr));
  }

  get view(): geometry.View {
    return geometry.viewOf(this.viewport, this.photo, this.canvas);
  }

  /** The whole photo, fitted. */
  get whole(): geometry.View {
    const { photo } = this;
    const fit = geometry.fitted(photo, this.canvas, this.margin);
    return geometry.viewOf(fit, photo, this.canvas);
  }

  placeOf(view: geometry.View) {
    return geometry.placeOf(view, this.viewport, this.photo, this.canvas);
  }

  /** A place in fractions of the long edge to device pixels on the canvas. */
  toCanvas(at: Vector): geometry.Point {
    const long = this.longEdge;
    return geometry.toCanvas(this.viewport, this.canvas, { x: at[0] * long, y: at[1] * long });
  }

  /** The same in CSS pixels. */
  toScreen(at: Vector): geometry.Point {
    const { x, y } = this.toCanvas(at);
    return { x: x / this.dpr, y: y / this.dpr };
  }

  /** CSS pixels on the canvas to fractions of the long edge, wherever that is. */
  toPlace(at: geometry.Point): Vector {
    const long = this.longEdge;
    const device = { x: at.x * this.dpr, y: at.y * this.dpr };
    const { x, y } = geometry.toPhoto(this.viewport, this.canvas, device);
    return [x / long, y / long];
  }

  onPhoto([x, y]: Vector): boolean {
    const { photo, longEdge } = this;
    return x >= 0 && y >= 0 && x * longEdge < photo.width && y * longEdge < photo.height;
  }

  /** The nearest place on the photo. */
  held([x, y]: Vector): Vector {
    const { photo, longEdge } = this;
    const within = (v: number, most: number): number => Math.min(Math.max(v, 0), most / longEdge);
    return [within(x, photo.width), within(y, photo.height)];
  }

  /** A fraction of the long edge in device pixels. */
  lengthOnCanvas(fraction: number): number {
    return fraction * this.longEdge * this.viewport.scale;
  }

  #settle(viewport: geometry.Viewport): void {
    this.viewport = geometry.settled(viewport, this.photo, this.canvas, this.margin);
    this.#followsFit = this.fitted;
  }
}
