"""One frame of a series, as small as following needs it."""

from dataclasses import dataclass
from functools import cached_property

import cv2
import numpy as np
import numpy.typing as npt

from nubilis.arrays import Floats
from nubilis.colour.oklab import linear_rgb_to_oklab
from nubilis.mask.sight import Sight
from nubilis.photo.pyramid import View
from nubilis.recipe.model import Place

EDGE = 400
CHROMA = 2.5  # OKLab a and b against L: light changes as things move, colours less
AROUND = (2.0, 5.0)  # pixels: what lies around a place tells it from others of its colour
WEIGHT = 1.2  # of what lies around
LIKE = 0.12  # distance of what two places are known by, up to which they may be the same
Pixel = tuple[float, float]


@dataclass(frozen=True, eq=False)
class Frame:
    """rgb: (3, h, w) linear Rec. 2020, of view, which is the whole photo."""

    rgb: Floats
    view: View

    @property
    def shape(self) -> tuple[int, int]:
        return self.view.shape

    @cached_property
    def light(self) -> npt.NDArray[np.uint8]:
        """OKLab L as codes (h, w)."""
        return np.ascontiguousarray(np.clip(self._lab[..., 0] * 255.0, 0.0, 255.0).astype(np.uint8))

    @cached_property
    def signs(self) -> Floats:
        """What each place is known by, (h, w, 9): its colour, and those around it."""
        lab = self._lab * np.array([1.0, CHROMA, CHROMA], dtype=np.float32)
        coarse = (cv2.GaussianBlur(lab, (0, 0), sigma) * WEIGHT for sigma in AROUND)
        return np.ascontiguousarray(np.concatenate([lab, *coarse], axis=2), dtype=np.float32)

    def like(self, sign: Floats, at: Pixel, near: int) -> Pixel | None:
        """The place known by about the same, at most so many pixels from another; None where none is."""
        x, y = nearest(at, self.shape)
        left, top = max(x - near, 0), max(y - near, 0)
        off = self.signs[top : y + near + 1, left : x + near + 1] - sign
        size = np.linalg.norm(off, axis=2)
        row, column = np.unravel_index(int(size.argmin()), size.shape)
        return (float(left + column), float(top + row)) if size[row, column] < LIKE else None

    @cached_property
    def _lab(self) -> Floats:
        planes = np.moveaxis(np.maximum(self.rgb, 0.0), 0, 2)
        lab = linear_rgb_to_oklab(np.ascontiguousarray(planes))
        return np.asarray(lab, dtype=np.float32)


def frame_of(sight: Sight) -> Frame:
    view = sight.fit(EDGE)
    return Frame(sight.read(view), view)


def as_pixel(at: Place, long_edge: int) -> Pixel:
    return at[0] * long_edge - 0.5, at[1] * long_edge - 0.5


def as_place(at: Pixel, long_edge: int) -> Place:
    return (at[0] + 0.5) / long_edge, (at[1] + 0.5) / long_edge


def nearest(at: Pixel, shape: tuple[int, int]) -> tuple[int, int]:
    """The column and row next to a place of a frame, or to one beyond its edge."""
    h, w = shape
    return min(max(round(at[0]), 0), w - 1), min(max(round(at[1]), 0), h - 1)
