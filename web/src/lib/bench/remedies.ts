import type { Remedy } from '../api/types';

/** A number of a remedy as it is shown: kept value times factor. */
export interface Setting {
  name: string;
  label: string;
  least: number;
  most: number;
  resting: number;
  factor: number;
  unit: string;
}

const share = (name: string, label: string, resting: number, most = 100): Setting => ({
  name,
  label,
  least: 0,
  most,
  resting,
  factor: 100,
  unit: ' %',
});
const signed = (name: string, label: string, resting: number, most = 100): Setting => ({
  ...share(name, label, resting, most),
  least: -most,
});
const amount = (most = 150): Setting => share('amount', 'Amount', 100, most);

/** What each kind of remedy can be set to, the amount first. */
export const SETTINGS: Record<Remedy['kind'], Setting[]> = {
  neutralise: [
    amount(),
    share('follow', 'Follow taint', 100),
    share('soften', 'Soften it', 0),
    share('hold_lightness', 'Hold lightness', 100),
  ],
  match: [
    amount(),
    share('follow', 'Follow taint', 100),
    share('hold_luminance', 'Hold lightness', 100),
    share('lighten', 'May lighten', 100),
    share('darken', 'May darken', 100),
  ],
  shift: [
    amount(100),
    { ...signed('hue', 'Hue', 0, 180), factor: 1, unit: '°' },
    signed('saturation', 'Saturation', 0),
    signed('luminance', 'Luminance', 0, 50),
  ],
  'even-out': [
    amount(100),
    signed('hue', 'Hue', 60),
    signed('saturation', 'Saturation', 30),
    signed('lightness', 'Lightness', 0),
  ],
  restore: [amount(100)],
};
