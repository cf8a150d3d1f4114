import { describe, expect, it } from 'vitest';
import {
  fitted,
  MOST_ENLARGED,
  panned,
  placeOf,
  sameView,
  settled,
  toCanvas,
  toPhoto,
  viewOf,
  zoomedAt,
} from './viewport';

const photo = { width: 6000, height: 4000 };
const canvas = { width: 1000, height: 800 };
const fit = fitted(photo, canvas, 14);

describe('the viewport', () => {
  it('fits the whole photo, and never enlarges to do so', () => {
    expect(fit.scale).toBeCloseTo(972 / 6000, 9);
    expect(fitted({ width: 50, height: 40 }, canvas, 14).scale).toBe(1);
  });

  it('goes there and back', () => {
    const place = { x: 1234.5, y: 987.25 };
    const back = toPhoto(fit, canvas, toCanvas(fit, canvas, place));
    expect(back.x).toBeCloseTo(place.x, 6);
    expect(back.y).toBeCloseTo(place.y, 6);
  });

  it('holds what is under the pointer while it zooms', () => {
    const at = { x: 300, y: 200 };
    const near = zoomedAt(fit, canvas, at, 2);
    const [was, is] = [toPhoto(fit, canvas, at), toPhoto(near, canvas, at)];
    expect(is.x).toBeCloseTo(was.x, 6);
    expect(is.y).toBeCloseTo(was.y, 6);
  });

  it('settles within its bounds', () => {
    expect(settled({ ...fit, scale: 100 }, photo, canvas, 14).scale).toBe(MOST_ENLARGED);
    const far = settled(panned({ ...fit, scale: 1 }, 1e6, 1e6), photo, canvas, 14);
    expect([far.x, far.y]).toEqual([486, 386]);
    const centred = settled(panned(fit, 300, 200), photo, canvas, 14);
    expect([centred.x, centred.y]).toEqual([3000, 2000]);
  });

  it('asks the engine for what is on the canvas, and for no more pixels than there are', () => {
    const whole = viewOf(fit, photo, canvas);
    expect(whole).toEqual({ size: [972, 648], region: [0, 0, 972, 648] });
    const close = viewOf({ scale: 4, x: 3000, y: 2000 }, photo, canvas);
    expect(close.size).toEqual([6000, 4000]);
    expect(close.region).toEqual([2875, 1900, 3125, 2100]);
    expect(sameView(close, { ...close })).toBe(true);
    expect(sameView(close, whole)).toBe(false);
  });

  it('lays what was rendered for one zoom where another shows it', () => {
    const view = viewOf(fit, photo, canvas);
    expect(placeOf(view, fit, photo, canvas)).toEqual({
      left: 14,
      top: 76,
      width: 972,
      height: 648,
    });
    const twice = { ...fit, scale: 2 * fit.scale };
    expect(placeOf(view, twice, photo, canvas).width).toBe(1944);
  });
});
