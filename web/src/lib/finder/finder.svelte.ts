import { call, callInLines, reasonOf } from '../api/client';
import { LatestWins } from '../api/latest-wins';
import { pointerRests } from '../controls/resting';
import type { Cast, Choice, Finding, Recipe, Said, Survey } from '../api/types';

export const QUIET: Said = { direction: null, places: [], neutral: null, pair_of: null };

interface Line {
  done?: number;
  survey?: Survey;
  detail?: string;
}

/** What the finder has seen in a photo, and the talk with it. */
export class Finder {
  survey = $state.raw<Survey | null>(null);
  /** Share done of a look that is under way. */
  done = $state<number | null>(null);
  /** The finding under the pointer. */
  hovered = $state<string | null>(null);
  trouble = $state('');
  /** What is known to be an object is shown all the same. */
  anyway = $state(false);
  #stop: AbortController | null = null;
  /** A look that is renewed because the recipe has changed; the shown one stays meanwhile. */
  #renewals = new LatestWins<true>(() => this.#renew());
  #renewing: AbortController | null = null;
  /** The look that is under way, or was last. */
  #looking: Promise<void> = Promise.resolve();

  constructor(
    readonly photoId: number,
    readonly recipe: () => Recipe,
  ) {}

  get said(): Said {
    return this.survey?.said ?? QUIET;
  }

  /** Whether the editor has led the finder. */
  get led(): boolean {
    const { direction, places, neutral, pair_of } = this.said;
    return Boolean(direction || places.length || neutral || pair_of);
  }

  /** What was found and is neither adopted nor dismissed, here or in the next frame. */
  get findings(): Finding[] {
    return this.#open.filter((f) => this.anyway || !this.survey?.known?.[f.id]);
  }

  /** What was dismissed in the next frame, with its title, and so not asked again. */
  get known(): [Finding, string][] {
    const known = this.survey?.known ?? {};
    return this.#open.flatMap((f) => (known[f.id] ? [[f, known[f.id]!] as [Finding, string]] : []));
  }

  get #open(): Finding[] {
    const { casts, dismissed } = this.recipe();
    return (this.survey?.findings ?? []).filter(
      ({ id, alternative }) =>
        !alternative && !casts.some((c) => c.finding === id) && !dismissed.some((d) => d.id === id),
    );
  }

  /** The answers to the finder's question, while it is open: asked once, and where nothing is treated. */
  get choices(): Choice[] {
    const { casts, dismissed, answered } = this.recipe();
    return answered || casts.length || dismissed.length ? [] : (this.survey?.choices ?? []);
  }

  get shown(): Finding | undefined {
    return this.findings.find((f) => f.id === this.hovered);
  }

  /** The cast that a finding becomes. */
  adopted({ id }: Pick<Finding, 'id'>): Promise<Cast> {
    const path = { photo_id: this.photoId, finding_id: id };
    return call('post', '/api/photos/{photo_id}/findings/{finding_id}/adopt', { path });
  }

  async load(): Promise<void> {
    const kept = await call('get', '/api/photos/{photo_id}/look', {
      path: { photo_id: this.photoId },
    });
    this.survey ??= kept.survey;
  }

  /** Look, telling the progress. */
  async start(said: Partial<Said> = {}): Promise<void> {
    this.cancel();
    // What is renewed meanwhile was asked with older words: its answer must not come after this one's.
    this.#renewing?.abort();
    const stop = (this.#stop = new AbortController());
    this.done = 0;
    this.#looking = this.#ask({ ...QUIET, ...said }, stop.signal, (share) => (this.done = share));
    try {
      await this.#looking;
    } finally {
      if (this.#stop === stop) {
        this.#stop = null;
        this.done = null;
      }
    }
  }

  cancel(): void {
    this.#stop?.abort();
    this.#stop = null;
    this.done = null;
  }

  /** The recipe has changed in a way that tells the finder something. */
  renew(): void {
    if (this.survey) this.#renewals.want(true);
  }

  async #renew(): Promise<void> {
    let looking;
    do await (looking = this.#looking);
    while (looking !== this.#looking);
    const stop = (this.#renewing = new AbortController());
    await this.#ask(this.said, stop.signal, () => {});
  }

  async #ask(said: Said, signal: AbortSignal, onshare: (share: number) => void): Promise<void> {
    const path = { photo_id: this.photoId };
    const body = { recipe: this.recipe(), said };
    let arrived: Survey | null = null;
    try {
      await callInLines('/api/photos/{photo_id}/look', { path, body }, signal, (line) => {
        const { done, survey, detail } = line as Line;
        if (signal.aborted) return;
        if (detail) throw new Error(detail);
        if (done) onshare(done);
        if (survey) arrived = survey;
      });
      await pointerRests();
      if (signal.aborted) return;
      this.survey = arrived ?? this.survey;
      this.trouble = '';
    } catch (error) {
      if (!signal.aborted) this.trouble = reasonOf(error);
    }
  }
}

/** What a change must touch for the finder to look again: evidence and masks, not amounts. */
export function evidenceOf(recipe: Recipe): unknown[] {
  const ofCast = (c: Cast) => [c.id, c.pairs, c.mask];
  return [recipe.base, recipe.dismissed, ...recipe.casts.flatMap(ofCast)];
}

const CAUSES: Record<Finding['cause'], string> = {
  spill: 'spill',
  'mixed-light': 'mixed light',
  flash: 'flash tint',
  water: 'water reflection',
  foliage: 'foliage',
  gel: 'coloured lamp',
  unknown: 'cast, cause unknown',
};
const SURE: Record<Finding['sure'], string> = {
  likely: 'Likely',
  possible: 'Possible',
  unsure: 'If you say so:',
};

/** Cause and confidence in words. */
export function because(finding: Finding): string {
  return `${SURE[finding.sure]} ${CAUSES[finding.cause]}`;
}
