import { describe, expect, it } from 'vitest';
import { beside, CAPTION, layOut, rowsWithin, scrolledTo, touched, type Format } from './rows';

const landscape = (id: number): Format => ({ id, width: 3, height: 2 });
const portrait = (id: number): Format => ({ id, width: 2, height: 3 });
const mixed = Array.from({ length: 500 }, (_, i) => (i % 3 ? landscape(i) : portrait(i)));

describe('rows of a sheet', () => {
  it('are of even height and fill the width, whatever the formats', () => {
    const { rows } = layOut(mixed, 1200, 200);
    for (const row of rows.slice(0, -1)) {
      const last = row.tiles.at(-1)!;
      expect(last.x + last.width).toBeCloseTo(1200);
      expect(new Set(row.tiles.map((t) => t.height)).size).toBe(1);
      expect(row.height - CAPTION).toBeGreaterThan(130);
      expect(row.height - CAPTION).toBeLessThan(200.01);
    }
    expect(rows.flatMap((r) => r.tiles.map((t) => t.id))).toEqual(mixed.map((p) => p.id));
  });

  it('let the last one be as wide as it comes', () => {
    const { rows } = layOut([landscape(1)], 1200, 200);
    expect(rows[0]!.tiles[0]).toMatchObject({ width: 300, height: 200 });
    const narrow = layOut([landscape(1)], 150, 200);
    expect(narrow.rows[0]!.tiles[0]!.width).toBeCloseTo(150);
  });

  it('are scrolled to no farther than it takes', () => {
    const row = { y: 500, height: 100, tiles: [] };
    expect(scrolledTo(row, 520, 400, 14)).toBe(500);
    expect(scrolledTo(row, 214, 400, 14)).toBe(214);
    expect(scrolledTo(row, 213, 400, 14)).toBe(228);
    expect(scrolledTo(row, 0, 400, 14)).toBe(228);
  });

  it('are drawn only where they are seen', () => {
    const layout = layOut(mixed, 1200, 200);
    const seen = rowsWithin(layout, 1000, 1800);
    expect(seen.length).toBeLessThan(7);
    expect(seen.every((r) => r.y < 1800 && r.y + r.height > 1000)).toBe(true);
  });

  it('know what a rectangle touches, drawn either way', () => {
    const layout = layOut([1, 2, 3, 4].map(landscape), 608, 200);
    const rect = { x0: 10, y0: 10, x1: 20, y1: layout.height };
    expect(touched(layout, rect)).toEqual([1, 3]);
    expect(touched(layout, { x0: 600, y0: 30, x1: 290, y1: 20 })).toEqual([1, 2]);
  });

  it('know the neighbours of each', () => {
    const layout = layOut([1, 2, 3, 4, 5].map(landscape), 608, 200);
    expect(beside(layout, 1, 'right')).toBe(2);
    expect(beside(layout, 2, 'down')).toBe(4);
    expect(beside(layout, 4, 'down')).toBe(5);
    expect(beside(layout, 1, 'up')).toBe(1);
    expect(beside(layout, 3, 'left')).toBe(2);
    expect([beside(layout, 3, 'first'), beside(layout, 3, 'last')]).toEqual([1, 5]);
  });
});
