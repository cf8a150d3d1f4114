import type { Stage } from '../canvas/stage.svelte';
import type { Studio } from './studio.svelte';
import type { Tool } from './tools';

/** What the keys sheet lists. */
export const SHORTCUTS = [
  { keys: 'U held', text: 'The untouched photo' },
  { keys: 'Y', text: 'Compare two states' },
  { keys: '. and ,', text: 'Flip through versions' },
  { keys: 'W', text: 'Next way of showing the mask' },
  { keys: 'T', text: 'Sample a tainted place' },
  { keys: 'R', text: 'Sample its reference' },
  { keys: 'N', text: 'Make it neutral' },
  { keys: 'K', text: 'Keep a colour' },
  { keys: 'P', text: 'Paint the mask' },
  { keys: 'X', text: 'Erase from the mask' },
  { keys: 'L', text: 'Look for casts' },
  { keys: 'F', text: 'Show the finder a tainted place' },
  { keys: 'M', text: 'Map of what was found' },
  { keys: 'Shift + click', text: 'Average into the last sample' },
  { keys: 'Arrows, Delete', text: 'On a tag: nudge, remove' },
  { keys: 'Insert, Enter', text: 'On a point: add, smooth' },
  { keys: 'Alt held', text: 'Erase while painting' },
  { keys: 'Shift + click', text: 'Paint a straight line' },
  { keys: 'Alt + click', text: 'Leave a colour out of the key' },
  { keys: 'Click', text: 'Choose what is masked there' },
  { keys: 'Ctrl held', text: 'Matte while a handle moves' },
  { keys: 'Alt + wheel', text: 'Brush size' },
  { keys: 'Wheel', text: 'Zoom at the pointer' },
  { keys: 'Space held', text: 'Move the photo' },
  { keys: '0', text: 'Fit the photo' },
  { keys: '1', text: 'One to one' },
  { keys: 'Esc', text: 'Put the tool down' },
  { keys: 'Ctrl + Z', text: 'Undo' },
  { keys: 'Ctrl + Shift + Z', text: 'Redo' },
  { keys: '?', text: 'This sheet' },
];

const TOOLS: Record<string, Tool> = {
  t: 'tainted',
  r: 'reference',
  k: 'keep',
  p: 'paint',
  x: 'erase',
  f: 'ask',
};

function typing(event: KeyboardEvent): boolean {
  const target = event.target as HTMLElement;
  return target.matches('input:not([type=checkbox]), textarea, select, [contenteditable]');
}

/** Runs a key's command; true when it was one. */
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
    studio.tool = 'look';
  } else if (!letters) return false;
  else if (key === '0') stage.fit();
  else if (key === '1') stage.zoomTo(1);
  else if (key === 'u') studio.untouched = true;
  else if (key === 'w') studio.cycleView();
  else if (key === 'y') studio.compare.toggle();
  else if (key === '.') studio.versions.flip(1);
  else if (key === ',') studio.versions.flip(-1);
  else if (key === 'l') studio.tell({});
  else if (key === 'm') {
    if (studio.finder.survey) studio.toggleMap();
  } else if (key === 'n') void studio.sampler.makeNeutral();
  else if (TOOLS[key]) studio.tool = TOOLS[key];
  else return false;
  return true;
}
