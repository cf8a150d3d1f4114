/** A share 0..1 in per cent, as finely as it takes to tell it from nothing. */
export function shareText(share: number): string {
  const percent = share * 100;
  if (percent > 0 && percent < 0.05) return 'under 0.1 %';
  return `${percent.toFixed(percent > 0 && percent < 9.95 ? 1 : 0)} %`;
}
