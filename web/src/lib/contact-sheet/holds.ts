import type { Holds } from '../api/types';

const count = (n: number, one: string, more = `${one}s`): string => `${n} ${n === 1 ? one : more}`;

/** What would be deleted, in words: "12 photos, 3 of them treated, 45 MB. Shared with 2 people." */
export function inWords(holds: Holds): string {
  const photos = [
    ...(holds.shoots > 1 ? [count(holds.shoots, 'shoot')] : []),
    count(holds.photos, 'photo'),
    ...(holds.treated ? [`${holds.treated} of them treated`] : []),
    ...(holds.photos ? [megabytes(holds.size_bytes)] : []),
  ];
  const people = holds.people ? ` Shared with ${count(holds.people, 'person', 'people')}.` : '';
  return `${photos.join(', ')}.${people}`;
}

function megabytes(bytes: number): string {
  const mb = bytes / 1e6;
  return mb < 1 ? 'less than 1 MB' : `${mb < 10 ? mb.toFixed(1) : Math.round(mb)} MB`;
}

export const day = (time: string): string =>
  new Date(time).toLocaleDateString('en-GB', { day: 'numeric', month: 'long' });
