/** Which photos should agree, as they were chosen on the sheet; kept for this tab. */

const key = (shoot: number): string => `agree-${shoot}`;

export function choosePhotosToAgree(shoot: number, photos: number[]): void {
  sessionStorage.setItem(key(shoot), JSON.stringify(photos));
}

/** Empty for all of the shoot. */
export function photosToAgree(shoot: number): number[] {
  const kept: unknown = JSON.parse(sessionStorage.getItem(key(shoot)) ?? '[]');
  return Array.isArray(kept) ? kept.filter((v): v is number => typeof v === 'number') : [];
}
