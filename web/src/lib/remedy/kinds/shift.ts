import type { Remedy } from '../../api/types';
import { amount, type RemedyDescriptor, setting, within } from '../descriptor';

type Shift = Extract<Remedy, { kind: 'shift' }>;

const PER_PIXEL = { hue: 0.4, saturation: 0.004, luminance: 0.002 };

const signed = (v: number, unit: string): string => `${v > 0 ? '+' : ''}${v.toFixed(0)}${unit}`;

/** Sideways its hue, upwards its saturation, or its luminance when `other`. */
function dragged(remedy: Remedy, [dx, dy]: [number, number], other: boolean): Remedy {
  const shift = remedy as Shift;
  if (other) {
    const luminance = within(shift.luminance - dy * PER_PIXEL.luminance, -0.5, 0.5);
    return { ...shift, luminance };
  }
  return {
    ...shift,
    hue: within(shift.hue + dx * PER_PIXEL.hue, -180, 180),
    saturation: within(shift.saturation - dy * PER_PIXEL.saturation, -1, 1),
  };
}

function told(remedy: Remedy): string {
  const { hue, saturation, luminance } = remedy as Shift;
  const parts = [`Hue ${signed(hue, '°')}`, `saturation ${signed(saturation * 100, ' %')}`];
  if (luminance) parts.push(`luminance ${signed(luminance * 100, ' %')}`);
  return parts.join(', ');
}

export default {
  kind: 'shift',
  order: 30,
  purpose: 'hue, saturation, light',
  drawing: 'M4 12H20M16 8L20 12L16 16M7 5V19',
  settings: [
    amount('shift', 100),
    setting('shift', 'hue', 'Hue', { factor: 1, unit: '°' }),
    setting('shift', 'saturation', 'Saturation'),
    setting('shift', 'luminance', 'Luminance'),
  ],
  dragHint: 'Drag on the photo: sideways hue, up and down saturation, with Shift luminance',
  dragged,
  told,
} satisfies RemedyDescriptor;
