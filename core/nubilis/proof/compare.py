"""What moved between two pictures of the same size, inside and outside a mask."""

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from nubilis.arrays import Floats
from nubilis.colour.cielab import lab_planes
from nubilis.colour.difference import difference_plane
from nubilis.errors import ShapeError
from nubilis.photo.depth import at_depth
from nubilis.photo.picture import Photo
from nubilis.photo.sampling import decode

STRIP_ROWS = 256
_STEP = 0.01  # ΔE2000, of the histogram that percentiles are read from
_BINS = 12_000


@dataclass(frozen=True)
class AreaFigures:
    """CIEDE2000 and L* change over an area. share: of the picture's pixels."""

    share: float
    mean: float
    p95: float
    most: float
    lightness_change: float


@dataclass(frozen=True)
class Comparison:
    """changed_codes: pixels outside the mask whose code values differ at all."""

    whole: AreaFigures
    inside: AreaFigures | None
    outside: AreaFigures | None
    changed_codes_outside: int | None


class _Tally:
    """Mean, maximum and histogram, gathered strip by strip."""

    def __init__(self) -> None:
        self.counts = np.zeros(_BINS, dtype=np.int64)
        self.total = self.light = self.most = 0.0
        self.n = 0

    def add(self, difference: Floats, light: Floats) -> None:
        if difference.size:
            index = np.minimum((difference / _STEP).astype(np.int64), _BINS - 1)
            self.counts += np.bincount(index, minlength=_BINS)
            self.total += float(difference.sum(dtype=np.float64))
            self.light += float(light.sum(dtype=np.float64))
            self.most = max(self.most, float(difference.max()))
            self.n += difference.size

    def area(self, pixels: int) -> AreaFigures:
        n = max(self.n, 1)
        p95 = float(np.searchsorted(np.cumsum(self.counts), 0.95 * n) * _STEP) if self.n else 0.0
        return AreaFigures(self.n / pixels, self.total / n, p95, self.most, self.light / n)


def compare(before: Photo, after: Photo, inside: npt.NDArray[np.bool_] | None = None) -> Comparison:
    """Compare two photos, each read through its own profile. inside: (h, w). Raises ShapeError."""
    size = (before.height, before.width)
    if (after.height, after.width) != size:
        raise ShapeError("after", f"{size[1]} x {size[0]}", f"{after.width} x {after.height}")
    if inside is not None and inside.shape != size:
        raise ShapeError("mask", f"{size[1]} x {size[0]}", f"{inside.shape[1]} x {inside.shape[0]}")
    whole, within, without = _Tally(), _Tally(), _Tally()
    changed = 0
    for y in range(0, size[0], STRIP_ROWS):
        rows = np.s_[y : y + STRIP_ROWS]
        one = lab_planes(decode(before.codes[rows], before.profile))
        two = lab_planes(decode(after.codes[rows], after.profile))
        moved, light = difference_plane(one, two), two[0] - one[0]
        whole.add(moved.ravel(), light.ravel())
        if inside is not None:
            part = inside[rows]
            within.add(moved[part], light[part])
            without.add(moved[~part], light[~part])
            bits = max(before.bits, after.bits)
            codes = at_depth(before.codes[rows], bits) != at_depth(after.codes[rows], bits)
            changed += int((codes.any(axis=2) & ~part).sum())
    pixels = size[0] * size[1]
    if inside is None:
        return Comparison(whole.area(pixels), None, None, None)
    return Comparison(whole.area(pixels), within.area(pixels), without.area(pixels), changed)


def unchanged_share(before: Photo, after: Photo) -> float:
    """Share of pixels whose code values are the same, at the depth of the later. Raises ShapeError."""
    if after.codes.shape != before.codes.shape:
        raise ShapeError("after", str(before.codes.shape), after.codes.shape)
    same = sum(
        int((at_depth(before.codes[rows], after.bits) == after.codes[rows]).all(axis=2).sum())
        for rows in (slice(y, y + STRIP_ROWS) for y in range(0, before.height, STRIP_ROWS))
    )
    return same / (before.width * before.height)
