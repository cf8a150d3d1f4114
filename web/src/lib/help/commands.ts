import { room } from '../room/room.svelte';

/** What single keys do on the work screen; `held`: as long as the key is down. */
export const COMMANDS = [
  { id: 'untouched', key: 'u', text: 'The untouched photo', held: true },
  { id: 'compare', key: 'j', text: 'Compare two states' },
  { id: 'later-version', key: '.', text: 'Next version' },
  { id: 'earlier-version', key: ',', text: 'Version before' },
  { id: 'figures', key: 'g', text: 'All figures' },
  { id: 'view', key: 'w', text: 'Next way of showing the mask' },
  { id: 'tainted', key: 't', text: 'Sample a tainted place' },
  { id: 'reference', key: 'r', text: 'Sample its reference' },
  { id: 'neutral', key: 'n', text: 'Make it neutral' },
  { id: 'keep', key: 'k', text: 'Keep a colour' },
  { id: 'paint', key: 'p', text: 'Paint the mask' },
  { id: 'erase', key: 'x', text: 'Erase from the mask' },
  { id: 'look', key: 'l', text: 'Look for casts' },
  { id: 'ask', key: 'f', text: 'Show the finder a tainted place' },
  { id: 'map', key: 'm', text: 'Map of what was found' },
  { id: 'pick-tone', key: 'q', text: 'A click takes a wash’s tone', held: true },
  { id: 'station-1', key: '1', text: 'Station: sample' },
  { id: 'station-2', key: '2', text: 'Station: mask' },
  { id: 'station-3', key: '3', text: 'Station: remedy' },
  { id: 'station-4', key: '4', text: 'Station: proof' },
  { id: 'bare', key: 'o', text: 'Nothing but the photo, and back' },
  { id: 'fit', key: '0', text: 'Fit the photo' },
  { id: 'one-to-one', key: '9', text: 'One to one' },
  { id: 'help', key: '?', text: 'This sheet' },
] as const satisfies { id: string; key: string; text: string; held?: boolean }[];

export type Command = (typeof COMMANDS)[number]['id'];

/** What hands and other keys do together; these stay as they are. */
export const GESTURES = [
  { keys: 'Shift + click', text: 'Average into the last sample' },
  { keys: 'Arrows, Delete', text: 'On a tag: nudge, remove' },
  { keys: 'Insert, Enter', text: 'On a point: add, smooth' },
  { keys: 'Alt held', text: 'Erase while painting' },
  { keys: 'Shift + click', text: 'Paint a straight line' },
  { keys: 'Alt + click', text: 'Leave a colour out of the key' },
  { keys: 'Click', text: 'Choose what is masked there' },
  { keys: 'Ctrl held', text: 'Matte while a handle moves' },
  { keys: '0 … 9', text: 'While washing: its strength' },
  { keys: 'Alt + wheel', text: 'Brush size' },
  { keys: 'Wheel', text: 'Zoom at the pointer' },
  { keys: 'Space held', text: 'Move the photo' },
  { keys: 'Esc', text: 'Put the tool down' },
  { keys: 'Ctrl + Z', text: 'Undo' },
  { keys: 'Ctrl + Shift + Z', text: 'Redo' },
];

export function keyOf(command: Command): string {
  const resting = COMMANDS.find((c) => c.id === command)?.key ?? '';
  return room.settings.keys[command] ?? resting;
}

export function commandOf(key: string): Command | undefined {
  return COMMANDS.find((c) => keyOf(c.id) === key)?.id;
}

/** Whether a key may be given to a command: only signs, since controls use the others and the space. */
export function mayBeKey(key: string): boolean {
  return [...key].length === 1 && key !== ' ';
}

/** Give a command a key; a command that had it takes over the one given up. */
export function putKey(command: Command, key: string): void {
  const other = commandOf(key);
  const given = keyOf(command);
  const keys = { ...room.settings.keys, [command]: key };
  if (other && other !== command) keys[other] = given;
  room.set({ keys });
}

export function resetKeys(): void {
  room.set({ keys: {} });
}

export function shownKey(key: string): string {
  return key.toUpperCase();
}

/** A title that tells its key. */
export function withKey(text: string, command: Command): string {
  return `${text} (${shownKey(keyOf(command))})`;
}
