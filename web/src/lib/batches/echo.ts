import type { Stroke } from '../api/types';

/** A stroke under way, until the engine's mask is there: its outline's inside, hatched. size: of the pen, as a
 * share of the long edge. */
export function echo(canvas: HTMLCanvasElement, points: Stroke['points'], size: number): void {
  const context = canvas.getContext('2d');
  if (!context) return;
  const edge = Math.max(canvas.width, canvas.height);
  context.clearRect(0, 0, canvas.width, canvas.height);
  context.lineCap = context.lineJoin = 'round';
  context.lineWidth = size * edge;
  context.strokeStyle = '#161616';
  context.beginPath();
  for (const [[x, y]] of points) context.lineTo(x * edge, y * edge);
  const [first] = points;
  if (points.length === 1 && first) context.lineTo(first[0][0] * edge + 0.1, first[0][1] * edge);
  context.stroke();
  // Only every few pixels of it, so that the photo is seen below.
  context.globalCompositeOperation = 'destination-in';
  context.lineWidth = 1.2;
  context.beginPath();
  for (let x = -canvas.height; x < canvas.width; x += 7) {
    context.moveTo(x, canvas.height);
    context.lineTo(x + canvas.height, 0);
  }
  context.stroke();
  context.globalCompositeOperation = 'source-over';
}
