import type { Stroke, Vector } from '../api/types';
import type { Point } from './viewport';

type StrokePoint = Stroke['points'][number];

/** Points nearer to the last than this share of the brush's size add nothing. */
const CLOSEST = 0.04;

/** Adds a point to those of a stroke that is under way. */
export function extend(points: StrokePoint[], at: Vector, pressure: number, size: number): void {
  const last = points.at(-1);
  if (last && Math.hypot(at[0] - last[0][0], at[1] - last[0][1]) < size * CLOSEST) return;
  points.push([at, pressure]);
}

/** A pen reports its pressure; a mouse has none and presses fully. */
export function pressureOf(event: PointerEvent): number {
  return event.pointerType === 'pen' ? Math.max(event.pressure, 0.02) : 1;
}

type Ink = 'paint' | 'thin' | 'erase';
const inks = new Map<Ink, CanvasPattern | string>();

/** Diagonal lines, dark and light side by side, so that they show on any photo; further apart where little is
 * painted, the other way round where it is taken away. What is drawn twice looks as if it were drawn once. */
function inkOf(context: CanvasRenderingContext2D, ink: Ink): CanvasPattern | string {
  const known = inks.get(ink);
  if (known) return known;
  const size = ink === 'thin' ? 18 : 9;
  const tile = new OffscreenCanvas(size, size);
  const pen = tile.getContext('2d');
  if (!pen) return '#888';
  for (let i = 0; i < size; i++) {
    const y = ink === 'erase' ? i : size - 1 - i;
    pen.fillStyle = ink === 'erase' ? 'rgb(250 250 250)' : 'rgb(16 16 16)';
    pen.fillRect(i, y, 1, 1);
    pen.fillStyle = 'rgb(240 240 240)';
    pen.fillRect((i + 1) % size, y, 1, 1);
  }
  const made = context.createPattern(tile, 'repeat') ?? '#888';
  inks.set(ink, made);
  return made;
}

export type EchoStroke = Pick<Stroke, 'points' | 'size' | 'erase' | 'feather' | 'edges'>;

/** Where fractions of the photo lie on a canvas. */
interface Scale {
  toCanvas: (at: Vector) => Point;
  lengthOnCanvas: (fraction: number) => number;
}

/** Instant echoes of strokes, until the engine's mask shows them; of one that grows, only what is new is drawn. */
export class Echoes {
  /** The points of the stroke that grows, and how many of them are drawn. */
  #points: StrokePoint[] | null = null;
  #drawn = 0;

  constructor(readonly scale: Scale) {}

  /** All of them: the photo lies elsewhere now, or some are not needed any more. */
  redraw(context: CanvasRenderingContext2D, done: EchoStroke[], growing: EchoStroke | null): void {
    context.clearRect(0, 0, context.canvas.width, context.canvas.height);
    this.#points = null;
    for (const stroke of done) this.#draw(context, stroke, 0);
    this.grow(context, growing);
  }

  /** What was added to a stroke since it was last drawn. */
  grow(context: CanvasRenderingContext2D, stroke: EchoStroke | null): void {
    if (!stroke) return;
    if (stroke.points !== this.#points) this.#drawn = 0;
    this.#points = stroke.points;
    if (stroke.points.length === this.#drawn) return;
    this.#draw(context, stroke, Math.max(this.#drawn - 1, 0));
    this.#drawn = stroke.points.length;
  }

  /** As wide as the engine paints it: pressure narrows the pen to half its width. */
  #draw(context: CanvasRenderingContext2D, stroke: EchoStroke, from: number): void {
    const { toCanvas, lengthOnCanvas } = this.scale;
    // Where the fade is half way, as the engine's outline will be. Of one that is held at edges, only its middle
    // is known before the engine has looked.
    const wide = lengthOnCanvas(stroke.size) * (1 - stroke.feather / 2) * (stroke.edges ? 0.3 : 1);
    context.lineCap = context.lineJoin = 'round';
    const single = stroke.points.length === 1;
    for (let i = from; i < stroke.points.length - (single ? 0 : 1); i++) {
      const [at, pressure] = stroke.points[i]!;
      const [to, next] = stroke.points[i + 1] ?? [at, pressure];
      const pressed = (pressure + next) / 2;
      const [a, b] = [toCanvas(at), toCanvas(to)];
      context.strokeStyle = inkOf(
        context,
        stroke.erase ? 'erase' : pressed < 0.5 ? 'thin' : 'paint',
      );
      context.lineWidth = wide * (0.5 + 0.5 * pressed);
      context.beginPath();
      context.moveTo(a.x, a.y);
      context.lineTo(single ? b.x + 0.01 : b.x, b.y);
      context.stroke();
    }
  }
}
