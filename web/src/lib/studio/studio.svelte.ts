import { getContext, setContext } from 'svelte';
import { KINDS } from '../../generated/kinds';
import type { Cast, Concern, Finding, PhotoWithRecipe, Said, Show, Vector } from '../api/types';
import { Compare } from '../compare/compare.svelte';
import { evidenceOf, Finder } from '../finder/finder.svelte';
import { Asking } from '../finder/asking.svelte';
import { ScopeReader } from '../instruments/scopes.svelte';
import { keyAround } from '../mask/keys';
import { Masking } from '../mask/masking.svelte';
import { People } from '../people/people.svelte';
import { Versions } from '../past/versions.svelte';
import { Proving } from '../proof/proving.svelte';
import * as edit from '../recipe/edit';
import { Library } from '../references/library.svelte';
import { capital, nameOf } from '../recipe/kinds';
import { Probe } from '../sample/probe.svelte';
import { Sampler } from '../sample/sampler';
import { Drawing } from '../shapes/drawing.svelte';
import { Touching } from '../touch/touching.svelte';
import { Washing } from '../wash/washing.svelte';
import { Bench } from './bench.svelte';
import { Editor } from './editor.svelte';
import { SAMPLING, VIEWS, type Drawing as DrawingKind, type Tool } from './tools';

const PROOF_DELAY_MS = 150;
/** Height over width from which on the bench stands beside the photo. */
const PORTRAIT = 1.1;
/** How much wider than usual a key is that leaves a colour out: better too much than too little. */
const EXCLUDING = 1.8;

/** The work on one photo: the recipe, its parts' tools, and what the engine says of it. */
export class Studio extends Editor {
  show = $state<Show>('now');
  /** Whether the untouched photo is being held up. */
  untouched = $state(false);
  /** A place that is pointed out on the photo. */
  marked = $state.raw<{ at: Vector; text: string } | null>(null);
  readonly bench: Bench;
  readonly probe: Probe;
  readonly proving: Proving;
  readonly finder: Finder;
  readonly asking: Asking;
  readonly scopes: ScopeReader;
  readonly masking = new Masking(this);
  readonly touching = new Touching(this);
  readonly washing = new Washing(this);
  readonly people = new People(this, this.masking);
  readonly drawing = new Drawing(this, (part) => this.masking.addPart(part));
  readonly sampler: Sampler;
  readonly library: Library;
  readonly versions = new Versions(this);
  readonly compare = new Compare(this, this.versions);
  /** Whether another photo of the shoot lies open beside this one. */
  besideOpen = $state(false);
  besideId: number | null = null;

  #proofTimer = 0;
  #evidence: unknown[] = [];

  constructor(readonly opened: PhotoWithRecipe) {
    super(opened);
    this.bench = new Bench(
      this.photo.height > PORTRAIT * this.photo.width,
      this.recipe.casts.length > 0,
    );
    this.proving = new Proving(opened.photo.id, (work, about) => this.attempt(work, about));
    this.probe = new Probe(
      this.photo.id,
      () => this.recipe,
      () => SAMPLING.includes(this.tool),
    );
    this.#evidence = evidenceOf(this.recipe);
    this.finder = new Finder(this.photo.id, () => this.recipe);
    this.asking = new Asking(this, this.finder, opened.shoot_id);
    this.scopes = new ScopeReader(this.photo.id);
    this.sampler = new Sampler(this, {
      probe: this.probe,
      masking: this.masking,
      scopes: this.scopes,
      washing: this.washing,
      people: this.people,
      tell: (said) => this.tell(said),
    });
    this.library = new Library(opened.shoot_id);
    void this.attempt(async () => {
      await this.finder.load();
      await this.asking.arrive();
    });
    void this.attempt(() => this.versions.load());
    this.select(this.recipe.casts[0]?.id ?? null);
    this.tool = this.recipe.casts.length ? 'look' : 'tainted';
    this.proving.want(this.recipe);
  }

  /** Whether the stations stand beside the photo, and below it only a line for each. */
  get strip(): boolean {
    return this.bench.portrait && !this.settingBase && !this.settingLook;
  }

  /** How the mask is shown just now. */
  get shown(): Show {
    if (this.masking.hintedPart || this.tool === 'who') return 'outline';
    if (this.touching.field) return 'taken';
    if (this.masking.peeking && this.moving) return 'matte';
    // Two states are compared without the mask drawn over one of them.
    return this.compare.mode === 'off' ? this.show : 'now';
  }

  get proof() {
    return this.proving.proof;
  }

  get castProof() {
    return this.proof?.casts.find((c) => c.id === this.castId);
  }

  /** Its letter and its name. */
  titleOf(cast: Cast): string {
    const index = this.recipe.casts.findIndex((c) => c.id === cast.id);
    return `${edit.letterOf(index)} ${this.nameOf(cast)}`;
  }

  /** The name that a cast goes by: its own, else the hue it adds. */
  nameOf(cast: Cast): string {
    const towards = this.proof?.casts.find((c) => c.id === cast.id)?.towards;
    if (cast.name) return cast.name;
    // Without samples it is a mask with remedies, and goes by what it does.
    const free = cast.remedies.filter((r) => !KINDS.remedies[r.kind].follows);
    if (!cast.pairs.length && free.length)
      return capital(free.map((r) => nameOf(r).toLowerCase()).join(', '));
    return towards ? `${towards[0]?.toUpperCase()}${towards.slice(1)} cast` : 'New cast';
  }

  /** What is done to a cast, and how much of it. */
  amountsOf(cast: Cast): string {
    if (!cast.on) return 'Switched off';
    const on = cast.remedies.filter((r) => r.on);
    return on.map((r) => `${nameOf(r)} ${Math.round(r.amount * 100)} %`).join(', ');
  }

  protected override changing(): void {
    this.versions.flippedId = null; // what is changed is the present
    this.proving.keepTo(this.recipe);
    this.probe.refresh();
    clearTimeout(this.#proofTimer);
    this.#proofTimer = window.setTimeout(() => this.proving.want(this.recipe), PROOF_DELAY_MS);
  }

  protected override changed(): void {
    clearTimeout(this.#proofTimer);
    this.proving.want(this.recipe);
    this.#tellFinder();
  }

  protected override selected(): void {
    this.masking.rest();
  }

  /** A cast of one's own, to be sampled. */
  beginCast(): void {
    this.addCast();
    this.tool = 'tainted';
  }

  removeCast(id: string): void {
    const borrowers = edit.borrowersOf(this.recipe, id);
    if (borrowers.length) {
      const names = borrowers.map((c) => this.nameOf(c)).join(', ');
      this.complain('work', `Its mask is used by ${names}: delete that part there first`);
      return;
    }
    const at = this.recipe.casts.findIndex((c) => c.id === id);
    const casts = this.recipe.casts.filter((c) => c.id !== id);
    this.commit({ ...this.recipe, casts });
    if (this.castId === id) this.select(casts[Math.min(at, casts.length - 1)]?.id ?? null);
  }

  /** Look for casts, after what the editor knows. */
  tell(said: Partial<Said>): void {
    if (this.tool === 'ask' || this.tool === 'ask-neutral') this.tool = 'look';
    void this.finder.start(said);
  }

  /** A finding becomes a cast, neutralised at a modest amount. */
  async adopt(finding: Finding): Promise<void> {
    await this.attempt(async () => {
      const cast = await this.finder.adopted(finding);
      this.finder.hovered = null;
      this.addCast({ ...cast, id: edit.newId() });
      this.tool = 'look';
      if (this.show === 'map') this.show = 'now';
    });
  }

  dismiss({ id, shift, box }: Finding): void {
    this.finder.hovered = null;
    const dismissed = [...this.recipe.dismissed, { id, shift, box }];
    this.commit({ ...this.recipe, dismissed });
  }

  /** Take a tool up, or put it down when it is in the hand already. */
  toggleTool(tool: Tool): void {
    this.tool = this.tool === tool ? 'look' : tool;
  }

  /** Draw a new part of the mask; what was left unfinished is forgotten. */
  draw(kind: DrawingKind): void {
    this.drawing.cancel();
    this.tool = kind;
  }

  toggleMap(): void {
    this.show = this.show === 'map' ? 'now' : 'map';
  }

  /** Adopting, dismissing, sampling and masking tell the finder something; so does taking it back. */
  #tellFinder(): void {
    const evidence = evidenceOf(this.recipe);
    const changed =
      evidence.length !== this.#evidence.length ||
      evidence.some((v, i) => !edit.same(v, this.#evidence[i]));
    this.#evidence = evidence;
    if (changed) this.finder.renew();
  }

  /** What a concern asks for: less of it or all, a softer mask, a colour or a pair left out, another cast or
   * sample. */
  async tame({ act, at, amount, colour, pair }: Concern): Promise<void> {
    if (act === 'less') this.changeCast((cast) => edit.withLess(cast, amount ?? 1));
    else if (act === 'soften') this.changeCast(edit.withSofterMask);
    else if (act === 'more') this.changeCast((cast) => edit.withAmount(cast, 1));
    else if (act === 'even') this.changeCast(edit.withLessFollowing);
    else if (act === 'sample') this.tool = 'tainted';
    else if (act === 'leave-out') this.changeCast((cast) => edit.withoutPair(cast, pair ?? ''));
    else if (act === 'own-cast' && at && this.cast) {
      this.addCast(edit.castWithin(this.cast));
      this.tool = 'tainted';
      await this.sampler.take(at, { adding: false, leaving: false });
    } else if (colour)
      await this.attempt(async () => {
        const key = await keyAround(this, edit.newId(), [colour], EXCLUDING);
        this.masking.addPart({ ...key, join: 'subtract' });
      });
  }

  /** Another cast, masked where this one is not. */
  addCastOfTheRest(): void {
    if (this.cast) this.addCast(edit.castOfTheRest(this.cast));
  }

  cycleView(): void {
    this.show = VIEWS[(VIEWS.indexOf(this.show) + 1) % VIEWS.length] ?? 'now';
  }
}

const KEY = Symbol('studio');

export function provideStudio(studio: Studio): Studio {
  return setContext(KEY, studio);
}

export function useStudio(): Studio {
  const studio = getContext<Studio | undefined>(KEY);
  if (!studio) throw new Error('There is no photo open here.');
  return studio;
}
