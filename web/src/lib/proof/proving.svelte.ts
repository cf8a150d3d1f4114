import { call } from '../api/client';
import { LatestWins } from '../api/latest-wins';
import type {
  FeaturesMoved,
  SkinOf,
  Figure,
  Figures,
  PhotoProof,
  Recipe,
  ShownFigure,
} from '../api/types';

/** A figure whose pixels are shown on the photo, and the cast whose it is. */
export interface Shown {
  figure: Figure;
  cast: string | null;
  when: NonNullable<ShownFigure['when']>;
}

type Attempt = (work: () => Promise<void>, about: 'proof') => Promise<unknown>;

/** What the engine says of the treatment, and which figure is looked at. */
export class Proving {
  proof = $state.raw<PhotoProof | null>(null);
  figures = $state.raw<Figures | null>(null);
  /** The skin of each face that is known. */
  skins = $state.raw<SkinOf[]>([]);
  /** Casts that move lips or eyes. */
  features = $state.raw<FeaturesMoved[]>([]);
  /** What the finder takes for taint; asked for only while all figures lie open. */
  field = $state.raw<Figure | null>(null);
  shown = $state.raw<Shown | null>(null);
  #open = $state(false);
  #recipe: Recipe | null = null;
  #proofs = new LatestWins<Recipe>((recipe) => this.#prove(recipe));
  #fields = new LatestWins<Recipe>((recipe) => this.#readField(recipe));

  constructor(
    readonly photoId: number,
    readonly attempt: Attempt,
  ) {}

  /** Whether all figures lie open. */
  get open(): boolean {
    return this.#open;
  }

  set open(open: boolean) {
    this.#open = open;
    if (!open) this.shown = null;
    else if (this.#recipe) this.#fields.want(this.#recipe);
  }

  want(recipe: Recipe): void {
    this.#recipe = recipe;
    this.#proofs.want(recipe);
    if (this.open) this.#fields.want(recipe);
  }

  /** A figure of a cast that is gone is not shown any longer. */
  keepTo(recipe: Recipe): void {
    const owner = this.shown?.cast;
    if (owner && !recipe.casts.some((c) => c.id === owner)) this.shown = null;
  }

  /** Show a figure's pixels; the same again puts them away. */
  toggle(figure: Figure, cast: string | null): void {
    this.shown = this.shows(figure, cast) ? null : { figure, cast, when: 'now' };
  }

  shows({ name }: Figure, cast: string | null): boolean {
    return this.shown?.figure.name === name && this.shown.cast === cast;
  }

  async #prove(recipe: Recipe): Promise<void> {
    await this.attempt(async () => {
      const path = { photo_id: this.photoId };
      const question = { path, body: { recipe } };
      const told = await call('post', '/api/photos/{photo_id}/proof', question);
      const { proof, figures, features, skins } = told;
      this.proof = proof;
      this.figures = figures;
      this.features = features;
      this.skins = skins;
    }, 'proof');
  }

  async #readField(recipe: Recipe): Promise<void> {
    await this.attempt(async () => {
      const path = { photo_id: this.photoId };
      this.field = await call('post', '/api/photos/{photo_id}/field', { path, body: { recipe } });
    }, 'proof');
  }
}
