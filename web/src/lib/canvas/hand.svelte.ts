import type { Box, Remedy, Stroke, Vector } from '../api/types';
import type { Held } from '../sample/sampler';
import { same } from '../recipe/edit';
import { descriptorOf } from '../remedy/descriptors';
import { colourAt } from '../shaping/shape-reader.svelte';
import { type Studio } from '../studio/studio.svelte';
import {
  BRUSHING,
  type Drawing,
  isDrawing,
  SAMPLING,
  SCRIBBLE,
  SCRIBBLING,
  WASHING,
} from '../studio/tools';
import type { Stage } from './stage.svelte';
import { extend, pressureOf } from './stroke';
import type { Point } from './viewport';

/** The arrow keys, and where each leads. */
export const WAYS: Record<string, Vector> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

const MOST_COLLECTED = 50;
const CLICK = 3; // CSS pixels that a click may slip

/** What pointer, pen, wheel and keys do on the photo, by the tool in hand. */
export class Hand {
  /** CSS pixels on the canvas; null while the pointer is elsewhere. */
  pointer = $state.raw<Point | null>(null);
  stroke = $state.raw<Stroke | null>(null);
  dragging = $state(false);
  /** The remedy as it was when a drag of its handles began. */
  turning = $state.raw<Remedy | null>(null);
  /** The remedy before anything was taken hold of. */
  #before: Remedy | null = null;
  /** The focus ring shows only to those who came by the keyboard: it must not lie round a judged picture. */
  byKeyboard = $state(false);
  /** Whether the pointer is down with a drawing tool. */
  #pressed = false;
  #last: Point = { x: 0, y: 0 };
  /** Places that a drag with a sampling tool has passed. */
  #collecting: { places: Vector[]; how: Held } | null = null;
  /** Where the pointer went down to look, until it has moved: a click chooses what is masked there. */
  #clicked: Vector | null = null;
  /** Where the rectangle being dragged began. */
  #corner: Vector | null = null;

  constructor(
    readonly studio: Studio,
    readonly stage: Stage,
    /** Whether the key that turns every tool into one that moves the photo is held. */
    readonly panningKey: () => boolean,
    readonly onstroke: (stroke: Stroke) => void,
  ) {}

  get panning(): boolean {
    return this.panningKey();
  }

  get brushing(): boolean {
    return BRUSHING.includes(this.studio.tool) && !this.panning && !this.picking;
  }

  /** While a wash is painted a key makes a click take a tone. */
  get picking(): boolean {
    return WASHING.includes(this.studio.tool) && this.studio.washing.picking;
  }

  get washing(): boolean {
    return WASHING.includes(this.studio.tool);
  }

  get sampling(): boolean {
    return (SAMPLING.includes(this.studio.tool) || this.picking) && !this.panning;
  }

  down(event: PointerEvent & { currentTarget: HTMLElement }): void {
    if (event.button > 1) return;
    this.byKeyboard = false;
    event.currentTarget.setPointerCapture(event.pointerId);
    const at = pointOn(event.currentTarget, event);
    const place = this.stage.toPlace(at);
    if (event.button === 1 || this.panning || this.studio.tool === 'look') {
      this.dragging = true;
      this.#last = at;
      this.#clicked = event.button === 0 && !this.panning ? place : null;
    } else if (this.studio.tool === 'turn') {
      this.#startTurn(at, place);
    } else if (this.studio.tool === 'touch') {
      this.#last = at;
      if (this.stage.onPhoto(place)) this.studio.touching.press(place);
    } else if (isDrawing(this.studio.tool)) {
      this.#pressed = true;
      this.studio.drawing.down(this.studio.tool, place);
    } else if (this.studio.tool === 'box') {
      this.#corner = this.stage.held(place);
    } else if (this.brushing) {
      this.#startStroke(place, pressureOf(event), event);
    } else {
      this.#collecting = {
        places: [place],
        how: { adding: event.shiftKey, leaving: event.altKey },
      };
    }
  }

  move(event: PointerEvent & { currentTarget: HTMLElement }): void {
    const at = pointOn(event.currentTarget, event);
    this.pointer = at;
    if (this.dragging) {
      const far = Math.hypot(at.x - this.#last.x, at.y - this.#last.y) > CLICK;
      if (this.#clicked && !far) return;
      this.#clicked = null;
      this.stage.pan(at.x - this.#last.x, at.y - this.#last.y);
      this.#last = at;
    } else if (this.#pressed) {
      this.studio.drawing.move(this.stage.toPlace(at));
    } else if (this.turning) {
      this.#turn([at.x - this.#last.x, at.y - this.#last.y], event.shiftKey);
    } else if (this.studio.touching.held) {
      this.studio.touching.drag(at.x - this.#last.x);
    } else if (this.#corner) {
      this.studio.scopes.box = boxBetween(this.#corner, this.stage.held(this.stage.toPlace(at)));
    } else if (this.#collecting) {
      this.#collect(this.stage.toPlace(at));
    } else if (this.stroke) {
      const events = event.getCoalescedEvents?.() ?? [];
      const { points } = this.stroke;
      for (const one of events.length ? events : [event]) {
        const place = this.stage.toPlace(pointOn(event.currentTarget, one));
        extend(points, place, pressureOf(one), this.stroke.size);
      }
      this.stroke = { ...this.stroke };
      // What is in a recipe does not grow.
      if (this.washing) this.studio.washing.paint([...points], this.stroke.erase ?? false, false);
      else if (this.stroke.edges)
        this.studio.masking.paint({ ...this.stroke, points: [...points] }, false);
    }
    this.#hover(at);
  }

  up(): void {
    this.dragging = false;
    if (this.#clicked) void this.studio.masking.selectAt(this.#clicked);
    this.#clicked = null;
    this.#corner = null;
    if (this.#pressed) this.studio.drawing.up();
    this.#pressed = false;
    this.#endTurn();
    this.studio.touching.release();
    if (this.#collecting) {
      const { places, how } = this.#collecting;
      this.#collecting = null;
      this.#sample(places, how);
    }
    this.#endStroke();
  }

  leave(): void {
    this.pointer = null;
    this.studio.probe.hover(null);
  }

  wheel(event: WheelEvent & { currentTarget: HTMLElement }): void {
    event.preventDefault();
    const delta = event.deltaMode === 1 ? event.deltaY * 16 : event.deltaY;
    if (event.altKey && this.brushing && !SCRIBBLING.includes(this.studio.tool)) {
      const { brush } = this.washing ? this.studio.washing : this.studio.masking;
      brush.size = Math.min(Math.max(brush.size * Math.exp(-delta * 0.001), 0.002), 1);
      return;
    }
    const { x, y } = pointOn(event.currentTarget, event);
    const factor = Math.exp(-delta * (event.ctrlKey ? 0.008 : 0.0016));
    const { dpr, viewport } = this.stage;
    this.stage.zoomTo(viewport.scale * factor, { x: x * dpr, y: y * dpr });
  }

  /** The keyboard moves the pointer over the photo and clicks with Enter. */
  key(event: KeyboardEvent & { currentTarget: HTMLElement }): void {
    const way = WAYS[event.key];
    if (!way && event.key !== 'Enter') return;
    event.preventDefault();
    const box = event.currentTarget.getBoundingClientRect();
    const at = this.pointer ?? { x: box.width / 2, y: box.height / 2 };
    if (way && this.studio.tool === 'turn') {
      const size = event.altKey ? 1 : 10;
      this.#startTurn(at);
      this.#turn([way[0] * size, way[1] * size], event.shiftKey);
      this.#endTurn();
      return;
    }
    if (way) {
      this.byKeyboard = true;
      const step = event.shiftKey ? 50 : event.altKey ? 1 : 8;
      this.pointer = { x: at.x + way[0] * step, y: at.y + way[1] * step };
      this.#hover(this.pointer);
      return;
    }
    const place = this.stage.toPlace(at);
    if (isDrawing(this.studio.tool)) this.#drawByKey(this.studio.tool, place, event.shiftKey);
    const held = { adding: event.shiftKey, leaving: event.altKey };
    if (this.sampling) this.#sample([place], held);
    if (this.studio.tool === 'look') void this.studio.masking.selectAt(place);
    if (this.studio.tool === 'touch') this.#touchByKey(place);
    if (this.brushing) {
      this.#startStroke(place, 1, event);
      this.#endStroke();
    }
  }

  /** The list's number is then what the arrows move. */
  #touchByKey(place: Vector): void {
    if (!this.stage.onPhoto(place)) return;
    this.studio.touching.press(place);
    this.studio.touching.release();
  }

  /** place: on the photo, where some remedies take hold of a colour first. */
  #startTurn(at: Point, place?: Vector): void {
    this.#last = at;
    const from = this.studio.remedy;
    this.#before = from ?? null;
    if (from && place && descriptorOf(from).grab) void this.#grab(from, place);
    else this.turning = this.#before;
  }

  /** The drag goes on from there when the engine has said which colour it is; or is over by then. */
  async #grab(from: Remedy, place: Vector): Promise<void> {
    if (!this.stage.onPhoto(place)) return;
    await this.studio.attempt(async () => {
      const colour = await colourAt(this.studio, place);
      const held = colour && descriptorOf(from).grab?.(from, colour);
      if (!held || this.studio.remedy?.id !== from.id) return;
      const over = this.#before === null;
      this.studio.changeRemedy(() => held, over);
      if (!over) this.turning = held;
    });
  }

  /** From where the drag began, so that what it comes to does not depend on its way. */
  #turn(by: Vector, other: boolean): void {
    const from = this.turning;
    if (from) this.studio.changeRemedy(() => descriptorOf(from).dragged(from, by, other), false);
  }

  #endTurn(): void {
    const changed = this.turning && !same(this.#before, this.studio.remedy);
    this.turning = this.#before = null;
    if (changed) this.studio.commit();
  }

  /** Enter presses and, the next time, lifts; a path's points are pressed, and Shift closes it. */
  #drawByKey(tool: Drawing, place: Vector, closing: boolean): void {
    const { drawing } = this.studio;
    if (tool === 'path' && closing) drawing.close();
    else if (tool === 'path' || drawing.idle) drawing.down(tool, place);
    else {
      drawing.move(place);
      drawing.up();
    }
  }

  #hover(at: Point): void {
    const place = this.stage.toPlace(at);
    this.studio.probe.hover(this.stage.onPhoto(place) ? place : null);
  }

  #collect(place: Vector): void {
    const places = this.#collecting?.places ?? [];
    const [x, y] = places.at(-1) ?? place;
    const far = Math.hypot(place[0] - x, place[1] - y) > 2 * this.studio.probe.radius;
    if (far && places.length < MOST_COLLECTED && this.stage.onPhoto(place)) places.push(place);
  }

  #sample([first, ...further]: Vector[], how: Held): void {
    // Taken, it is painted with again.
    if (this.picking) this.studio.tool = 'tone';
    if (first && this.stage.onPhoto(first)) void this.studio.sampler.take(first, how, further);
  }

  /** Alt erases; Shift draws a straight line from where the last stroke ended. */
  #startStroke(at: Vector, pressure: number, keys: { altKey: boolean; shiftKey: boolean }): void {
    if (!this.studio.cast) {
      this.studio.complain('work', 'A mask belongs to a cast: sample a tainted place first');
      return;
    }
    if (SCRIBBLING.includes(this.studio.tool)) {
      const plain = { size: SCRIBBLE, feather: 0, flow: 1, opacity: 1, edges: false };
      this.stroke = { ...plain, erase: this.studio.tool === 'other', points: [[at, 1]] };
      return;
    }
    if (this.washing && this.studio.washing.missing) {
      this.studio.complain('work', this.studio.washing.missing);
      return;
    }
    const erase = this.studio.tool === 'erase' || this.studio.tool === 'unwash' || keys.altKey;
    const { brush, lastPoint } = this.washing ? this.studio.washing : this.studio.masking;
    const last = keys.shiftKey ? lastPoint : undefined;
    const points: Stroke['points'] = last ? [last, [at, pressure]] : [[at, pressure]];
    this.stroke = { ...brush, erase, points };
  }

  #endStroke(): void {
    if (!this.stroke) return;
    const done = this.stroke;
    this.stroke = null;
    if (SCRIBBLING.includes(this.studio.tool)) this.studio.masking.scribble(done);
    else if (this.washing) this.studio.washing.paint(done.points, done.erase ?? false);
    else this.studio.masking.paint(done);
    if (!this.washing) this.onstroke(done);
  }
}

function boxBetween([ax, ay]: Vector, [bx, by]: Vector): Box {
  return [Math.min(ax, bx), Math.min(ay, by), Math.max(ax, bx), Math.max(ay, by)];
}

function pointOn(element: HTMLElement, event: { clientX: number; clientY: number }): Point {
  const box = element.getBoundingClientRect();
  return { x: event.clientX - box.left, y: event.clientY - box.top };
}
