"""Snap: an object found from a sloppy loop round it or a scribble in it, to the photo's own edges."""

from typing import Annotated, ClassVar, Literal, Self

import cv2
import numpy as np
import numpy.typing as npt
from pydantic import Field, model_validator

from nubilis.arrays import Floats
from nubilis.mask.cut import IN, MAYBE_IN, MAYBE_OUT, OUT, cut_out
from nubilis.mask.edges import Trace, calm_guide, read_trace, traced
from nubilis.mask.found import FoundPart, within_reach
from nubilis.mask.move import Move
from nubilis.mask.part import NOTHING, Given
from nubilis.mask.sight import Sight, draw_line, pixels_of
from nubilis.mask.walk import FAR, change_from
from nubilis.photo.pyramid import Region, View, overlap
from nubilis.recipe.model import Model, Place

WIDEST = 0.2  # of a scribble
EDGE = 320  # pixels that the object and what is around it are worked out on
ROOM = 0.35  # of the loop's size: how much of its surroundings is looked at
WIDE_ROOM = 1.0  # the same for scribbles, of which nobody said how far the object goes
RIM = 0.3  # of the loop's inner half width: its rim is rather outside
LIKE, UNLIKE = 0.06, 0.5  # change of the root of linear light between a scribble and a place
NEAR = 0.6  # of the scribbles' size
SLOPPY = 0.02  # of the same: so far outside the loop the object may still go


class Scribble(Model):
    """Drawn over what it means. size: its width, fraction of the long edge."""

    size: Annotated[float, Field(gt=0.0, le=WIDEST, allow_inf_nan=False)] = 0.01
    points: Annotated[tuple[Place, ...], Field(min_length=1, max_length=4000)]

    def moved(self, move: Move) -> Self:
        here = {"size": move.size(self.size, WIDEST), "points": move.places(self.points)}
        return self.model_copy(update=here)


class Snap(FoundPart):
    """loop: drawn round the object, may be missing; this, other: scribbles over it, and over what is
    not it."""

    title: ClassVar[str] = "object"

    kind: Literal["snap"] = "snap"
    loop: Annotated[tuple[Place, ...], Field(max_length=4000)] = ()
    this: Annotated[tuple[Scribble, ...], Field(max_length=100)] = ()
    other: Annotated[tuple[Scribble, ...], Field(max_length=100)] = ()

    @model_validator(mode="after")
    def _said(self) -> "Snap":
        if len(self.loop) < 3 and not self.this:
            raise ValueError("an object needs a loop round it or a scribble in it")
        return self

    def moved(self, move: Move) -> Self:
        this, other = (tuple(s.moved(move) for s in drawn) for drawn in (self.this, self.other))
        return self.model_copy(
            update={"loop": move.places(self.loop), "this": this, "other": other}
        )

    def coverage(self, rgb_linear: Floats, view: View, given: Given = NOTHING) -> Floats:
        trace = given.traces[0]
        return within_reach(self, rgb_linear, view, lambda rgb, at: read_trace(trace, rgb, at))

    def reach(self, size: tuple[int, int]) -> Region:
        room = ROOM if len(self.loop) > 2 else WIDE_ROOM
        drawn = np.array([*self.loop, *(p for s in self.this for p in s.points)]) * max(size)
        low, high = drawn.min(axis=0), drawn.max(axis=0)
        # A single dot has no size to tell how far to look.
        more = max(room * float((high - low).max()), 0.05 * max(size))
        box = [*np.floor(low - more).astype(int), *np.ceil(high + more).astype(int)]
        return overlap((box[0], box[1], box[2], box[3]), (0, 0, *size)) or (0, 0, 0, 0)

    def trace(self, sight: Sight) -> Trace:
        box = self.reach(sight.size)
        view = sight.around(box, EDGE / max(box[2] - box[0], box[3] - box[1], 1))
        rgb = sight.read(view)
        cut = cut_out(rgb, self._said_of(rgb, view), rounds=1 if self.loop else 2)
        cut[self._beyond(view)] = 0.0
        return traced(rgb, cut, view)

    def _said_of(self, rgb: Floats, view: View) -> npt.NDArray[np.uint8]:
        """What is known of each place of a view, see cut.py."""
        said = self._looped(view) if len(self.loop) > 2 else self._alike(rgb, view)
        for scribbles, kind in ((self.this, IN), (self.other, OUT)):
            for scribble in scribbles:
                draw_line(said, scribble.points, view, scribble.size * view.long_edge, kind)
        said[self._beyond(view)] = OUT
        return said

    def _looped(self, view: View) -> npt.NDArray[np.uint8]:
        """The loop's inside, but for its rim, is rather the object; what lies well outside is not."""
        loop = np.zeros(view.shape, dtype=np.uint8)
        cv2.fillPoly(loop, [pixels_of(self.loop, view)], 1)
        deep, off = (_depth(mask) for mask in (loop, 1 - loop))
        half = float(deep.max())
        said = np.where(deep > RIM * half, MAYBE_IN, MAYBE_OUT).astype(np.uint8)
        said[off > SLOPPY * half] = OUT
        return said

    def _alike(self, rgb: Floats, view: View) -> npt.NDArray[np.uint8]:
        """What few steps of colour part from the scribbles is rather the object; what many part, or what
        lies farther off than they are long, is not."""
        start = np.full(view.shape, FAR, dtype=np.float32)
        for scribble in self.this:
            draw_line(start, scribble.points, view, scribble.size * view.long_edge, 0.0)
        change = change_from(calm_guide(rgb), start)
        off = _depth((start > 0.0).astype(np.uint8))
        points = pixels_of([p for s in self.this for p in s.points], view)
        size = max(float(np.ptp(points, axis=0).max()), 0.05 * view.long_edge)
        said = np.full(view.shape, MAYBE_OUT, dtype=np.uint8)
        said[(change < LIKE) & (off < NEAR * size)] = MAYBE_IN
        said[(change > UNLIKE) | (off > size)] = OUT
        return said

    def _beyond(self, view: View) -> npt.NDArray[np.bool_]:
        """The rim of what is looked at, unless it is the photo's own: an object does not reach it."""
        rim = np.zeros(view.shape, dtype=np.bool_)
        x0, y0, x1, y1 = view.region
        if x0 > 0:
            rim[:, :2] = True
        if y0 > 0:
            rim[:2] = True
        if x1 < view.size[0]:
            rim[:, -2:] = True
        if y1 < view.size[1]:
            rim[-2:] = True
        return rim


def _depth(mask: npt.NDArray[np.uint8]) -> Floats:
    """How deep in a mask each place lies, pixels; the rim of what is looked at counts as an edge."""
    wide = cv2.copyMakeBorder(mask, 1, 1, 1, 1, cv2.BORDER_CONSTANT, value=0)
    return np.asarray(cv2.distanceTransform(wide, cv2.DIST_L2, 3))[1:-1, 1:-1]
