import type { Kind, Measured, Sample } from '../api/types';

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
