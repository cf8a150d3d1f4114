import type { Measured } from '../api/types';

/** A measured colour as the engine encoded it for a screen. */
export function swatch(colour: Pick<Measured, 'display'> | null | undefined): string {
  return colour ? `rgb(${colour.display.join(' ')})` : 'transparent';
}
