"""How a part of a mask sees the photo, when it is found there and not drawn."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any, Protocol

import cv2
import numpy as np
import numpy.typing as npt

from nubilis.arrays import Codes, Floats
from nubilis.errors import RecipeError
from nubilis.mask.edges import Trace
from nubilis.photo.pyramid import Region, View, overlap
from nubilis.recipe.asset import Asset
from nubilis.recipe.model import Place


def no_codes(asset: Asset) -> Codes:
    raise RecipeError("a mask picture of the recipe is not here")


@dataclass(frozen=True, eq=False)
class Sight:
    """The photo under its base. size: (width, height) in full; read: any view of it, float32 (3, h, w)
    linear Rec. 2020; codes_of: code values (h, w) of a picture that a recipe refers to."""

    size: tuple[int, int]
    read: Callable[[View], Floats]
    codes_of: Callable[[Asset], Codes] = no_codes

    @property
    def long_edge(self) -> int:
        return max(self.size)

    def fit(self, long_edge: int) -> View:
        """The whole photo, its long edge at most so many pixels."""
        return View.within(self.size, long_edge)

    def around(self, box: Region, zoom: float) -> View:
        """A box of the photo, in its pixels, at a zoom of 1 at most. It must lie in the photo in part."""
        f = min(zoom, 1.0)
        size = max(1, round(self.size[0] * f)), max(1, round(self.size[1] * f))
        x0, y0, x1, y1 = overlap(box, (0, 0, *self.size)) or (0, 0, 1, 1)
        fx, fy = size[0] / self.size[0], size[1] / self.size[1]
        left, top = min(int(x0 * fx), size[0] - 1), min(int(y0 * fy), size[1] - 1)
        right, bottom = max(round(x1 * fx), left + 1), max(round(y1 * fy), top + 1)
        return View(size, (left, top, min(right, size[0]), min(bottom, size[1])))


def pixels_of(places: Sequence[Place], view: View) -> npt.NDArray[np.int32]:
    """Places as pixels (n, 2) of a view, which may lie beyond it."""
    at = np.array(places) * view.long_edge - view.region[:2]
    return np.asarray(np.floor(at), dtype=np.int32)


def draw_line(
    plane: npt.NDArray[Any], places: Sequence[Place], view: View, width: float, value: float
) -> None:
    """Draw a round pen's way over a plane (h, w) of a view. width: pixels."""
    points = pixels_of(places, view)
    # A single point twice, or nothing is drawn.
    points = points if len(points) > 1 else np.repeat(points, 2, axis=0)
    cv2.polylines(plane, [points], False, float(value), max(round(width), 1))


class Look(Protocol):
    """Something to be found in the photo; hashable, so that it is looked for once."""

    def trace(self, sight: Sight) -> Trace: ...
