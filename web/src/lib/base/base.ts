import type { Base } from '../api/types';

export const RESTING: Base = {
  on: true,
  temperature: 6504,
  tint: 0,
  exposure: 0,
  contrast: 0,
  pivot: 0.5,
  black: 0,
  white: 1,
  highlights: 0,
  shadows: 0,
  saturation: 0,
};

const SETTINGS = (Object.keys(RESTING) as (keyof Base)[]).filter(
  // What contrast turns about does nothing by itself.
  (name) => name !== 'on' && name !== 'pivot',
);

export function isActive(base: Base): boolean {
  return base.on && SETTINGS.some((name) => base[name] !== RESTING[name]);
}

const signed = (v: number, digits = 0): string => `${v > 0 ? '+' : ''}${v.toFixed(digits)}`;

/** What a base does, in as few words as fit on its card. */
export function summaryOf(base: Base): string {
  const parts: string[] = [];
  if (base.temperature !== RESTING.temperature) parts.push(`${base.temperature.toFixed(0)} K`);
  if (base.tint) parts.push(`tint ${signed(base.tint)}`);
  if (base.exposure) parts.push(`${signed(base.exposure, 1)} EV`);
  const tones = ['contrast', 'black', 'white', 'highlights', 'shadows'] as const;
  if (tones.some((name) => base[name] !== RESTING[name])) parts.push('tone');
  if (base.saturation) parts.push(`colour ${signed(base.saturation * 100)} %`);
  if (!parts.length) return 'as it came';
  return base.on ? parts.join(', ') : `off (${parts.join(', ')})`;
}
