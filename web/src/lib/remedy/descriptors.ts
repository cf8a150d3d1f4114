// The kinds of remedies on the screen; a new one is a file in kinds/.
import type { Remedy } from '../api/types';
import type { RemedyKind } from '../recipe/kinds';
import type { RemedyDescriptor } from './descriptor';

const files = import.meta.glob<{ default: RemedyDescriptor }>('./kinds/*.ts', { eager: true });

export const REMEDIES: RemedyDescriptor[] = Object.values(files)
  .map((file) => file.default)
  .sort((a, b) => a.order - b.order);

const byKind = new Map<RemedyKind, RemedyDescriptor>(REMEDIES.map((r) => [r.kind, r]));

export function descriptorOf({ kind }: Remedy): RemedyDescriptor {
  const found = byKind.get(kind);
  if (!found) throw new Error(`The screen does not know the remedy ${kind}`);
  return found;
}
