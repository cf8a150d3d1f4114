// The kinds of mask parts on the screen; a new one is a file in kinds/.
import { KINDS } from '../../generated/kinds';
import type { Part, Recipe } from '../api/types';
import { capital, type PartKind } from '../recipe/kinds';
import type { PartDescriptor } from './descriptor';

const files = import.meta.glob<{ default: PartDescriptor }>('./kinds/*.ts', { eager: true });

export const PARTS: PartDescriptor[] = Object.values(files)
  .map((file) => file.default)
  .sort((a, b) => a.order - b.order);

const byKind = new Map<PartKind, PartDescriptor>(PARTS.map((p) => [p.kind, p]));

export function descriptorOf({ kind }: Part): PartDescriptor {
  const found = byKind.get(kind);
  if (!found) throw new Error(`The screen does not know the part ${kind}`);
  return found;
}

/** What a part is called in the row of parts. */
export function titleOf(part: Part, recipe: Recipe): string {
  const named = descriptorOf(part).title?.(part, recipe) ?? capital(KINDS.parts[part.kind].name);
  return part.invert ? `not ${named}` : named;
}
