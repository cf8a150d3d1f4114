/** Rows of even height for photos of all formats, and where each of them lies. */

/** Below each picture, for its name. */
export const CAPTION = 26;
export const GAP = 8;
/** How much higher than asked for a row may become, to end where the others do. */
const HIGHEST = 1.35;

export interface Format {
  id: number;
  width: number;
  height: number;
}

export interface Tile {
  id: number;
  /** Its place in the list. */
  index: number;
  x: number;
  y: number;
  width: number;
  /** Of the picture; its caption lies below. */
  height: number;
}

export interface Row {
  y: number;
  height: number;
  tiles: Tile[];
}

export interface Layout {
  rows: Row[];
  height: number;
}

/** As many photos to a row as fill the width at about that height; then the row is made to fit. */
export function layOut(photos: readonly Format[], width: number, height: number): Layout {
  const rows: Row[] = [];
  let y = 0;
  let first = 0;
  while (first < photos.length) {
    let last = first;
    let ratio = 0;
    while (last < photos.length && ratio * height + (last - first - 1) * GAP < width) {
      const photo = photos[last]!;
      ratio += photo.width / photo.height;
      last += 1;
    }
    const room = width - (last - first - 1) * GAP;
    // The last row need not fill the width.
    const full = ratio * height >= room;
    const high = full ? room / ratio : Math.min(height, room / ratio);
    const tall = Math.min(high, height * HIGHEST);
    rows.push(rowOf(photos, first, last, y, tall));
    y += tall + CAPTION + GAP;
    first = last;
  }
  return { rows, height: Math.max(y - GAP, 0) };
}

/** Where to scroll so that a row is seen whole, with the margin around the rows; as it is, if it is seen. */
export function scrolledTo(row: Row, top: number, height: number, margin: number): number {
  if (row.y < top) return row.y;
  const below = row.y + row.height + margin > top + height;
  return below ? row.y + row.height + 2 * margin - height : top;
}

function rowOf(
  photos: readonly Format[],
  first: number,
  last: number,
  y: number,
  height: number,
): Row {
  const tiles: Tile[] = [];
  let x = 0;
  for (let index = first; index < last; index += 1) {
    const photo = photos[index]!;
    const width = (photo.width / photo.height) * height;
    tiles.push({ id: photo.id, index, x, y, width, height });
    x += width + GAP;
  }
  return { y, height: height + CAPTION, tiles };
}

/** The rows that may be seen between two heights. */
export function rowsWithin(layout: Layout, top: number, bottom: number): Row[] {
  return layout.rows.filter((row) => row.y + row.height > top && row.y < bottom);
}

export interface Rect {
  x0: number;
  y0: number;
  x1: number;
  y1: number;
}

/** Photos that a rectangle touches. */
export function touched(layout: Layout, rect: Rect): number[] {
  const [left, right] = [Math.min(rect.x0, rect.x1), Math.max(rect.x0, rect.x1)];
  const [top, bottom] = [Math.min(rect.y0, rect.y1), Math.max(rect.y0, rect.y1)];
  return rowsWithin(layout, top, bottom).flatMap((row) =>
    row.tiles
      .filter((t) => t.x < right && t.x + t.width > left && t.y < bottom && t.y + t.height > top)
      .map((t) => t.id),
  );
}

export type Way = 'left' | 'right' | 'up' | 'down' | 'first' | 'last';

/** The photo beside, above or below another. */
export function beside(layout: Layout, id: number, way: Way): number {
  const all = layout.rows.flatMap((row) => row.tiles);
  const at = all.findIndex((t) => t.id === id);
  const here = all[at];
  if (!here) return all[0]?.id ?? id;
  if (way === 'first') return all[0]!.id;
  if (way === 'last') return all.at(-1)!.id;
  if (way === 'left' || way === 'right')
    return all[Math.min(Math.max(at + (way === 'left' ? -1 : 1), 0), all.length - 1)]!.id;
  const number = layout.rows.findIndex((row) => row.tiles.includes(here));
  const row = layout.rows[number + (way === 'up' ? -1 : 1)];
  if (!row) return id;
  const middle = here.x + here.width / 2;
  const off = (t: Tile): number => Math.abs(t.x + t.width / 2 - middle);
  return row.tiles.reduce((best, t) => (off(t) < off(best) ? t : best)).id;
}
