import { call } from '../api/client';
import type {
  Kind,
  LibraryEntry,
  Measured,
  MeasuredPlace,
  Said,
  Sample,
  Space,
  Vector,
} from '../api/types';
import * as edit from '../recipe/edit';
import type { ScopeReader } from '../instruments/scopes.svelte';
import { askKey } from '../mask/keys';
import type { Masking } from '../mask/masking.svelte';
import type { People } from '../people/people.svelte';
import type { Editor } from '../studio/editor.svelte';
import { isWash, type Washing } from '../wash/washing.svelte';
import type { Probe } from './probe.svelte';

type Triple = Measured['lab'];

const MOST_PLACES = 60; // that a sample may hold
const MOST_KEYED = 12; // places of one drag that a key is given

/** What the keys held with a click mean: into what was taken last, or out of the key. */
export interface Held {
  adding: boolean;
  leaving: boolean;
}

/** A colour that is not of a place of this photo. */
function elsewhere(rgb: Sample['rgb'], origin: Sample['origin'], name: string): Sample {
  return { at: null, further: [], radius: 0, rgb, spread: 0, count: 0, kind: null, origin, name };
}

/** What a sample may be for, besides the cast. tell: what the editor says to the finder. */
interface Others {
  probe: Probe;
  masking: Masking;
  scopes: ScopeReader;
  washing: Washing;
  people: People;
  tell: (said: Partial<Said>) => void;
}

/** What a click or a drag with a sampling tool does, and colours that come in another way. */
export class Sampler {
  /** The sample that was taken last: further clicks may be averaged into it. */
  #latest: edit.Whose | null = null;

  constructor(
    private readonly editor: Editor,
    private readonly others: Others,
  ) {}

  /** Click or drag with a sampling tool; further: what the drag passed. */
  async take(at: Vector, held: Held, further: Vector[] = []): Promise<void> {
    await this.editor.attempt(async () => {
      const tool = this.editor.tool;
      if (tool === 'ask') return this.others.tell({ places: [at] });
      if (tool === 'ask-neutral') return this.others.tell({ neutral: at });
      if (tool === 'skin') return this.#pickSkin(at);
      if (tool === 'key') return this.#sampleKey([at, ...further], held);
      if (tool === 'similar') return this.#seed(at, held.adding);
      if (tool === 'who') return this.others.people.chooseAt(at);
      if (held.adding && (await this.#addToLatest([at, ...further]))) return;
      const measured = await this.#measure(at, further);
      if (tool === 'tone') return this.others.washing.take((measured.now ?? measured.before).rgb);
      if (tool === 'target') return this.aimAt(measured.before.rgb);
      if (tool === 'light') return this.#pickLight(measured.came);
      const sample = this.#sampled(at, further, measured);
      if (tool === 'tainted') this.#sampleTainted(sample);
      else if (tool === 'reference') this.#sampleReference(sample, measured.before.kind);
      else if (tool === 'keep') this.#keep(sample);
    });
  }

  /** The waiting or last pair should be as light as it is, without colour. */
  async makeNeutral(): Promise<void> {
    await this.#fromItsPlace('neutral', '', (measured) => measured.neutral.rgb);
  }

  /** The waiting or last pair should be as the photo came, before its base was set. */
  async asItCame(): Promise<void> {
    await this.#fromItsPlace('original', 'As it came', (measured) => measured.came);
  }

  async #fromItsPlace(
    origin: Sample['origin'],
    name: string,
    colour: (measured: MeasuredPlace) => Sample['rgb'],
  ): Promise<void> {
    const { cast } = this.editor;
    const sample = cast && edit.pairToRefer(cast)?.tainted;
    const { at } = sample ?? {};
    if (!at) return;
    await this.editor.attempt(async () => {
      const measured = await this.#measure(at, sample?.further, sample?.radius);
      this.#sampleReference(elsewhere(colour(measured), origin, name), null);
    });
  }

  /** A colour of the library, brought to the sample's own light. */
  fromLibrary({ name, group, colour }: LibraryEntry): void {
    const kind = group === 'material' ? null : group;
    void this.editor.attempt(async () =>
      this.#sampleReference({ ...elsewhere(colour.rgb, 'library', name), kind }, kind, true),
    );
  }

  /** A place of another photo of the shoot. */
  fromPhoto(title: string, seen: Measured): void {
    const { rgb, spread, count, kind } = seen;
    if (this.editor.tool === 'target' || this.editor.tool === 'tone') return this.aimAt(rgb);
    void this.editor.attempt(async () =>
      this.#sampleReference({ ...elsewhere(rgb, 'photo', title), spread, count }, kind),
    );
  }

  /** A pair's reference by its values in a space. */
  async typeReference(pairId: string, space: Space, values: Triple): Promise<void> {
    await this.editor.attempt(async () => {
      const rgb = await this.#typed(space, values);
      this.editor.changeCast((cast) =>
        edit.withReference(cast, pairId, elsewhere(rgb, 'made', ''), false),
      );
    });
  }

  async #typed(space: Space, values: Triple): Promise<Sample['rgb']> {
    const path = { photo_id: this.editor.photo.id };
    const body = { space, values };
    return (await call('post', '/api/photos/{photo_id}/colour', { path, body })).rgb;
  }

  /** A sample somewhere else, with the places that are averaged into it. */
  async move(whose: edit.Whose, to: Vector): Promise<void> {
    const sample = this.editor.cast && edit.sampleOf(this.editor.cast, whose);
    const { at } = sample ?? {};
    if (!sample || !at) return;
    const further = (sample.further ?? []).map(([x, y]): Vector => [
      x + to[0] - at[0],
      y + to[1] - at[1],
    ]);
    await this.#measureAnew(whose, sample, to, further);
  }

  async #addToLatest(places: Vector[]): Promise<boolean> {
    const { cast } = this.editor;
    const sample = cast && this.#latest && edit.sampleOf(cast, this.#latest);
    if (!this.#latest || !sample?.at) return false;
    const further = [...(sample.further ?? []), ...places].slice(0, MOST_PLACES);
    await this.#measureAnew(this.#latest, sample, sample.at, further);
    return true;
  }

  async #measureAnew(
    whose: edit.Whose,
    sample: Sample,
    at: Vector,
    further: Vector[],
  ): Promise<void> {
    await this.editor.attempt(async () => {
      const measured = await this.#measure(at, further, sample.radius);
      const anew = this.#sampled(at, further, measured, sample.radius);
      this.editor.changeCast((cast) =>
        edit.changeSample(cast, whose, (old) => ({ ...anew, kind: old.kind })),
      );
    });
  }

  #measure(at: Vector, further: Vector[] = [], radius?: number): Promise<MeasuredPlace> {
    return this.others.probe.measure(at, radius, { recipe: this.editor.recipe, further });
  }

  #sampled(
    at: Vector,
    further: Vector[],
    { came, before }: MeasuredPlace,
    radius = this.others.probe.radius,
  ): Sample {
    const { spread, count } = before;
    return { ...elsewhere(came, 'made', ''), at, further, radius, spread, count };
  }

  #pickSkin(at: Vector): void {
    this.others.scopes.skinAt = at;
    this.editor.tool = 'look';
  }

  /** The colour that the chosen remedy draws others towards. */
  aimAt(target: Sample['rgb']): void {
    if (isWash(this.editor.remedy)) return this.others.washing.take(target);
    this.editor.changeRemedy((r) => ('target' in r ? { ...r, target } : r));
    this.editor.tool = 'look';
  }

  /** The same by its values in a space. */
  async typeAim(space: Space, values: Triple): Promise<void> {
    await this.editor.attempt(async () => this.aimAt(await this.#typed(space, values)));
  }

  async #pickLight(colour: Sample['rgb']): Promise<void> {
    const light = await call('post', '/api/photos/{photo_id}/light', {
      path: { photo_id: this.editor.photo.id },
      body: { colour },
    });
    this.editor.changeBase((base) => ({ ...base, ...light, on: true }));
    this.editor.tool = 'look';
  }

  #sampleTainted(sample: Sample): void {
    if (!this.editor.cast) {
      this.editor.addCast(edit.withTainted(edit.newCast(), sample));
    } else {
      this.editor.changeCast((cast) => edit.withTainted(cast, sample));
    }
    this.#latest = { id: this.editor.cast?.pairs.at(-1)?.id ?? '', role: 'tainted' };
    this.editor.tool = 'reference';
  }

  #sampleReference(sample: Sample, seen: Kind | null, level = false): void {
    const pair = this.editor.cast && edit.pairToRefer(this.editor.cast);
    if (!pair) throw new Error('Sample a tainted place first; then say what it should be');
    if (seen === 'skin') this.others.scopes.lookAtSkin(pair.tainted.at);
    this.editor.changeCast((cast) => edit.withReference(cast, pair.id, sample, level));
    this.#latest = { id: pair.id, role: 'reference' };
    this.editor.tool = this.editor.cast?.mask.parts.length ? 'look' : 'paint';
  }

  #keep(sample: Sample): void {
    if (!this.editor.cast)
      throw new Error('A kept colour belongs to a cast: sample a tainted place first');
    this.editor.changeCast((cast) => edit.withGuard(cast, sample));
    this.#latest = { id: this.editor.cast.guards.at(-1)?.id ?? '', role: 'keep' };
  }

  /** A first sample makes the key; further ones, with Shift or by a drag, widen it; with Alt they are
   * left out. */
  async #sampleKey(places: Vector[], { adding, leaving }: Held): Promise<void> {
    const part = this.others.masking.part;
    const every = Math.ceil(places.length / MOST_KEYED);
    const some = places.filter((_, i) => i % every === 0);
    const measured = await Promise.all(some.map((at) => this.#measure(at)));
    const colours = measured.map((m) => m.came);
    if (this.others.masking.makingKey || !edit.isColourKey(part)) {
      await this.others.masking.addKeyOf(colours);
      return;
    }
    const earlier = adding || leaving ? part : { ...part, taken: [] };
    const key = await askKey(this.editor, {
      id: part.id,
      colours,
      key: earlier,
      leave_out: leaving,
    });
    const { hue, saturation, luminance, taken, left_out } = key;
    const made = { hue, saturation, luminance, taken, left_out };
    this.others.masking.changePart((p) => (edit.isColourKey(p) ? { ...p, ...made } : p));
  }

  /** A place whose like is masked. */
  #seed(at: Vector, adding: boolean): void {
    const { part } = this.others.masking;
    if (!this.editor.cast)
      throw new Error('A mask belongs to a cast: sample a tainted place first');
    if (adding && edit.isSimilar(part))
      this.others.masking.changePart((p) =>
        edit.isSimilar(p) ? { ...p, seeds: [...p.seeds, at] } : p,
      );
    else this.others.masking.addPart(edit.newSimilar(at));
  }
}
