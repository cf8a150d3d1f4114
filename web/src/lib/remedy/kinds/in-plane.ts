import type { Remedy } from '../../api/types';
import { changed, grabbed, type InPlane } from '../../shaping/plane';
import PlaneControls from '../../shaping/PlaneControls.svelte';
import { amount, type RemedyDescriptor, setting } from '../descriptor';

const PER_PIXEL = { plane: 0.0005, light: 0.001 };

/** The colour that was taken hold of: sideways green to red, upwards blue to yellow; lightness when `other`. */
function dragged(remedy: Remedy, [dx, dy]: [number, number], other: boolean): Remedy {
  const plane = remedy as InPlane;
  const point = plane.points.at(-1);
  if (!point) return plane;
  if (other) return changed(plane, point.id, { light: point.light - dy * PER_PIXEL.light });
  const end: [number, number] = [
    point.end[0] + dx * PER_PIXEL.plane,
    point.end[1] - dy * PER_PIXEL.plane,
  ];
  return changed(plane, point.id, { end });
}

function told(remedy: Remedy): string {
  const point = (remedy as InPlane).points.at(-1);
  if (!point) return 'No colour here';
  const by = point.end.map((v, i) => ((v - (point.start[i] ?? 0)) * 100).toFixed(1));
  return `Red ${by[0]}, yellow ${by[1]}`;
}

export default {
  kind: 'in-plane',
  order: 76,
  purpose: 'drag colours, neighbours follow',
  drawing: 'M4 4H20V20H4ZM4 12C9 12 11 9 20 10M12 4C12 9 14 13 12 20M14 8L18 5',
  settings: [amount('in-plane'), setting('in-plane', 'width', 'Reach', { step: 0.5 })],
  controls: PlaneControls,
  dragHint: 'Drag a colour on the photo: sideways to red, upwards to yellow, with Shift lightness',
  grab: (remedy, [, a, b]) => grabbed(remedy as InPlane, [a, b]),
  dragged,
  told,
} satisfies RemedyDescriptor;
