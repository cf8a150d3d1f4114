import { call, reasonOf } from '../api/client';
import type { Base, Cast, Photo, PhotoWithRecipe, Recipe, RecipeState, Remedy } from '../api/types';
import { castPut } from '../look/look';
import * as edit from '../recipe/edit';
import { Saver } from './saver.svelte';
import type { Tool } from './tools';

export interface Trouble {
  about: 'work' | 'proof' | 'picture';
  text: string;
}

/** The recipe of one photo as it stands, what of it is selected, and the tool in hand. What else happens when
 * it changes is for those who build on it; the parts of the screen's work are given this and no more. */
export class Editor {
  recipe = $state.raw() as Recipe;
  /** Whether a handle is being moved: pictures may be coarser meanwhile. */
  moving = $state(false);
  /** Counts changes of the recipe, so that answers can be told from older ones. */
  version = $state(0);
  castId = $state<string | null>(null);
  /** Whether the bench holds the base instead of a cast, or the look. */
  settingBase = $state(false);
  settingLook = $state(false);
  remedyId = $state<string | null>(null);
  tool = $state<Tool>('look');
  trouble = $state.raw<Trouble | null>(null);
  readonly photo: Photo;
  readonly saver: Saver;
  /** Whether what is done here is saved; else the photo is shared to be looked at. */
  readonly works: boolean;

  constructor(opened: PhotoWithRecipe) {
    this.photo = opened.photo;
    this.works = opened.may !== 'see';
    const left = Saver.leftOf(opened.photo.id);
    this.saver = left ?? new Saver(opened.photo.id, opened.state, !this.works, opened.photo.title);
    // What was left unsaved is gone on with.
    this.recipe = left ? left.newest : opened.state.recipe;
  }

  /** For those who build on this: something is being changed, was changed, or is selected. */
  protected changing(): void {}
  protected changed(): void {}
  protected selected(): void {}

  get longEdge(): number {
    return Math.max(this.photo.width, this.photo.height);
  }

  get cast(): Cast | undefined {
    return this.recipe.casts.find((c) => c.id === this.castId);
  }

  get castIndex(): number {
    return this.recipe.casts.findIndex((c) => c.id === this.castId);
  }

  get letter(): string {
    return edit.letterOf(this.castIndex);
  }

  get remedy(): Remedy | undefined {
    const remedies = this.cast?.remedies ?? [];
    return remedies.find((r) => r.id === this.remedyId) ?? remedies[0];
  }

  /** Show a recipe while a handle moves. */
  preview(recipe: Recipe): void {
    this.moving = true;
    this.recipe = recipe;
    this.version += 1;
    this.changing();
  }

  /** End of a gesture: one step of the history. */
  commit(recipe: Recipe = this.recipe): void {
    if (recipe !== this.recipe) this.preview(recipe);
    this.moving = false;
    this.saver.push(this.recipe);
    this.changed();
  }

  change(recipe: Recipe, done: boolean): void {
    if (done) this.commit(recipe);
    else this.preview(recipe);
  }

  changeBase(change: (base: Base) => Base, done = true): void {
    this.change({ ...this.recipe, base: change(this.recipe.base) }, done);
  }

  changeCast(change: (cast: Cast) => Cast, done = true): void {
    if (this.castId) this.change(edit.changeCast(this.recipe, this.castId, change), done);
  }

  changeRemedy(change: (remedy: Remedy) => Remedy, done = true): void {
    const id = this.remedy?.id;
    this.changeCast(
      (cast) => ({ ...cast, remedies: cast.remedies.map((r) => (r.id === id ? change(r) : r)) }),
      done,
    );
  }

  /** Last on its side of the look: after it when the look or a cast after it is selected. */
  addCast(cast: Cast = edit.newCast()): void {
    const beside = this.settingLook || !!this.cast?.after_look;
    const after = cast.after_look || (beside && !!this.recipe.look);
    const casts = [...this.recipe.casts, cast];
    this.commit(castPut({ ...this.recipe, casts }, cast.id, null, after));
    this.select(cast.id);
  }

  select(castId: string | null): void {
    this.settingBase = this.settingLook = false;
    this.castId = castId;
    this.selected();
  }

  chooseBase(): void {
    this.select(null);
    this.settingBase = true;
    this.tool = 'look';
  }

  chooseLook(): void {
    this.select(null);
    this.settingLook = true;
    this.tool = 'look';
  }

  /** A state that the server made on top of what is saved. */
  adoptState(state: RecipeState): void {
    this.saver.take(state);
    this.take(state);
  }

  protected take(state: RecipeState | null): void {
    if (!state) return;
    this.preview(state.recipe);
    this.moving = false;
    this.changed();
    if (!this.cast && !this.settingBase && !this.settingLook)
      this.select(state.recipe.casts.at(-1)?.id ?? null);
  }

  async step(way: 'undo' | 'redo'): Promise<void> {
    await this.attempt(async () => this.take(await this.saver.step(way)));
  }

  /** Let go of what was tried and not saved. */
  async asSaved(): Promise<void> {
    await this.attempt(async () => {
      const path = { photo_id: this.photo.id };
      this.take(await call('get', '/api/photos/{photo_id}/recipe', { path }));
    });
  }

  /** Back to what is saved, without the steps that the server refused. */
  async dropRefused(): Promise<void> {
    this.saver.dropRefused();
    await this.asSaved();
  }

  async resolve(mine: boolean): Promise<void> {
    await this.attempt(async () => {
      if (mine) await this.saver.overrule();
      else this.take(await this.saver.giveWay());
    });
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
