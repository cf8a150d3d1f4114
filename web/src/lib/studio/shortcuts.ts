import type { Stage } from '../canvas/stage.svelte';
import { type Command, commandOf } from '../help/commands';
import type { Studio } from './studio.svelte';
import { WASHING } from './tools';

type Act = (studio: Studio, stage: Stage) => void;

/** What each command does; helping is the screen's own. */
const ACTS: Record<Exclude<Command, 'help'>, Act> = {
  untouched: (studio) => (studio.untouched = true),
  compare: (studio) => studio.compare.toggle(),
  'later-version': (studio) => studio.versions.flip(1),
  'earlier-version': (studio) => studio.versions.flip(-1),
  figures: ({ proving }) => (proving.open = !proving.open),
  view: (studio) => studio.cycleView(),
  tainted: (studio) => (studio.tool = 'tainted'),
  reference: (studio) => (studio.tool = 'reference'),
  neutral: (studio) => void studio.sampler.makeNeutral(),
  keep: (studio) => (studio.tool = 'keep'),
  paint: (studio) => (studio.tool = 'paint'),
  erase: (studio) => (studio.tool = 'erase'),
  look: (studio) => studio.tell({}),
  ask: (studio) => (studio.tool = 'ask'),
  map: (studio) => studio.finder.survey && studio.toggleMap(),
  'pick-tone': ({ washing }) => (washing.picking = true),
  'station-1': ({ bench }) => (bench.station = 'sample'),
  'station-2': ({ bench }) => (bench.station = 'mask'),
  'station-3': ({ bench }) => (bench.station = 'remedy'),
  'station-4': ({ bench }) => (bench.station = 'proof'),
  bare: ({ bench }) => (bench.bare = !bench.bare),
  fit: (_, stage) => stage.fit(),
  'one-to-one': (_, stage) => stage.zoomTo(1),
};

export function typing(event: KeyboardEvent): boolean {
  const target = event.target as HTMLElement;
  return target.matches('input:not([type=checkbox]), textarea, select, [contenteditable]');
}

/** Whether a dialogue or a menu has the keys: then they are not the photo's. */
export function elsewhere(event: KeyboardEvent): boolean {
  const target = event.target as HTMLElement;
  const layer = '[role=dialog], [role=alertdialog], [role=menu], [role=listbox]';
  return event.defaultPrevented || target.closest(layer) !== null;
}

const CONTROL = 'button, input, a, [role=slider]';
/** The control that was clicked last, unless the keyboard has moved on since. */
let clicked: Element | null = null;

if (typeof addEventListener === 'function') {
  const point = (event: Event) => (clicked = (event.target as Element).closest?.(CONTROL) ?? null);
  addEventListener('pointerdown', point, { capture: true, passive: true });
  addEventListener('keydown', (event) => {
    if (event.key === 'Tab') clicked = null;
  });
}

/** Whether Space belongs to what has the focus. Whoever clicked a tool and then presses Space means the photo;
 * whoever came to it by the keyboard means the tool. */
export function spaceIsTaken(event: KeyboardEvent): boolean {
  const control = (event.target as HTMLElement).closest(CONTROL);
  return control !== null && (typing(event) || control !== clicked);
}

/** Runs a key's command; true when it was one. letters: whether single keys count. */
export function runShortcut(
  event: KeyboardEvent,
  studio: Studio,
  stage: Stage,
  letters: boolean,
): boolean {
  if (typing(event)) return false;
  const key = event.key.toLowerCase();
  if ((event.ctrlKey || event.metaKey) && key === 'z') {
    void studio.step(event.shiftKey ? 'redo' : 'undo');
    return true;
  }
  if (event.ctrlKey || event.metaKey || event.altKey) return false;
  if (key === 'escape') {
    studio.drawing.cancel();
    studio.proving.shown = null;
    studio.bench.bare = false;
    studio.tool = 'look';
    return true;
  }
  if (WASHING.includes(studio.tool) && /^\d$/.test(key)) {
    studio.washing.type(key);
    return true;
  }
  const command = letters ? commandOf(key) : undefined;
  if (!command || command === 'help') return false;
  ACTS[command](studio, stage);
  return true;
}
