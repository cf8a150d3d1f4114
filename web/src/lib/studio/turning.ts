import type { Remedy } from '../api/types';
import { SETTINGS } from '../bench/remedies';

const PER_PIXEL = { amount: 0.004, hue: 0.4, saturation: 0.004, luminance: 0.002 };

const within = (v: number, least: number, most: number): number =>
  Math.round(Math.min(Math.max(v, least), most) * 1000) / 1000;

/** A remedy after a drag on the photo of so many CSS pixels. A shift turns: sideways its hue, upwards its
 * saturation, or its luminance when `other`. Of every other remedy the amount grows to the right. */
export function turned(remedy: Remedy, [dx, dy]: [number, number], other: boolean): Remedy {
  if (remedy.kind !== 'shift') {
    const most = (SETTINGS[remedy.kind][0]?.most ?? 100) / 100;
    return { ...remedy, amount: within(remedy.amount + dx * PER_PIXEL.amount, 0, most) };
  }
  if (other) {
    const luminance = within(remedy.luminance - dy * PER_PIXEL.luminance, -0.5, 0.5);
    return { ...remedy, luminance };
  }
  return {
    ...remedy,
    hue: within(remedy.hue + dx * PER_PIXEL.hue, -180, 180),
    saturation: within(remedy.saturation - dy * PER_PIXEL.saturation, -1, 1),
  };
}

const signed = (v: number, unit: string): string => `${v > 0 ? '+' : ''}${v.toFixed(0)}${unit}`;

/** What a drag has come to, in words. */
export function turnedTo(remedy: Remedy): string {
  if (remedy.kind !== 'shift') return `Amount ${(remedy.amount * 100).toFixed(0)} %`;
  const { hue, saturation, luminance } = remedy;
  const parts = [`Hue ${signed(hue, '°')}`, `saturation ${signed(saturation * 100, ' %')}`];
  if (luminance) parts.push(`luminance ${signed(luminance * 100, ' %')}`);
  return parts.join(', ');
}
