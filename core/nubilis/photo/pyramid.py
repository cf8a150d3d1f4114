"""A photo at every zoom: half-size levels in linear light, made when first asked for."""

import threading
from collections.abc import Iterable
from dataclasses import dataclass
from functools import cached_property

from nubilis.arrays import Floats
from nubilis.errors import PlaceError
from nubilis.photo.picture import Photo
from nubilis.photo.sampling import area_of_codes, area_of_planes, decode, half_of_codes

Region = tuple[int, int, int, int]
ANALYSIS_EDGE = 768


def overlap(one: Region, two: Region) -> Region | None:
    """What lies in both, None when nothing does."""
    x0, y0 = max(one[0], two[0]), max(one[1], two[1])
    x1, y1 = min(one[2], two[2]), min(one[3], two[3])
    return (x0, y0, x1, y1) if x0 < x1 and y0 < y1 else None


def pixel_at(at: tuple[float, float], shape: tuple[int, ...]) -> tuple[int, int]:
    """Column and row of a place, fractions of the long edge, in a picture of the whole photo (h, w)."""
    h, w = shape
    x, y = (min(max(int(c * max(h, w)), 0), n - 1) for c, n in zip(at, (w, h), strict=True))
    return x, y


def around(regions: Iterable[Region]) -> Region:
    """The smallest region that holds all of them, of which there must be one at least."""
    left, top, right, bottom = zip(*regions, strict=True)
    return min(left), min(top), max(right), max(bottom)


@dataclass(frozen=True)
class View:
    """What is looked at: the whole photo's size at this zoom, and the region shown, in its pixels.

    size: (width, height); region: x0, y0, x1, y1.
    """

    size: tuple[int, int]
    region: Region

    @staticmethod
    def fit(photo: Photo, long_edge: int) -> "View":
        """The whole photo, its long edge at most `long_edge` pixels."""
        return View.within((photo.width, photo.height), long_edge)

    @staticmethod
    def within(full: tuple[int, int], long_edge: int) -> "View":
        """The same for a photo of (width, height)."""
        f = min(1.0, long_edge / max(full))
        size = max(1, round(full[0] * f)), max(1, round(full[1] * f))
        return View(size, (0, 0, *size))

    @property
    def shape(self) -> tuple[int, int]:
        """(height, width) of the region."""
        x0, y0, x1, y1 = self.region
        return y1 - y0, x1 - x0

    @property
    def long_edge(self) -> int:
        return max(self.size)

    def grown(self, by: int, grid: int = 1) -> "View":
        """With so many pixels more on every side, and on to multiples of `grid`, as far as the photo goes."""
        x0, y0, x1, y1 = self.region
        w, h = self.size
        left, top = (max((v - by) // grid * grid, 0) for v in (x0, y0))
        right, bottom = (min(-(-(v + by) // grid) * grid, most) for v, most in ((x1, w), (y1, h)))
        return View(self.size, (left, top, right, bottom))

    def checked(self, photo: Photo) -> "View":
        """This view, if it lies within the photo and does not enlarge. Raises PlaceError."""
        w, h = self.size
        x0, y0, x1, y1 = self.region
        if not (1 <= w <= photo.width and 1 <= h <= photo.height):
            raise PlaceError(
                f"a view of {w} x {h} does not fit a photo of {photo.width} x {photo.height}"
            )
        if not (0 <= x0 < x1 <= w and 0 <= y0 < y1 <= h):
            raise PlaceError(f"region {self.region} lies outside {w} x {h}")
        return self


class Pyramid:
    """Linear light of one photo at any view. Safe to read from several threads."""

    def __init__(self, photo: Photo) -> None:
        self.photo = photo
        self._levels: list[Floats] = []
        self._lock = threading.Lock()

    def read(self, view: View) -> Floats:
        """The untouched photo, float32 (3, h, w) linear Rec. 2020. Raises PlaceError."""
        view.checked(self.photo)
        photo, (x0, y0, x1, y1) = self.photo, view.region
        if view.size == (photo.width, photo.height):
            return decode(photo.codes[y0:y1, x0:x1], photo.profile)
        level = self._level_for(photo.width / view.size[0])
        if level == 0:
            return area_of_codes(photo.codes, photo.profile, view.size, view.region)
        f = 2.0**level
        scale = photo.width / view.size[0] / f, photo.height / view.size[1] / f
        return area_of_planes(self._get(level), scale, view.region)

    @cached_property
    def analysis(self) -> Floats:
        """The photo at the one size at which statistics are taken, whatever the view."""
        view = View.fit(self.photo, ANALYSIS_EDGE)
        if view.size == (self.photo.width, self.photo.height):
            return self.read(view)  # to the bit what delivery decodes
        return area_of_codes(self.photo.codes, self.photo.profile, view.size, view.region)

    @property
    def held_bytes(self) -> int:
        """Of the levels that were made."""
        return sum(level.nbytes for level in self._levels)

    def _level_for(self, ratio: float) -> int:
        level = 0
        while 2.0 ** (level + 1) <= ratio and self.photo.long_edge >> (level + 1) > 0:
            level += 1
        return level

    def _get(self, level: int) -> Floats:
        with self._lock:
            while len(self._levels) < level:
                self._levels.append(self._halved())
            return self._levels[level - 1]

    def _halved(self) -> Floats:
        if not self._levels:
            return half_of_codes(self.photo.codes, self.photo.profile)
        last = self._levels[-1]
        w, h = -(-last.shape[2] // 2), -(-last.shape[1] // 2)
        return area_of_planes(last, (2.0, 2.0), (0, 0, w, h))
