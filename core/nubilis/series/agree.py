"""One colour that several photos of a shoot should share: where it is in each of them.

Photos of one series are followed from the clicked one on. In others, and where it was lost, what resembles
it most is taken: of about its colour, whatever light falls on it there, as even as it is, and enough of it.
The skin of a face is looked for on faces.
"""

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import cached_property, lru_cache

import cv2
import numpy as np

from nubilis.arrays import Floats
from nubilis.colour.cielab import lab_planes, linear_rgb_to_lab
from nubilis.colour.difference import ciede2000
from nubilis.people.people import People
from nubilis.people.places import Cell, alike, cell_at, lit_skins, place_of_cell
from nubilis.photo.pyramid import pixel_at
from nubilis.recipe.model import LinearRgb, Place
from nubilis.series.frame import LIKE, Frame, as_pixel, as_place, nearest
from nubilis.series.motion import Motion, motion_between

LIGHT = 0.3  # weight of lightness: the same thing stands in more light here and less there
FARTHEST = 10.0  # CIELAB, lightness so weighed: farther colours are of something else
OTHER_SKIN = 20.0  # CIEDE2000, as light as each other
STEP = 3.0  # CIELAB: colours so far apart may be of one surface
UNEVEN = 0.7  # weight of a difference in evenness
LARGE = 3.0  # CIELAB, what ten times the area is worth
AROUND = 5  # pixels that are averaged
SMALLEST = 12  # pixels
NEAR = 20  # pixels that what was lost is looked for around where it should be
FRAMES_KEPT = 4


@dataclass(frozen=True, eq=False)
class Surface:
    """A frame in the terms in which surfaces are told apart. lab: (3, h, w) CIELAB D50, averaged; even:
    (h, w), how much it varies around each place."""

    lab: Floats
    even: Floats

    @staticmethod
    def of(frame: Frame) -> "Surface":
        lab = lab_planes(frame.rgb)
        size = (AROUND, AROUND)
        mean = np.stack([cv2.blur(p, size) for p in lab])
        square = cv2.blur((lab**2).sum(axis=0), size) - (mean**2).sum(axis=0)
        return Surface(mean, np.sqrt(np.maximum(square, 0.0)).astype(np.float32))


@dataclass(frozen=True, eq=False)
class Material:
    """What is looked for by its looks. lab: CIELAB D50 (3,); even: how much it varies around a place, None
    where that is not known."""

    lab: Floats
    even: float | None = None

    def place_in(self, frame: Frame) -> Place | None:
        """The place of a frame that resembles it most; None where nothing does."""
        surface = Surface.of(frame)
        weigh = np.array([LIGHT, 1.0, 1.0], dtype=np.float32)[:, None, None]
        away = np.linalg.norm((surface.lab - self.lab[:, None, None]) * weigh, axis=0)
        off = away if self.even is None else away + UNEVEN * np.abs(surface.even - self.even)
        levels = float(off.min()) + STEP * np.arange(1, 4)
        places = (_best_of(off, away, float(level)) for level in levels)
        found = min((p for p in places if p), default=None)
        return found and as_place((found[1], found[2]), frame.view.long_edge)


class Sought:
    """What was clicked. frame_of, people_of: of the i-th photo; people: None where nobody is looked for."""

    def __init__(
        self,
        count: int,
        frame_of: Callable[[int], Frame],
        people_of: Callable[[int], People | None],
        clicked: int,
        at: Place,
    ) -> None:
        self._count, self._clicked, self._at = count, clicked, at
        self._frame = lru_cache(FRAMES_KEPT)(frame_of)
        self._people_of = people_of
        frame = self._frame(clicked)
        x, y = pixel_at(at, frame.shape)
        own = Surface.of(frame)
        self._material = Material(own.lab[:, y, x], float(own.even[y, x]))
        self._signs = frame.signs[y, x]

    def places(self) -> Iterator[tuple[int, Place | None]]:
        """Photos and where it is in them; the clicked one first, then those before it, then those after."""
        yield self._clicked, self._at
        for way in (range(self._clicked - 1, -1, -1), range(self._clicked + 1, self._count)):
            last: Place | None = self._at
            earlier = self._clicked
            for i in way:
                motion = last and motion_between(self._frame(i), self._frame(earlier))
                last, earlier = self._place(i, last, motion or None), i
                yield i, last

    def _place(self, i: int, last: Place | None, motion: Motion | None) -> Place | None:
        """last, motion: where it was on the neighbour, if that is of the same series."""
        frame = self._frame(i)
        if self._skin is not None:
            people = self._people_of(i)
            if people and people.faces:
                near = _there(last, motion) if motion and last else None
                return self._on_a_face(people, frame, near)
        followed = self._followed(frame, last, motion) if motion and last else None
        return followed or self._material.place_in(frame)

    def _on_a_face(self, people: People, frame: Frame, near: Place | None) -> Place | None:
        """On the face that it was on, where the series shows it; else on one of about that skin."""
        assert self._skin is not None
        cell, skin = self._skin
        if near:
            face = min(people.faces, key=lambda f: math.dist(f.middle, near))
            if math.dist(face.middle, near) < face.size:
                return place_of_cell(face, frame.rgb, cell)
        lit = lit_skins(people, frame.rgb)
        one = min(lit, key=lambda s: alike(skin, s.rgb), default=None)
        if one is None or alike(skin, one.rgb) > OTHER_SKIN:
            return None
        return place_of_cell(people.faces[one.who - 1], frame.rgb, cell)

    def _followed(self, frame: Frame, last: Place, motion: Motion) -> Place | None:
        """On a photo of the same series, from where it was on its neighbour."""
        was = as_pixel(last, frame.view.long_edge)
        there = motion.carried(was)
        if there is None or self._off_at(frame, there) > LIKE:
            there = frame.like(self._signs, there or _pushed(was, motion), NEAR)
        return there and as_place(there, frame.view.long_edge)

    def _off_at(self, frame: Frame, at: tuple[float, float]) -> float:
        x, y = round(at[0]), round(at[1])
        return float(np.linalg.norm(frame.signs[y, x] - self._signs))

    @cached_property
    def _skin(self) -> tuple[Cell, LinearRgb] | None:
        """Where on a face was clicked, and its skin where it is best lit."""
        people = self._people_of(self._clicked)
        rgb = self._frame(self._clicked).rgb
        on = people and cell_at(people, rgb, self._at)
        if not people or not on:
            return None
        who, cell = on
        lit = (s.rgb for s in lit_skins(people, rgb) if s.who == who)
        return next(((cell, skin) for skin in lit), None)


def _best_of(off: Floats, away: Floats, level: float) -> tuple[float, int, int] | None:
    """The best surface of about the colour: its price and its middle; None when all are too small or
    too far."""
    like = (off < level).astype(np.uint8)
    count, pieces, figures, _ = cv2.connectedComponentsWithStats(like)
    best = None
    for piece in range(1, count):
        area = int(figures[piece, cv2.CC_STAT_AREA])
        if area < SMALLEST:
            continue
        here = pieces == piece
        price = float(off[here].mean()) - LARGE * float(np.log10(area))
        if best is None or price < best[0]:
            deep = cv2.distanceTransform(here.astype(np.uint8), cv2.DIST_L2, 3)
            y, x = np.unravel_index(int(deep.argmax()), deep.shape)
            if away[y, x] < FARTHEST:
                best = price, int(x), int(y)
    return best


def _pushed(at: tuple[float, float], motion: Motion) -> tuple[float, float]:
    """Where a place is likely to be now, though it is not seen."""
    x, y = nearest(at, motion.sure.shape)
    step = motion.forth[y, x]
    return float(at[0] + step[0]), float(at[1] + step[1])


def _there(last: Place, motion: Motion) -> Place:
    edge = max(motion.sure.shape)
    return as_place(_pushed(as_pixel(last, edge), motion), edge)


def apart(rgb: LinearRgb, chosen: LinearRgb) -> tuple[tuple[float, float, float], float]:
    """A colour in CIELAB D50, and its CIEDE2000 to the chosen one. Of linear Rec. 2020."""
    lab, other = linear_rgb_to_lab(rgb), linear_rgb_to_lab(chosen)
    return (float(lab[0]), float(lab[1]), float(lab[2])), ciede2000(lab, other)
