import { call } from '../api/client';
import type { FaceFound, Feature, PersonPart, Vector } from '../api/types';
import type { Masking } from '../mask/masking.svelte';
import { isPerson, newId, withPart } from '../recipe/edit';
import type { Editor } from '../studio/editor.svelte';

/** The people in the photo, as parts of masks. */
export class People {
  /** Null until one has asked. */
  faces = $state.raw<FaceFound[] | null>(null);
  #looked: Promise<FaceFound[]> | null = null;
  readonly #path: { photo_id: number };

  constructor(
    private readonly editor: Editor,
    private readonly masking: Masking,
  ) {
    this.#path = { photo_id: editor.photo.id };
  }

  get part(): PersonPart | null {
    const { part } = this.masking;
    return isPerson(part) ? part : null;
  }

  /** Look for them, once. */
  async look(): Promise<FaceFound[]> {
    this.#looked ??= call('get', '/api/photos/{photo_id}/people', { path: this.#path });
    try {
      this.faces = await this.#looked;
    } catch (error) {
      this.#looked = null;
      throw error;
    }
    return this.faces;
  }

  /** A part of all the people, of whom one may then be clicked. */
  async add(of: Feature, orElse?: () => void): Promise<void> {
    await this.editor.attempt(async () => {
      const faces = orElse ? await this.look().catch(() => []) : await this.look();
      if (!faces.length && orElse) return orElse();
      this.masking.addPart(await this.made(newId(), of, null));
      if (faces.length > 1) this.editor.tool = 'who';
    });
  }

  /** The chosen part of something else, or of somebody else. */
  async change(of: Feature, who: number | null): Promise<void> {
    const { part } = this;
    if (!part) return;
    if (this.editor.tool === 'who') this.editor.tool = 'look';
    await this.editor.attempt(async () => {
      const made = await this.made(part.id, of, who);
      const { join, on, invert, strength } = part;
      this.masking.changePart(() => ({ ...made, join, on, invert, strength }));
    });
  }

  /** The person at a place. */
  async chooseAt(at: Vector): Promise<void> {
    const { part } = this;
    if (!part) return;
    const { who } = await call('post', '/api/photos/{photo_id}/people/at', {
      path: this.#path,
      body: { at },
    });
    if (who == null) throw new Error('Nobody was found at that place');
    await this.choose(who);
  }

  async choose(who: number): Promise<void> {
    if (this.part) await this.change(this.part.of, who);
  }

  /** Lips and eyes of everybody, taken away from the mask of the chosen cast. */
  async keepFeatures(): Promise<void> {
    await this.editor.attempt(async () => {
      const kept = [await this.made(newId(), 'lips', null), await this.made(newId(), 'eyes', null)];
      this.editor.changeCast((cast) =>
        kept.reduce((c, part) => withPart(c, { ...part, join: 'subtract' }), cast),
      );
      this.masking.partId = kept[0]?.id ?? null;
    });
  }

  /** A part of a mask that is in no mask yet. */
  made(id: string, of: Feature, who: number | null): Promise<PersonPart> {
    const body = { id, of, who };
    return call('post', '/api/photos/{photo_id}/people/part', { path: this.#path, body });
  }
}
