import { getContext, setContext } from 'svelte';
import { reasonOf } from '../api/client';
import type {
  Base,
  Cast,
  Concern,
  Finding,
  PhotoWithRecipe,
  Recipe,
  RecipeState,
  Remedy,
  Said,
  Show,
  Vector,
} from '../api/types';
import { evidenceOf, Finder } from '../finder/finder.svelte';
import { Compare } from '../compare/compare.svelte';
import { Versions } from '../past/versions.svelte';
import { Proving } from '../proof/proving.svelte';
import { Library } from '../references/library.svelte';
import { ScopeReader } from '../instruments/scopes.svelte';
import * as edit from '../recipe/edit';
import { Drawing } from '../shapes/drawing.svelte';
import { Masking } from './masking.svelte';
import { Probe } from './probe.svelte';
import { Sampler } from './sampler';
import { Saver } from './saver.svelte';
import { SAMPLING, VIEWS, type Drawing as DrawingKind, type Tool } from './tools';

const PROOF_DELAY_MS = 150;
/** How much wider than usual a key is that leaves a colour out: better too much than too little. */
const EXCLUDING = 1.8;

interface Trouble {
  about: 'work' | 'proof' | 'picture';
  text: string;
}

/** The work on one photo: the recipe as it stands, what is selected, and what the engine says of it. */
export class Studio {
  recipe = $state.raw() as Recipe;
  /** Whether a handle is being moved: pictures may be coarser meanwhile. */
  moving = $state(false);
  /** Counts changes of the recipe, so that answers can be told from older ones. */
  version = $state(0);
  castId = $state<string | null>(null);
  /** Whether the bench holds the base instead of a cast. */
  settingBase = $state(false);
  remedyId = $state<string | null>(null);
  tool = $state<Tool>('look');
  show = $state<Show>('now');
  /** Whether the untouched photo is being held up. */
  untouched = $state(false);
  /** A place that is pointed out on the photo. */
  marked = $state.raw<{ at: Vector; text: string } | null>(null);
  trouble = $state.raw<Trouble | null>(null);
  readonly saver: Saver;
  readonly probe: Probe;
  readonly proving: Proving;
  readonly finder: Finder;
  readonly scopes: ScopeReader;
  readonly masking = new Masking(this);
  readonly drawing = new Drawing(this);
  readonly sampler = new Sampler(this);
  readonly library: Library;
  readonly versions = new Versions(this);
  readonly compare = new Compare(this);
  /** Whether another photo of the shoot lies open beside this one. */
  besideOpen = $state(false);
  besideId: number | null = null;
  readonly photo;

  #proofTimer = 0;
  #evidence: unknown[] = [];

  constructor(readonly opened: PhotoWithRecipe) {
    this.photo = opened.photo;
    this.saver = new Saver(opened.photo.id, opened.state);
    this.proving = new Proving(opened.photo.id, (work, about) => this.attempt(work, about));
    this.probe = new Probe(
      this.photo.id,
      () => this.recipe,
      () => SAMPLING.includes(this.tool),
    );
    this.recipe = opened.state.recipe;
    this.#evidence = evidenceOf(this.recipe);
    this.finder = new Finder(this.photo.id, () => this.recipe);
    this.scopes = new ScopeReader(this.photo.id);
    this.library = new Library(opened.shoot_id);
    void this.attempt(() => this.finder.load());
    void this.attempt(() => this.versions.load());
    this.select(this.recipe.casts[0]?.id ?? null);
    this.tool = this.recipe.casts.length ? 'look' : 'tainted';
    this.proving.want(this.recipe);
  }

  /** How the mask is shown just now. */
  get shown(): Show {
    if (this.masking.hintedPart) return 'outline';
    if (this.masking.peeking && this.moving) return 'matte';
    // Two states are compared without the mask drawn over one of them.
    return this.compare.mode === 'off' ? this.show : 'now';
  }

  get longEdge(): number {
    return Math.max(this.photo.width, this.photo.height);
  }

  get cast(): Cast | undefined {
    return this.recipe.casts.find((c) => c.id === this.castId);
  }

  get castIndex(): number {
    return this.recipe.casts.findIndex((c) => c.id === this.castId);
  }

  get remedy(): Remedy | undefined {
    const remedies = this.cast?.remedies ?? [];
    return remedies.find((r) => r.id === this.remedyId) ?? remedies[0];
  }

  get letter(): string {
    return edit.letterOf(this.castIndex);
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
    return towards ? `${towards[0]?.toUpperCase()}${towards.slice(1)} cast` : 'New cast';
  }

  /** What is done to a cast, and how much of it. */
  amountsOf(cast: Cast): string {
    if (!cast.on) return 'Switched off';
    const on = cast.remedies.filter((r) => r.on);
    return on.map((r) => `${edit.REMEDY_NAMES[r.kind]} ${Math.round(r.amount * 100)} %`).join(', ');
  }

  /** Show a recipe while a handle moves. */
  preview(recipe: Recipe): void {
    this.moving = true;
    this.versions.flippedId = null; // what is changed is the present
    this.proving.keepTo(recipe);
    this.recipe = recipe;
    this.version += 1;
    this.probe.refresh();
    clearTimeout(this.#proofTimer);
    this.#proofTimer = window.setTimeout(() => this.proving.want(this.recipe), PROOF_DELAY_MS);
  }

  /** End of a gesture: one step of the history. */
  commit(recipe: Recipe = this.recipe): void {
    if (recipe !== this.recipe) this.preview(recipe);
    this.moving = false;
    clearTimeout(this.#proofTimer);
    this.proving.want(this.recipe);
    this.saver.push(this.recipe);
    this.#tellFinder();
  }

  changeBase(change: (base: Base) => Base, done = true): void {
    const recipe = { ...this.recipe, base: change(this.recipe.base) };
    if (done) this.commit(recipe);
    else this.preview(recipe);
  }

  changeCast(change: (cast: Cast) => Cast, done = true): void {
    if (!this.castId) return;
    const recipe = edit.changeCast(this.recipe, this.castId, change);
    if (done) this.commit(recipe);
    else this.preview(recipe);
  }

  changeRemedy(change: (remedy: Remedy) => Remedy, done = true): void {
    const id = this.remedy?.id;
    this.changeCast(
      (cast) => ({ ...cast, remedies: cast.remedies.map((r) => (r.id === id ? change(r) : r)) }),
      done,
    );
  }

  chooseBase(): void {
    this.select(null);
    this.settingBase = true;
    this.tool = 'look';
  }

  select(castId: string | null): void {
    this.settingBase = false;
    this.masking.refining = false;
    this.castId = castId;
    this.masking.partId = this.cast?.mask.parts.at(-1)?.id ?? null;
  }

  addCast(): void {
    const cast = edit.newCast();
    this.commit({ ...this.recipe, casts: [...this.recipe.casts, cast] });
    this.select(cast.id);
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
  adopt(finding: Finding): void {
    const cast = { ...finding.adopted, id: edit.newId() };
    this.finder.hovered = null;
    this.commit({ ...this.recipe, casts: [...this.recipe.casts, cast] });
    this.select(cast.id);
    this.tool = 'look';
    if (this.show === 'map') this.show = 'now';
  }

  dismiss(finding: Finding): void {
    const { shift, box } = finding;
    this.finder.hovered = null;
    const dismissed = [...this.recipe.dismissed, { id: edit.newId(), shift, box }];
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

  async step(way: 'undo' | 'redo'): Promise<void> {
    await this.attempt(async () => this.#adopt(await this.saver.step(way)));
  }

  async resolve(mine: boolean): Promise<void> {
    await this.attempt(async () => {
      if (mine) await this.saver.overrule();
      else this.#adopt(await this.saver.giveWay());
    });
  }

  /** What a concern asks for: less of it, a softer mask, a colour or a pair left out. */
  async tame({ act, amount, colour, pair }: Concern): Promise<void> {
    if (act === 'less') this.changeCast((cast) => edit.withLess(cast, amount ?? 1));
    else if (act === 'soften') this.changeCast(edit.withSofterMask);
    else if (act === 'leave-out') this.changeCast((cast) => edit.withoutPair(cast, pair ?? ''));
    else if (colour)
      await this.attempt(async () => {
        const key = await this.sampler.keyAround(edit.newId(), [colour], EXCLUDING);
        this.masking.addPart({ ...key, join: 'subtract' });
      });
  }

  /** Another cast, masked where this one is not. */
  addCastOfTheRest(): void {
    if (!this.cast) return;
    const rest = edit.castOfTheRest(this.cast);
    this.commit({ ...this.recipe, casts: [...this.recipe.casts, rest] });
    this.select(rest.id);
  }

  cycleView(): void {
    this.show = VIEWS[(VIEWS.indexOf(this.show) + 1) % VIEWS.length] ?? 'now';
  }

  /** A state that the server made on top of what is saved. */
  adoptState(state: RecipeState): void {
    this.saver.take(state);
    this.#adopt(state);
  }

  #adopt(state: RecipeState | null): void {
    if (!state) return;
    this.preview(state.recipe);
    this.moving = false;
    this.#tellFinder();
    if (!this.cast && !this.settingBase) this.select(state.recipe.casts.at(-1)?.id ?? null);
  }

  complain(about: Trouble['about'], text: string): void {
    this.trouble = { about, text };
  }

  /** What went wrong with one thing is not mended by another that goes well. */
  content(about: Trouble['about']): void {
    if (this.trouble?.about === about) this.trouble = null;
  }

  /** Do something; what goes wrong is told, and whether it went well. */
  async attempt(work: () => Promise<void>, about: Trouble['about'] = 'work'): Promise<boolean> {
    try {
      await work();
      this.content(about);
      return true;
    } catch (error) {
      this.complain(about, reasonOf(error));
      return false;
    }
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
