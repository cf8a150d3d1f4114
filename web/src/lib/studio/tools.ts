import type { Show } from '../api/types';

/** Tools that draw a new part of a mask. */
export type Drawing = 'lasso' | 'path' | 'oval' | 'ramp' | 'snap';
export const DRAWING: Tool[] = ['lasso', 'path', 'oval', 'ramp', 'snap'];

export function isDrawing(tool: Tool): tool is Drawing {
  return DRAWING.includes(tool);
}

/** What a click on the photo means. Of the sampling ones: a sample of a cast, its key's colour, a word to
 * the finder, the base's neutral, or skin for the scope; 'box' is dragged, and 'turn'
 * drags the selected remedy's handles; 'touch' drags how much of the cast lies at a place; 'similar' takes a place whose like is masked; 'this' and 'other'
 * scribble over what is, and what is not, the object that a mask snaps to; 'who' takes the person that a mask is of; 'wash' and 'unwash' paint strokes of a
 * remedy and take them away, and 'tone' takes the colour that they go towards. */
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
  | 'touch'
  | 'similar'
  | 'who'
  | 'this'
  | 'other'
  | 'wash'
  | 'unwash'
  | 'tone'
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
  'tone',
  'skin',
  'similar',
  'who',
];
/** Those that paint a mask, and those that scribble. */
export const PAINTING: Tool[] = ['paint', 'erase'];
export const SCRIBBLING: Tool[] = ['this', 'other'];
export const WASHING: Tool[] = ['wash', 'unwash'];
export const BRUSHING: Tool[] = [...PAINTING, ...SCRIBBLING, ...WASHING];
/** Width of a scribble, fraction of the long edge. */
export const SCRIBBLE = 0.012;
export const VIEWS: Show[] = ['now', 'hatch', 'outline', 'matte', 'isolate'];
