import { amount, type RemedyDescriptor, setting, within } from '../descriptor';
import type { Remedy } from '../../api/types';

type Tone = Extract<Remedy, { kind: 'tone' }>;

const PER_PIXEL = { exposure: 0.01, contrast: 0.004 };
const signed = (v: number, digits = 0): string => `${v > 0 ? '+' : ''}${v.toFixed(digits)}`;
/** Kelvin are even to the hand in their reciprocals. */
const MIREDS = { toBar: (kelvin: number) => -1e6 / kelvin, fromBar: (bar: number) => -1e6 / bar };

export default {
  kind: 'tone',
  order: 75,
  purpose: 'exposure, contrast, detail',
  drawing: 'M4 20V4M4 20H20M4 20C12 20 12 6 20 5',
  settings: [
    amount('tone', 100),
    setting('tone', 'exposure', 'Exposure', { factor: 1, unit: ' EV', step: 0.05, width: 66 }),
    setting('tone', 'contrast', 'Contrast'),
    setting('tone', 'pivot', 'about'),
    setting('tone', 'highlights', 'Lights'),
    setting('tone', 'shadows', 'Shadows'),
    setting('tone', 'white', 'White point'),
    setting('tone', 'black', 'Black point'),
    setting('tone', 'temperature', 'Light', {
      factor: 1,
      unit: ' K',
      step: 10,
      width: 66,
      ...MIREDS,
    }),
    setting('tone', 'tint', 'Tint', { factor: 1, unit: '' }),
    setting('tone', 'saturation', 'Saturation'),
    setting('tone', 'local', 'Local contrast'),
    setting('tone', 'detail', 'Fine detail'),
  ],
  dragHint: 'Drag on the photo: sideways exposure, up and down contrast',
  dragged: (remedy: Remedy, [dx, dy]: [number, number]) => {
    const tone = remedy as Tone;
    return {
      ...tone,
      exposure: within(tone.exposure + dx * PER_PIXEL.exposure, -5, 5),
      contrast: within(tone.contrast - dy * PER_PIXEL.contrast, -1, 1),
    };
  },
  told: (remedy: Remedy) => {
    const { exposure, contrast } = remedy as Tone;
    return `Exposure ${signed(exposure, 2)} EV, contrast ${signed(contrast * 100)} %`;
  },
} satisfies RemedyDescriptor;
