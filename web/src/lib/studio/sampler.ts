import { call } from '../api/client';
import type { ColourKey, Light, Measured, Sample, Vector } from '../api/types';
import * as edit from '../recipe/edit';
import type { Studio } from './studio.svelte';

type Lab = Measured['lab'];

/** What a click or a drag with a sampling tool does, and colours that come in another way. */
export class Sampler {
  #keyColours = new Map<string, Sample['rgb'][]>();

  constructor(readonly studio: Studio) {}

  /** Click or drag with a sampling tool; further: what the drag passed, averaged with it. */
  async take(at: Vector, adding: boolean, further: Vector[] = []): Promise<void> {
    await this.studio.attempt(async () => {
      const tool = this.studio.tool;
      if (tool === 'ask') return this.studio.tell({ places: [at] });
      if (tool === 'ask-neutral') return this.studio.tell({ neutral: at });
      if (tool === 'skin') return this.#pickSkin(at);
      const more = { recipe: this.studio.recipe, further };
      const { came, before } = await this.studio.probe.measure(at, undefined, more);
      if (tool === 'target') return this.#aimAt(before.rgb);
      if (tool === 'light') return this.#pickLight(came);
      const sample: Sample = { at, radius: this.studio.probe.radius, rgb: came };
      if (tool === 'tainted') this.#sampleTainted(sample);
      else if (tool === 'reference') this.#sampleReference(sample, 'place');
      else if (tool === 'keep') this.#keep(sample);
      else if (tool === 'key') await this.#sampleKey(sample, adding);
    });
  }

  /** The waiting or last pair should be as light as it is, without colour. */
  async makeNeutral(): Promise<void> {
    const pair =
      this.studio.cast && (edit.waitingPair(this.studio.cast) ?? this.studio.cast.pairs.at(-1));
    const at = pair?.tainted.at;
    if (!at) return;
    await this.studio.attempt(async () => {
      const { recipe } = this.studio;
      const { neutral } = await this.studio.probe.measure(at, pair.tainted.radius, { recipe });
      this.#sampleReference({ at: null, radius: 0, rgb: neutral.rgb }, 'neutral');
    });
  }

  /** A pair's reference by its values, CIELAB. */
  async typeReference(pairId: string, lab: Lab): Promise<void> {
    await this.studio.attempt(async () => {
      const path = `/photos/${this.studio.photo.id}/colour`;
      const { rgb } = await call<Measured>('POST', path, { lab });
      const typed: Sample = { at: null, radius: 0, rgb };
      this.studio.changeCast((cast) => edit.withReference(cast, pairId, typed, 'place'));
    });
  }

  #pickSkin(at: Vector): void {
    this.studio.scopes.skinAt = at;
    this.studio.tool = 'look';
  }

  #aimAt(target: Sample['rgb']): void {
    this.studio.changeRemedy((r) => (r.kind === 'even-out' ? { ...r, target } : r));
    this.studio.tool = 'look';
  }

  async #pickLight(colour: Sample['rgb']): Promise<void> {
    const light = await call<Light>('POST', `/photos/${this.studio.photo.id}/light`, { colour });
    this.studio.changeBase((base) => ({ ...base, ...light, on: true }));
    this.studio.tool = 'look';
  }

  #sampleTainted(sample: Sample): void {
    if (!this.studio.cast) {
      const cast = edit.withTainted(edit.newCast(), sample);
      this.studio.commit({ ...this.studio.recipe, casts: [...this.studio.recipe.casts, cast] });
      this.studio.select(cast.id);
    } else {
      this.studio.changeCast((cast) => edit.withTainted(cast, sample));
    }
    this.studio.tool = 'reference';
  }

  #sampleReference(sample: Sample, kind: 'place' | 'neutral'): void {
    const pair =
      this.studio.cast && (edit.waitingPair(this.studio.cast) ?? this.studio.cast.pairs.at(-1));
    if (!pair) throw new Error('Sample a tainted place first; then say what it should be');
    this.studio.changeCast((cast) => edit.withReference(cast, pair.id, sample, kind));
    this.studio.tool = this.studio.cast?.mask.parts.length ? 'look' : 'paint';
  }

  #keep(sample: Sample): void {
    if (!this.studio.cast)
      throw new Error('A kept colour belongs to a cast: sample a tainted place first');
    this.studio.changeCast((cast) => edit.withGuard(cast, sample));
  }

  async #sampleKey(sample: Sample, adding: boolean): Promise<void> {
    const part = this.studio.part;
    if (!edit.isColourKey(part)) return;
    const earlier = adding ? (this.#keyColours.get(part.id) ?? []) : [];
    const colours = [...earlier, sample.rgb];
    this.#keyColours.set(part.id, colours);
    const { hue, saturation, luminance } = await this.keyAround(part.id, colours);
    this.studio.changePart((p) => (edit.isColourKey(p) ? { ...p, hue, saturation, luminance } : p));
  }

  /** A key that takes colours in; spacious: how much wider than usual. */
  keyAround(id: string, colours: Sample['rgb'][], spacious = 1): Promise<ColourKey> {
    const { base } = this.studio.recipe;
    const body = { id, base, colours, spacious };
    return call<ColourKey>('POST', `/photos/${this.studio.photo.id}/key`, body);
  }
}
