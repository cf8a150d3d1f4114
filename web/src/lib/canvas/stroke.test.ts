import { beforeEach, describe, expect, it, vi } from 'vitest';
import { Echoes, type EchoStroke, extend } from './stroke';

/** A canvas that notes what is drawn on it. */
function canvas() {
  const lines: { width: number; from: number; to: number }[] = [];
  let from = 0;
  let to = 0;
  const context = {
    canvas: { width: 100, height: 100 },
    lineWidth: 0,
    cleared: 0,
    clearRect: () => (context.cleared += 1),
    createPattern: () => 'hatch',
    beginPath: () => {},
    moveTo: (x: number) => (from = x),
    lineTo: (x: number) => (to = x),
    stroke: () => lines.push({ width: context.lineWidth, from, to }),
  };
  return { context, lines, drawOn: context as unknown as CanvasRenderingContext2D };
}

const scale = {
  toCanvas: ([x, y]: [number, number]) => ({ x: 100 * x, y: 100 * y }),
  lengthOnCanvas: (fraction: number) => 100 * fraction,
};
const stroke = (more: Partial<EchoStroke> = {}): EchoStroke => ({
  points: [[[0, 0], 1]],
  size: 0.1,
  feather: 0,
  erase: false,
  edges: false,
  ...more,
});

beforeEach(() => {
  const pen = { getContext: () => ({ fillRect: () => {} }) };
  vi.stubGlobal('OffscreenCanvas', function () {
    return pen;
  });
});

describe('the echo of a stroke', () => {
  it('draws each piece once while the stroke grows', () => {
    const { lines, context, drawOn } = canvas();
    const echoes = new Echoes(scale);
    const one = stroke();
    for (let i = 0; i <= 50; i++) {
      if (i) extend(one.points, [i / 100, 0], 1, one.size);
      echoes.grow(drawOn, { ...one });
    }
    // A dot where it began, and a line for each point that was far enough from the last.
    expect(lines.length).toBe(one.points.length);
    expect(lines.at(-1)!.to).toBe(50);
    expect(context.cleared).toBe(0);
    lines.length = 0;
    echoes.redraw(drawOn, [], one);
    expect(lines.length).toBe(one.points.length - 1);
    lines.length = 0;
    echoes.grow(drawOn, one);
    expect(lines).toEqual([]);
  });

  it('is as narrow as the pressure makes the pen, and half way through the fade', () => {
    const { lines, drawOn } = canvas();
    const points: EchoStroke['points'] = [
      [[0, 0], 0],
      [[0.1, 0], 0],
      [[0.2, 0], 1],
      [[0.3, 0], 1],
    ];
    new Echoes(scale).redraw(drawOn, [stroke({ points, feather: 0.5 })], null);
    expect(lines.map((l) => l.width)).toEqual([3.75, 5.625, 7.5]);
  });

  it('begins anew with another stroke', () => {
    const { lines, drawOn } = canvas();
    const echoes = new Echoes(scale);
    echoes.grow(
      drawOn,
      stroke({
        points: [
          [[0, 0], 1],
          [[0.5, 0], 1],
        ],
      }),
    );
    echoes.grow(drawOn, stroke({ points: [[[0.9, 0], 1]] }));
    expect(lines.map((l) => Math.round(l.from))).toEqual([0, 90]);
    echoes.grow(drawOn, null);
    expect(lines).toHaveLength(2);
  });
});
