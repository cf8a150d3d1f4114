import type { Show } from '../api/types';

/** Tools that draw a new part of a mask. */
export type Drawing = 'lasso' | 'path' | 'oval' | 'ramp';
export const DRAWING: Tool[] = ['lasso', 'path', 'oval', 'ramp'];

export function isDrawing(tool: Tool): tool is Drawing {
  return DRAWING.includes(tool);
}

/** What a click on the photo means. Of the sampling ones: a sample of a cast, its key's colour, a word to
 * the finder, the base's neutral, or skin for the scope; 'box' is dragged, and 'turn'
 * drags the selected remedy's handles. */
export type Tool =
  | 'look'
  | 'tainted'
  | 'reference'
  | 'keep'
  | 'paint'
  | 'erase'
  | 'key'
  | 'ask'
  | 'ask-neutral'
  | 'light'
  | 'target'
  | 'skin'
  | 'box'
  | 'turn'
  | Drawing;
export const SAMPLING: Tool[] = [
  'tainted',
  'reference',
  'keep',
  'key',
  'ask',
  'ask-neutral',
  'light',
  'target',
  'skin',
];
export const BRUSHING: Tool[] = ['paint', 'erase'];
export const VIEWS: Show[] = ['now', 'hatch', 'matte', 'isolate'];
