import { call, callForFile, callWithForm } from '../api/client';
import type { KnownLook, Recipe, TableFile, Vector } from '../api/types';
import type { Editor } from '../studio/editor.svelte';
import { withLook } from './look';

const EDGE = 148; // pixels of a small picture's long edge

/** The looks that there are, our own and the person's, each with its small picture of this photo. */
export class Shelf {
  looks = $state.raw<KnownLook[]>([]);
  pictures = $state<Record<string, string>>({});
  readonly #tables = new Map<string, Promise<TableFile>>();
  readonly #path: { photo_id: number };
  #closed = false;

  constructor(private readonly editor: Editor) {
    this.#path = { photo_id: editor.photo.id };
  }

  async load(): Promise<void> {
    this.looks = await call('get', '/api/looks');
    for (const look of this.looks) {
      if (this.#closed) return;
      await this.#picture(look);
    }
  }

  close(): void {
    this.#closed = true;
    Object.values(this.pictures).forEach((address) => URL.revokeObjectURL(address));
  }

  tableOf({ name, table }: KnownLook): Promise<TableFile> {
    if (table) return Promise.resolve(table);
    const body = { name };
    const path = this.#path;
    const made =
      this.#tables.get(name) ?? call('post', '/api/photos/{photo_id}/looks/own', { path, body });
    this.#tables.set(name, made);
    return made;
  }

  /** Under a name, or the table's own; one of the same name is replaced. */
  async keep(file: File, name = ''): Promise<KnownLook> {
    const form = new FormData();
    form.append('file', file);
    form.append('name', name);
    const kept = await callWithForm('/api/looks', {}, form);
    const others = this.looks.filter((l) => l.id === null || l.name !== kept.name);
    this.looks = [...others, kept];
    await this.#picture(kept);
    return kept;
  }

  async forget({ id }: KnownLook): Promise<void> {
    if (id === null) return;
    await call('delete', '/api/looks/{look_id}', { path: { look_id: id } });
    this.looks = this.looks.filter((l) => l.id !== id);
  }

  get #small(): Vector {
    const { width, height } = this.editor.photo;
    const scale = Math.min(1, EDGE / Math.max(width, height));
    return [Math.max(1, Math.round(width * scale)), Math.max(1, Math.round(height * scale))];
  }

  async #picture(look: KnownLook): Promise<void> {
    const table = await this.tableOf(look);
    const recipe: Recipe = withLook({ ...this.editor.recipe, look: null }, table);
    const region: [number, number, number, number] = [0, 0, ...this.#small];
    const body = { recipe, size: this.#small, region, draft: true };
    const file = await callForFile('/api/photos/{photo_id}/picture', { path: this.#path, body });
    if (!this.#closed) this.pictures[keyOf(look)] = URL.createObjectURL(file);
  }
}

/** Names a look among our own and the person's. */
export function keyOf({ id, name }: KnownLook): string {
  return id === null ? name : `kept ${id}`;
}
