import { MediaQuery } from 'svelte/reactivity';
import { room } from '../room/room.svelte';
import type { Tool } from './tools';

export const STATIONS = ['sample', 'mask', 'remedy', 'proof'] as const;
export type StationName = (typeof STATIONS)[number];
/** Where a station stands: on the bench; or, beside a portrait-format photo, as a line in the strip or as the
 * one sheet. */
export type Place = 'bench' | 'strip' | 'sheet';

/** Wide enough for all four at once, CSS pixels. */
const ALL_AT_ONCE = 1700;
export const LOWEST = 150;
export const HIGHEST = 460;

const OF_TOOL: Partial<Record<Tool, StationName>> = {
  tainted: 'sample',
  reference: 'sample',
  keep: 'sample',
  paint: 'mask',
  erase: 'mask',
  key: 'mask',
  similar: 'mask',
  who: 'mask',
  this: 'mask',
  other: 'mask',
  lasso: 'mask',
  path: 'mask',
  oval: 'mask',
  ramp: 'mask',
  snap: 'mask',
  target: 'remedy',
  tone: 'remedy',
  wash: 'remedy',
  unwash: 'remedy',
  turn: 'remedy',
  touch: 'remedy',
};

/** Which station is in use; the others fold to what they hold, where there is no room for all. */
export class Bench {
  station = $state<StationName>('sample');
  /** Nothing but the photo. */
  bare = $state(false);
  readonly #wide = new MediaQuery(`width >= ${ALL_AT_ONCE}px`);
  #railFolded = $state(false);

  /** treated: whether there are casts already, which letters can stand for. */
  constructor(
    readonly portrait: boolean,
    treated: boolean,
  ) {
    this.#railFolded = treated;
  }

  /** Beside a portrait-format photo the casts fold to letters and dials. */
  get railFolded(): boolean {
    return this.#railFolded && this.portrait && !this.#wide.current;
  }

  set railFolded(folded: boolean) {
    this.#railFolded = folded;
  }

  get railCanFold(): boolean {
    return this.portrait && !this.#wide.current;
  }

  get wide(): boolean {
    return this.#wide.current && !this.portrait;
  }

  opens(name: StationName, place: Place): boolean {
    if (place === 'strip') return false;
    return this.wide || this.station === name;
  }

  /** The station that a tool belongs to comes into use with it. */
  follow(tool: Tool): void {
    this.station = OF_TOOL[tool] ?? this.station;
  }

  get height(): number {
    return Math.min(Math.max(room.settings.benchHeight, LOWEST), HIGHEST);
  }

  set height(pixels: number) {
    room.set({ benchHeight: Math.round(Math.min(Math.max(pixels, LOWEST), HIGHEST)) });
  }

  /** Widths of the stations on the bench. */
  get columns(): string {
    // Where all are open nothing moves under the hand.
    if (this.wide) return 'minmax(0, 34fr) minmax(0, 40fr) minmax(0, 56fr) minmax(0, 30fr)';
    const share = (name: StationName): string =>
      this.station === name ? 'minmax(0, 1fr)' : 'minmax(0, 150px)';
    return STATIONS.map(share).join(' ');
  }
}
