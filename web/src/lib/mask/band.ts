// A range with core and fade on an unrolled band. Values: degrees for hue, else 0..100.
import type { Range } from '../api/types';

export type Handle = 'fade-low' | 'core-low' | 'core' | 'core-high' | 'fade-high';
export const HANDLES: Handle[] = ['fade-low', 'core-low', 'core-high', 'fade-high'];

/** The handle on the other side, which a mirrored drag moves too. */
export const TWINS: Partial<Record<Handle, Handle>> = {
  'fade-low': 'fade-high',
  'fade-high': 'fade-low',
  'core-low': 'core-high',
  'core-high': 'core-low',
};

export function valueOf(range: Range, handle: Handle): number {
  const [low, high] = range.core;
  if (handle === 'fade-low') return low - range.fade[0];
  if (handle === 'fade-high') return high + range.fade[1];
  if (handle === 'core-high') return high;
  return low;
}

/** The range after a handle moved by `by`. A core's ends push no further than each other. */
export function moved(
  range: Range,
  handle: Handle,
  by: number,
  extent: number,
  wraps: boolean,
): Range {
  const [low, high] = range.core;
  const [below, above] = range.fade;
  const most = wraps ? extent / 2 : extent;
  const fade = (width: number) => Math.min(Math.max(width, 0), most);
  const bound = (at: number) => (wraps ? at : Math.min(Math.max(at, 0), extent));
  if (handle === 'fade-low') return { ...range, fade: [fade(below - by), above] };
  if (handle === 'fade-high') return { ...range, fade: [below, fade(above + by)] };
  if (handle === 'core-low') {
    const least = wraps ? high - extent : 0;
    return { ...range, core: [Math.min(Math.max(low + by, least), high), high] };
  }
  if (handle === 'core-high') {
    const greatest = wraps ? low + extent : extent;
    return { ...range, core: [low, Math.max(Math.min(high + by, greatest), low)] };
  }
  const step = bound(low + by) - low;
  const allowed = wraps ? by : Math.min(step, extent - high);
  return turned({ ...range, core: [low + allowed, high + allowed] }, extent, wraps);
}

/** A wrapping core's low end within one turn of 0. */
export function turned(range: Range, extent: number, wraps: boolean): Range {
  if (!wraps) return range;
  const turns = Math.floor(range.core[0] / extent) * extent;
  return { ...range, core: [range.core[0] - turns, range.core[1] - turns] };
}
