"""Picture: a grey picture used as a mask; the recipe names it by its content."""

from typing import ClassVar, Literal

import cv2
import numpy as np

from nubilis.arrays import Codes, Floats
from nubilis.kernels import f32
from nubilis.mask.part import NOTHING, Given, Part
from nubilis.photo.pyramid import View
from nubilis.recipe.asset import Asset

Extent = tuple[float, float]


class Picture(Part):
    """asset: a grey PNG, 8 or 16 bits; white is inside. Stretched over the whole photo."""

    title: ClassVar[str] = "region"

    kind: Literal["picture"] = "picture"
    asset: Asset

    @property
    def has_places(self) -> bool:
        return True

    def coverage(self, rgb_linear: Floats, view: View, given: Given = NOTHING) -> Floats:
        return stretched(given.codes_of(self.asset), view)


def stretched(codes: Codes, view: View, over: tuple[Extent, Extent] | None = None) -> Floats:
    """A grey picture over a view, 0..1, float32 (h, w); beyond its rim, the rim. over: corner and extent of
    what of the photo it covers, fractions of the long edge; of none, all of it."""
    x0, y0, x1, y1 = view.region
    h, w = codes.shape
    if over is None and view.size == (w, h):
        return _plane(codes[y0:y1, x0:x1])
    edge = view.long_edge
    corner, wide = over or ((0.0, 0.0), (view.size[0] / edge, view.size[1] / edge))
    steps = w / (wide[0] * edge), h / (wide[1] * edge)
    # Where a pixel's centre falls in the picture.
    xs = ((np.arange(x0, x1) + 0.5 - corner[0] * edge) * steps[0] - 0.5).astype(np.float32)
    ys = ((np.arange(y0, y1) + 0.5 - corner[1] * edge) * steps[1] - 0.5).astype(np.float32)
    if steps[0] >= 2.0:
        # Small views read from an average, or thin parts would flicker.
        source = _averaged(codes, 1.0 / steps[0])
        f = f32(source.shape[1] / w)
        return _between(source, (xs + f32(0.5)) * f - f32(0.5), (ys + f32(0.5)) * f - f32(0.5))
    left, right = _span(xs, w)
    top, bottom = _span(ys, h)
    return _between(_plane(codes[top:bottom, left:right]), xs - f32(left), ys - f32(top))


def _span(at: Floats, size: int) -> tuple[int, int]:
    """First pixel that is read along an axis, and one past the last."""
    first = min(max(int(at[0]) - 1, 0), size - 1)
    return first, max(min(int(at[-1]) + 3, size), first + 1)


def _plane(codes: Codes) -> Floats:
    """0..1, float32, contiguous."""
    top = np.float32(np.iinfo(codes.dtype).max)
    return np.ascontiguousarray(codes / top, dtype=np.float32)


def _averaged(codes: Codes, scale: float) -> Floats:
    h, w = codes.shape
    size = max(1, round(w * scale)), max(1, round(h * scale))
    return np.asarray(cv2.resize(_plane(codes), size, interpolation=cv2.INTER_AREA))


def _between(source: Floats, xs: Floats, ys: Floats) -> Floats:
    at_x, at_y = np.meshgrid(xs, ys)
    return np.asarray(
        cv2.remap(source, at_x, at_y, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
    )
