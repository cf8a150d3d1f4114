// Names and resting values of parts and remedies, as the core has them.
import { KINDS } from '../../generated/kinds';
import type { Part, Remedy, Sample } from '../api/types';

export type PartKind = Part['kind'];
export type RemedyKind = Remedy['kind'];

export function newId(): string {
  return Array.from(crypto.getRandomValues(new Uint8Array(5)), (b) =>
    b.toString(16).padStart(2, '0'),
  ).join('');
}

export function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}

/** A part at rest; what it cannot do without is given. */
export function newPart<K extends PartKind>(
  kind: K,
  given: Partial<Extract<Part, { kind: K }>> = {},
): Extract<Part, { kind: K }> {
  const { resting } = KINDS.parts[kind];
  return { ...structuredClone(resting), ...given, id: newId() } as unknown as Extract<
    Part,
    { kind: K }
  >;
}

/** A remedy at rest. target: the colour that it aims at, if it aims at one. */
export function newRemedy(kind: RemedyKind, target: Sample['rgb']): Remedy {
  const { resting, aimed } = KINDS.remedies[kind];
  return { ...resting, ...(aimed ? { target } : {}), id: newId() } as unknown as Remedy;
}

/** A, B … Z, AA, AB … by the place in the list; nothing for what is not there. */
export function letterOf(index: number): string {
  return KINDS.letters[index] ?? '';
}

export function nameOf({ kind }: Remedy): string {
  return capital(KINDS.remedies[kind].name);
}
