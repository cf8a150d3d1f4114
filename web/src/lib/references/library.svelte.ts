import { call } from '../api/client';
import type { Imported, LibraryColour, LibraryEntry } from '../api/types';

type Group = LibraryColour['group'];
export const GROUPS: [Group, string][] = [
  ['neutral', 'Neutrals'],
  ['skin', 'Skins'],
  ['material', 'Materials'],
];

/** Built-in colours have none, and stay as they are. */
function ownId({ id, name }: LibraryEntry): number {
  if (id === null) throw new Error(`${name} is built in`);
  return id;
}

/** The reference colours at hand: built in, one's own, and those of one shoot or of all. */
export class Library {
  entries = $state.raw<LibraryEntry[]>([]);
  loaded = $state(false);

  constructor(
    /** Leaves out what is kept for other shoots. */
    readonly shoot: number | null = null,
  ) {}

  async load(): Promise<void> {
    this.entries = await call('get', '/api/references', { query: { shoot: this.shoot } });
    this.loaded = true;
  }

  of(group: Group): LibraryEntry[] {
    return this.entries.filter((e) => e.group === group);
  }

  async keep(reference: LibraryColour, shoot: number | null): Promise<void> {
    await call('post', '/api/references', { body: { reference, shoot } });
    await this.load();
  }

  async change(
    entry: LibraryEntry,
    to: Partial<LibraryColour>,
    shoot = entry.shoot,
  ): Promise<void> {
    const reference = { ...colourOf(entry), ...to };
    await call('put', '/api/references/{reference_id}', {
      path: { reference_id: ownId(entry) },
      body: { reference, shoot },
    });
    await this.load();
  }

  async remove(entry: LibraryEntry): Promise<void> {
    await call('delete', '/api/references/{reference_id}', {
      path: { reference_id: ownId(entry) },
    });
    await this.load();
  }

  async bringIn(file: File, shoot: number | null): Promise<Imported> {
    const body = { text: await file.text(), shoot };
    const imported = await call('post', '/api/references/import', { body });
    await this.load();
    return imported;
  }
}

export function colourOf({ name, group, note, colour }: LibraryEntry): LibraryColour {
  return { name, group, note, lab: colour.lab };
}
