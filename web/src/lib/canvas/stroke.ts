import type { Stroke, Vector } from '../api/types';
import type { Point } from './viewport';

type StrokePoint = Stroke['points'][number];

/** Points nearer to the last than this share of the brush's size add nothing. */
const CLOSEST = 0.04;

export function extended(points: StrokePoint[], at: Vector, pressure: number, size: number) {
  const last = points.at(-1);
  if (last && Math.hypot(at[0] - last[0][0], at[1] - last[0][1]) < size * CLOSEST) return points;
  return [...points, [at, pressure] satisfies StrokePoint];
}

/** A pen reports its pressure; a mouse has none and presses fully. */
export function pressureOf(event: PointerEvent): number {
  return event.pointerType === 'pen' ? Math.max(event.pressure, 0.02) : 1;
}

let hatch: CanvasPattern | null = null;

/** Diagonal lines, dark and light side by side, so that they show on any photo. */
function hatchOf(context: CanvasRenderingContext2D): CanvasPattern | string {
  if (hatch) return hatch;
  const tile = new OffscreenCanvas(9, 9);
  const pen = tile.getContext('2d');
  if (!pen) return '#888';
  for (let i = 0; i < 9; i++) {
    pen.fillStyle = 'rgb(16 16 16 / 0.85)';
    pen.fillRect(i, 8 - i, 1, 1);
    pen.fillStyle = 'rgb(240 240 240 / 0.85)';
    pen.fillRect((i + 1) % 9, 8 - i, 1, 1);
  }
  hatch = context.createPattern(tile, 'repeat');
  return hatch ?? '#888';
}

/** An instant echo of a stroke; the engine's mask replaces it. */
export function drawEcho(
  context: CanvasRenderingContext2D,
  stroke: Pick<Stroke, 'points' | 'size' | 'erase' | 'feather' | 'edges'>,
  toCanvas: (at: Vector) => Point,
  lengthOnCanvas: (fraction: number) => number,
): void {
  context.save();
  context.lineCap = 'round';
  context.lineJoin = 'round';
  context.strokeStyle = stroke.erase ? 'rgb(240 240 240 / 0.35)' : hatchOf(context);
  // Where the fade is half way, as the engine's outline will be.
  const wide = lengthOnCanvas(stroke.size) * (1 - stroke.feather / 2);
  // One that is held at edges: only its middle is known before the engine has looked.
  context.lineWidth = stroke.edges ? wide * 0.3 : wide;
  context.beginPath();
  for (const [at] of stroke.points) {
    const { x, y } = toCanvas(at);
    context.lineTo(x, y);
    if (stroke.points.length === 1) context.lineTo(x + 0.01, y);
  }
  context.stroke();
  context.restore();
}
