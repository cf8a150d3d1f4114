"""What parts share that are found in the photo as a whole."""

from collections.abc import Callable

import numpy as np

from nubilis.arrays import Floats
from nubilis.mask.edges import Trace, read_trace
from nubilis.mask.part import NOTHING, Given, Part
from nubilis.mask.sight import Look, Sight
from nubilis.photo.pyramid import View, overlap


def within_reach(
    part: Part, rgb: Floats, view: View, draw: Callable[[Floats, View], Floats]
) -> Floats:
    """A part over a view, drawn no farther than it reaches. draw: of the picture (3, h, w) and its view."""
    out = np.zeros(view.shape, dtype=np.float32)
    touched = overlap(part.reach(view.size), view.region)
    if touched:
        x0, y0, x1, y1 = (v - view.region[i % 2] for i, v in enumerate(touched))
        here = np.ascontiguousarray(rgb[:, y0:y1, x0:x1])
        out[y0:y1, x0:x1] = draw(here, View(view.size, touched))
    return out


class FoundPart(Part):
    """Looked for once, and read from its trace at every view."""

    @property
    def looks(self) -> tuple[Look, ...]:
        return (self.bare,)

    def trace(self, sight: Sight) -> Trace:
        raise NotImplementedError

    def coverage(self, rgb_linear: Floats, view: View, given: Given = NOTHING) -> Floats:
        return read_trace(given.traces[0], rgb_linear, view)
