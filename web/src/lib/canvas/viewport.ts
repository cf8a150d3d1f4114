// How the photo lies on the canvas. Lengths on the canvas are device pixels; places are photo pixels.

export interface Extent {
  width: number;
  height: number;
}

export interface Point {
  x: number;
  y: number;
}

/** scale: canvas pixels per photo pixel; x, y: the photo's place at the canvas's centre. */
export interface Viewport {
  scale: number;
  x: number;
  y: number;
}

/** size: the whole photo at this zoom; region: x0, y0, x1, y1 in its pixels. */
export interface View {
  size: [number, number];
  region: [number, number, number, number];
}

export const MOST_ENLARGED = 24;

/** The largest scale at which the whole photo is seen, never enlarged. */
export function fitScale(photo: Extent, canvas: Extent, margin: number): number {
  const wide = Math.max(canvas.width - 2 * margin, 16) / photo.width;
  const tall = Math.max(canvas.height - 2 * margin, 16) / photo.height;
  return Math.min(wide, tall, 1);
}

export function fitted(photo: Extent, canvas: Extent, margin: number): Viewport {
  return { scale: fitScale(photo, canvas, margin), x: photo.width / 2, y: photo.height / 2 };
}

export function toPhoto(v: Viewport, canvas: Extent, at: Point): Point {
  return {
    x: v.x + (at.x - canvas.width / 2) / v.scale,
    y: v.y + (at.y - canvas.height / 2) / v.scale,
  };
}

export function toCanvas(v: Viewport, canvas: Extent, at: Point): Point {
  return {
    x: canvas.width / 2 + (at.x - v.x) * v.scale,
    y: canvas.height / 2 + (at.y - v.y) * v.scale,
  };
}

/** Zoom so that the photo's place under `at` stays under it. */
export function zoomedAt(v: Viewport, canvas: Extent, at: Point, scale: number): Viewport {
  const held = toPhoto(v, canvas, at);
  return {
    scale,
    x: held.x - (at.x - canvas.width / 2) / scale,
    y: held.y - (at.y - canvas.height / 2) / scale,
  };
}

export function panned(v: Viewport, dx: number, dy: number): Viewport {
  return { ...v, x: v.x - dx / v.scale, y: v.y - dy / v.scale };
}

/** Within the allowed zoom, the centre on the photo, and centred along a side that fits. */
export function settled(v: Viewport, photo: Extent, canvas: Extent, margin: number): Viewport {
  const least = fitScale(photo, canvas, margin);
  const scale = Math.min(Math.max(v.scale, least), MOST_ENLARGED);
  const along = (at: number, length: number, room: number) => {
    if (length * scale <= room - 2 * margin + 1) return length / 2;
    const half = Math.max((room - 2 * margin) / 2 / scale, 0);
    return Math.min(Math.max(at, Math.min(half, length / 2)), Math.max(length - half, length / 2));
  };
  return {
    scale,
    x: along(v.x, photo.width, canvas.width),
    y: along(v.y, photo.height, canvas.height),
  };
}

/** What the engine should render for this viewport: never enlarged, only what is on the canvas. */
export function viewOf(v: Viewport, photo: Extent, canvas: Extent): View {
  const shown = Math.min(v.scale, 1);
  const size: [number, number] = [
    Math.max(1, Math.round(photo.width * shown)),
    Math.max(1, Math.round(photo.height * shown)),
  ];
  const from = toPhoto(v, canvas, { x: 0, y: 0 });
  const to = toPhoto(v, canvas, { x: canvas.width, y: canvas.height });
  const fx = size[0] / photo.width;
  const fy = size[1] / photo.height;
  const within = (at: number, most: number) => Math.min(Math.max(at, 0), most);
  const x0 = within(Math.floor(from.x * fx), size[0] - 1);
  const y0 = within(Math.floor(from.y * fy), size[1] - 1);
  return {
    size,
    region: [
      x0,
      y0,
      Math.max(x0 + 1, within(Math.ceil(to.x * fx), size[0])),
      Math.max(y0 + 1, within(Math.ceil(to.y * fy), size[1])),
    ],
  };
}

/** Where a rendered region lies on the canvas now, whatever zoom it was rendered for. */
export function placeOf(view: View, v: Viewport, photo: Extent, canvas: Extent) {
  const [x0, y0, x1, y1] = view.region;
  const fx = photo.width / view.size[0];
  const fy = photo.height / view.size[1];
  const from = toCanvas(v, canvas, { x: x0 * fx, y: y0 * fy });
  const to = toCanvas(v, canvas, { x: x1 * fx, y: y1 * fy });
  const left = Math.round(from.x);
  const top = Math.round(from.y);
  return { left, top, width: Math.round(to.x) - left, height: Math.round(to.y) - top };
}

export function sameView(one: View, two: View): boolean {
  return `${one.size},${one.region}` === `${two.size},${two.region}`;
}
