import type { Recipe, Show } from '../api/types';
import type { Versions } from '../past/versions.svelte';
import type { Editor } from '../studio/editor.svelte';

export type Mode = 'off' | 'split' | 'beside' | 'several' | 'blink';
/** What can be compared: the photo as it came, under its base alone, without the selected cast or with it
 * alone, without its look, as it is now, and as any version has it. */
export type Side =
  'untouched' | 'base' | 'without' | 'alone' | 'unlooked' | 'now' | `version ${number}`;

export const MODES: [Mode, string][] = [
  ['off', 'Off'],
  ['split', 'Split'],
  ['beside', 'Side by side'],
  ['several', 'Up to four'],
  ['blink', 'Blink'],
];

/** version: counts what can change it, as Pictures wants it. */
interface Shown {
  recipe: Recipe;
  show: Show;
  version: number;
}

/** Which two states of the photo are looked at together, and how. */
export class Compare {
  mode = $state<Mode>('off');
  a = $state<Side>('untouched');
  b = $state<Side>('now');
  /** With up to four states, two more; null: not shown. */
  c = $state<Side | null>('base');
  d = $state<Side | null>(null);
  /** Of a split: its middle as shares of the canvas, and its turn clockwise from upright, degrees. */
  divider = $state.raw({ x: 0.5, y: 0.5, turn: 0 });
  #last: Mode = 'split';

  constructor(
    private readonly editor: Editor,
    private readonly versions: Versions,
  ) {}

  get sides(): [Side, string][] {
    const { editor } = this;
    const cast = editor.cast ? ` ${editor.letter}` : '';
    const ofCast: [Side, string][] = editor.cast
      ? [
          ['without', `Without cast${cast}`],
          ['alone', `Cast${cast} alone`],
        ]
      : [];
    const versions = this.versions.all.map((v): [Side, string] => [`version ${v.id}`, v.name]);
    return [
      ['untouched', 'Untouched'],
      ['base', 'Base alone'],
      ...ofCast,
      ...(editor.recipe.look ? [['unlooked', 'Without the look'] as [Side, string]] : []),
      ['now', 'Now'],
      ...versions,
    ];
  }

  nameOf(side: Side): string {
    return this.sides.find(([value]) => value === side)?.[1] ?? 'Now';
  }

  /** States in panes of their own, beside the photo. */
  get panes(): Side[] {
    if (this.mode === 'beside') return [this.a];
    if (this.mode !== 'several') return [];
    return [this.a, this.c, this.d].filter((side) => side !== null);
  }

  /** Goes on with a state that was looked at; it can be undone. The untouched photo is no state of work. */
  goOnWith(side: Side): void {
    if (side === 'untouched') return;
    this.editor.commit(this.resolve(side).recipe);
    this.set('off');
  }

  set(mode: Mode): void {
    if (mode !== 'off') this.#last = mode;
    this.mode = mode;
  }

  toggle(): void {
    this.set(this.mode === 'off' ? this.#last : 'off');
  }

  resolve(side: Side): Shown {
    const { recipe, castId, version } = this.editor;
    const of = (changed: Recipe): Shown => ({ recipe: changed, show: 'now', version });
    if (side === 'untouched') return { recipe, show: 'before', version: 0 };
    if (side === 'base') return of({ ...recipe, casts: [], look: null });
    if (side === 'unlooked') return of({ ...recipe, look: null });
    if (side === 'without' || side === 'alone') {
      const stays = (id: string) => (id === castId) === (side === 'alone');
      return of({
        ...recipe,
        casts: recipe.casts.map((c) => (stays(c.id) ? c : { ...c, on: false })),
      });
    }
    const kept = this.versions.all.find((v) => `version ${v.id}` === side);
    return kept ? { recipe: kept.recipe, show: 'now', version: 0 } : of(recipe);
  }

  /** Move and turn the divider, within the canvas. */
  moveDivider(change: Partial<{ x: number; y: number; turn: number }>): void {
    const { x, y, turn } = { ...this.divider, ...change };
    const within = (v: number) => Math.min(Math.max(v, 0), 1);
    this.divider = { x: within(x), y: within(y), turn: ((((turn + 180) % 360) + 360) % 360) - 180 };
  }
}
