import type { Cast, Recipe } from '../api/types';
import { letterOf } from './kinds';

const PARTS: [keyof Cast, string][] = [
  ['pairs', 'samples'],
  ['guards', 'protected colours'],
  ['mask', 'mask'],
  ['remedies', 'remedies'],
  ['touches', 'local amounts'],
  ['name', 'name'],
  ['on', 'switched on or off'],
];

const differs = (one: unknown, two: unknown): boolean =>
  JSON.stringify(one) !== JSON.stringify(two);

/** What a step changed, in a few words: "Cast B: mask". */
export function changeOf(before: Recipe, after: Recipe): string {
  const old = new Map((before.casts ?? []).map((cast) => [cast.id, cast]));
  const there = new Set((after.casts ?? []).map((cast) => cast.id));
  const told = (after.casts ?? []).flatMap((cast, i) => {
    const was = old.get(cast.id);
    if (!was) return [`New cast ${letterOf(i)}`];
    const parts = PARTS.filter(([part]) => differs(was[part], cast[part])).map(([, word]) => word);
    return parts.length ? [`Cast ${letterOf(i)}: ${parts.join(', ')}`] : [];
  });
  const gone = [...old.keys()].filter((id) => !there.has(id)).length;
  if (gone) told.push(gone === 1 ? 'A cast removed' : `${gone} casts removed`);
  if (differs(before.base, after.base)) told.push('Base');
  if (differs(before.look, after.look)) told.push('Look');
  return told.join('. ') || 'A change';
}
