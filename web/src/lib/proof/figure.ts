import type { Figure } from '../api/types';

/** Figures as they stand in a table: one decimal where two are compared, two where one stands alone. */
export function told({ before, now, unit }: Pick<Figure, 'before' | 'now' | 'unit'>): string {
  const digits = before == null ? 2 : 1;
  const values =
    before == null ? [signed(now, digits, unit)] : [signed(before, digits), signed(now, digits)];
  const text = values.join(' → ');
  if (unit === '%') return `${text} %`;
  return unit === '°' ? `${text}°` : text;
}

/** Lightness moves up or down, and says so. */
function signed(value: number, digits: number, unit = ''): string {
  const text = Math.abs(value).toFixed(digits);
  if (Number(text) === 0) return text;
  return value < 0 ? `−${text}` : unit === 'L*' ? `+${text}` : text;
}
