// What one kind of mask part is on the screen: how it is added, what its row shows.
import type { Component } from 'svelte';
import type { Feature, Part, Recipe } from '../api/types';
import type { PartKind } from '../recipe/kinds';
import type { Drawing, Tool } from '../studio/tools';

/** What adding a part may do. */
export interface Hands {
  addPart: (part: Part) => void;
  take: (tool: Tool) => void;
  draw: (kind: Drawing) => void;
  /** What of a person is masked; kind: a guess instead, where there is nobody. */
  person: (of: Feature, orElse?: () => void) => void;
}

export interface PartDescriptor {
  kind: PartKind;
  /** Its place in the menu of kinds. */
  order: number;
  /** Whether it comes at the menu's end, behind the keys and other casts' masks. */
  last?: boolean;
  /** Its entries there: what one reads, a line drawing of 24 x 24, and what happens. Without any, the menu has a
   * way of its own. */
  adding: [string, string, (hands: Hands) => void][];
  /** Its name in the row of parts, where it is another than the core's. */
  title?: (part: Part, recipe: Recipe) => string;
  /** The tool that is taken up when it is chosen. */
  tool?: Tool;
  /** What its row shows: controls, or a sentence. */
  controls?: Component<{ part: any }>;
  note?: (part: Part) => string;
}
