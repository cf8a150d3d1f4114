import type { Kind, Measured, Sample, Space } from '../api/types';

export const KIND_NAMES: Record<Kind, string> = {
  neutral: 'Neutral',
  skin: 'Skin',
  foliage: 'Foliage',
  sky: 'Sky',
  other: 'A colour of its own',
};

const MOST_TINT = 50; // where the engine's scale of lights ends

/** The light under which a colour would be a grey; null when no light of the scale is so coloured. */
export function lightOf({ temperature, tint }: Measured): string | null {
  if (Math.abs(tint) >= MOST_TINT) return null;
  return `${temperature.toFixed(0)} K, tint ${tint.toFixed(0)}`;
}

export function lchOf({ lch }: Measured): string {
  return `${lch[0].toFixed(2)} ${lch[1].toFixed(3)} ${lch[2].toFixed(0)}°`;
}

/** What there is to read of a sample, a name and a value each. */
export function valuesOf(colour: Measured, { at, further, spread, count }: Sample): string[][] {
  const values = [
    ['CIELAB D50', colour.lab.map((v) => v.toFixed(1)).join(' ')],
    ['OKLCh', lchOf(colour)],
    ["Photo's RGB", colour.codes.join(' ')],
  ];
  const light = lightOf(colour);
  if (light) values.push(['As grey', light]);
  if (count) values.push(['Spread', `${spread.toFixed(1)} over ${count} pixels`]);
  if (at && further.length) values.push(['Averaged', `${further.length + 1} places`]);
  return values;
}

export interface TypedField {
  name: string;
  least: number;
  most: number;
  step: number;
}

const field = (name: string, least: number, most: number, step: number): TypedField => ({
  name,
  least,
  most,
  step,
});

export const LAB_FIELDS = [
  field('L*', 0, 100, 0.1),
  field('a*', -128, 128, 0.1),
  field('b*', -128, 128, 0.1),
];

/** The spaces in which a colour can be typed, and what it is there. */
export const SPACES: Record<
  Space,
  { name: string; fields: TypedField[]; of: (colour: Measured) => number[] }
> = {
  lab: { name: 'CIELAB D50', fields: LAB_FIELDS, of: (c) => c.lab },
  lch: {
    name: 'OKLCh',
    fields: [field('L', 0, 1, 0.01), field('C', 0, 0.5, 0.001), field('h', 0, 360, 1)],
    of: (c) => [c.lch[0], c.lch[1], (c.lch[2] + 360) % 360],
  },
  codes: {
    name: "The photo's RGB",
    fields: [field('R', 0, 255, 1), field('G', 0, 255, 1), field('B', 0, 255, 1)],
    of: (c) => c.codes,
  },
  light: {
    name: 'A grey under a light',
    fields: [field('L*', 0, 100, 0.1), field('K', 2000, 15000, 10), field('tint', -50, 50, 0.1)],
    of: (c) => [c.lab[0], c.temperature, c.tint],
  },
};
