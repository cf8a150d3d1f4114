import { call } from '../api/client';
import type { Imported, LibraryColour, LibraryEntry } from '../api/types';

type Group = LibraryColour['group'];
export const GROUPS: [Group, string][] = [
  ['neutral', 'Neutrals'],
  ['skin', 'Skins'],
  ['material', 'Materials'],
];

/** The reference colours at hand: built in, one's own, and those of one shoot or of all. */
export class Library {
  entries = $state.raw<LibraryEntry[]>([]);
  loaded = $state(false);

  constructor(
    /** Leaves out what is kept for other shoots. */
    readonly shoot: number | null = null,
  ) {}

  async load(): Promise<void> {
    const query = this.shoot === null ? '' : `?shoot=${this.shoot}`;
    this.entries = await call<LibraryEntry[]>('GET', `/references${query}`);
    this.loaded = true;
  }

  of(group: Group): LibraryEntry[] {
    return this.entries.filter((e) => e.group === group);
  }

  async keep(reference: LibraryColour, shoot: number | null): Promise<void> {
    await call<LibraryEntry>('POST', '/references', { reference, shoot });
    await this.load();
  }

  async change(
    entry: LibraryEntry,
    to: Partial<LibraryColour>,
    shoot = entry.shoot,
  ): Promise<void> {
    const reference = { ...colourOf(entry), ...to };
    await call<LibraryEntry>('PUT', `/references/${entry.id}`, { reference, shoot });
    await this.load();
  }

  async remove(entry: LibraryEntry): Promise<void> {
    await call('DELETE', `/references/${entry.id}`);
    await this.load();
  }

  async bringIn(file: File, shoot: number | null): Promise<Imported> {
    const body = { text: await file.text(), shoot };
    const imported = await call<Imported>('POST', '/references/import', body);
    await this.load();
    return imported;
  }
}

export function colourOf({ name, group, note, colour }: LibraryEntry): LibraryColour {
  return { name, group, note, lab: colour.lab };
}
