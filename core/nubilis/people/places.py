"""Places of one face that are of the same skin as a place on it."""

from dataclasses import dataclass

import cv2
import numpy as np

from nubilis.arrays import Floats
from nubilis.colour.cielab import linear_rgb_to_lab
from nubilis.colour.difference import as_light_apart
from nubilis.people.canonical import Unwrapped, unwrapped
from nubilis.people.people import Face, People
from nubilis.people.probe import mirrored
from nubilis.recipe.model import LinearRgb, Place

NEAR = 0.06  # of a face's width: farther from every cell a place is not on the skin of a face
BEST_LIT = 0.9  # quantile of light: the very lightest are highlights
AROUND = 0.03  # of a face's width: what is averaged
FLAT = 5  # cells around that must be skin too


@dataclass(frozen=True)
class SamePlaces:
    """who: from the left, from 1; other_side: the same place of the other half; best_lit: where there is most
    light without a highlight; none where it is not seen; fractions of the long edge."""

    who: int
    other_side: Place | None
    best_lit: Place | None


def same_skin(people: People, rgb: Floats, at: Place) -> SamePlaces | None:
    """None where a place lies on no face. rgb: the whole photo (3, h, w), linear Rec. 2020."""
    for who, face in enumerate(people.faces, 1):
        seen = unwrapped(rgb, face.points)
        cell = _cell_at(face, seen, at)
        if cell is not None:
            other = mirrored(*cell)
            far_enough = abs(other[1] - cell[1]) > FLAT
            side = seen.place(other) if far_enough and seen.ok[other] else None
            return SamePlaces(who, side, _best_lit(seen))
    return None


Cell = tuple[int, int]


def cell_at(people: People, rgb: Floats, at: Place) -> tuple[int, Cell] | None:
    """On which face a place lies, from the left, from 1, and where on any face that is. rgb: the whole photo
    (3, h, w), linear Rec. 2020."""
    for who, face in enumerate(people.faces, 1):
        cell = _cell_at(face, unwrapped(rgb, face.points), at)
        if cell is not None:
            return who, cell
    return None


def place_of_cell(face: Face, rgb: Floats, cell: Cell) -> Place | None:
    """The same place of another face, or where that one is best lit when it is not seen."""
    seen = unwrapped(rgb, face.points)
    return seen.place(cell) if seen.ok[cell] else _best_lit(seen)


@dataclass(frozen=True)
class LitSkin:
    """The best lit place of a face, fractions of the long edge, and the colour there, linear Rec. 2020."""

    who: int
    at: Place
    rgb: LinearRgb


def lit_skins(people: People, rgb: Floats) -> tuple[LitSkin, ...]:
    """Of faces whose skin is seen. rgb: the whole photo (3, h, w), linear Rec. 2020."""
    edge = max(rgb.shape[1:])
    found = []
    for who, face in enumerate(people.faces, 1):
        at = _best_lit(unwrapped(rgb, face.points))
        if at is not None:
            radius = max(round(AROUND * (face.box[2] - face.box[0]) * edge), 1)
            x, y = (int(c * edge) for c in at)
            here = rgb[:, max(y - radius, 0) : y + radius + 1, max(x - radius, 0) : x + radius + 1]
            red, green, blue = (max(float(v), 0.0) for v in here.mean(axis=(1, 2)))
            found.append(LitSkin(who, at, (red, green, blue)))
    return tuple(found)


def alike(one: LinearRgb, two: LinearRgb) -> float:
    """CIEDE2000 between two skins, as light as each other."""
    return as_light_apart(linear_rgb_to_lab(one), linear_rgb_to_lab(two))


def _cell_at(face: Face, seen: Unwrapped, at: Place) -> Cell | None:
    off = np.hypot(*(seen.at[..., i] + 0.5 - at[i] * seen.edge for i in (0, 1)))
    off = np.where(seen.ok, off, np.inf)
    row, column = np.unravel_index(int(off.argmin()), off.shape)
    wide = (face.box[2] - face.box[0]) * seen.edge
    return (int(row), int(column)) if off[row, column] < NEAR * wide else None


def _best_lit(seen: Unwrapped) -> Place | None:
    inner = cv2.erode(seen.ok.astype(np.uint8), np.ones((FLAT, FLAT), np.uint8)) > 0
    if not inner.any():
        return None
    light = cv2.blur(seen.light.astype(np.float32), (FLAT, FLAT))
    off = np.where(inner, np.abs(light - np.quantile(light[inner], BEST_LIT)), np.inf)
    row, column = np.unravel_index(int(off.argmin()), off.shape)
    return seen.place((int(row), int(column)))
