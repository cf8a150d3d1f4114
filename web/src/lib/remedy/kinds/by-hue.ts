import type { Remedy } from '../../api/types';
import HueControls from '../../shaping/HueControls.svelte';
import { type ByHue, changed, grabbed } from '../../shaping/hues';
import { amount, type RemedyDescriptor, setting } from '../descriptor';

const PER_PIXEL = { turn: 0.25, saturation: 0.005, light: 0.001 };

/** The hue that was taken hold of: sideways it turns, upwards it is stronger, or lighter when `other`. */
function dragged(remedy: Remedy, [dx, dy]: [number, number], other: boolean): Remedy {
  const byHue = remedy as ByHue;
  const point = byHue.points.at(-1);
  if (!point) return byHue;
  if (other) return changed(byHue, point.id, { light: point.light - dy * PER_PIXEL.light });
  return changed(byHue, point.id, {
    turn: point.turn + dx * PER_PIXEL.turn,
    saturation: point.saturation - dy * PER_PIXEL.saturation,
  });
}

function told(remedy: Remedy): string {
  const point = (remedy as ByHue).points.at(-1);
  if (!point) return 'No hue here';
  const parts = [
    `Hue ${point.hue.toFixed(0)}° by ${point.turn.toFixed(0)}°`,
    `saturation ${(point.saturation * 100).toFixed(0)} %`,
  ];
  if (point.light) parts.push(`light ${(point.light * 100).toFixed(0)} %`);
  return parts.join(', ');
}

export default {
  kind: 'by-hue',
  order: 75,
  purpose: 'families of hues',
  drawing: 'M3 15C7 15 8 6 12 6S17 15 21 15M3 20H21M12 4V8',
  settings: [
    amount('by-hue'),
    setting('by-hue', 'width', 'Width', { factor: 1, unit: '°' }),
    setting('by-hue', 'greys', 'Spare greys', { step: 0.5 }),
  ],
  controls: HueControls,
  dragHint:
    'Drag a hue on the photo: sideways it turns, up and down saturation, with Shift lightness',
  grab: (remedy, [, a, b]) =>
    grabbed(remedy as ByHue, ((Math.atan2(b, a) * 180) / Math.PI + 360) % 360),
  dragged,
  told,
} satisfies RemedyDescriptor;
