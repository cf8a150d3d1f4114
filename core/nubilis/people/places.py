"""Places of one face that are of the same skin as a place on it."""

from dataclasses import dataclass

import cv2
import numpy as np

from nubilis.arrays import Floats
from nubilis.colour.cielab import linear_rgb_to_lab
from nubilis.colour.difference import difference_plane
from nubilis.people.areas import points_in
from nubilis.people.canonical import Unwrapped, unwrapped
from nubilis.people.people import Face, People
from nubilis.people.probe import mirrored
from nubilis.photo.pyramid import View
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
    h, w = rgb.shape[1:]
    view = View((w, h), (0, 0, w, h))
    for who, face in enumerate(people.faces, 1):
        seen = unwrapped(rgb, points_in(face.points, view))
        cell = _cell_at(face, seen, at, max(h, w))
        if cell is not None:
            other = mirrored(*cell)
            far_enough = abs(other[1] - cell[1]) > FLAT
            side = _place(seen, other, max(h, w)) if far_enough and seen.ok[other] else None
            return SamePlaces(who, side, _best_lit(seen, max(h, w)))
    return None


@dataclass(frozen=True)
class LitSkin:
    """The best lit place of a face, fractions of the long edge, and the colour there, linear Rec. 2020."""

    who: int
    at: Place
    rgb: LinearRgb


def lit_skins(people: People, rgb: Floats) -> tuple[LitSkin, ...]:
    """Of faces whose skin is seen. rgb: the whole photo (3, h, w), linear Rec. 2020."""
    h, w = rgb.shape[1:]
    view = View((w, h), (0, 0, w, h))
    found = []
    for who, face in enumerate(people.faces, 1):
        at = _best_lit(unwrapped(rgb, points_in(face.points, view)), max(h, w))
        if at is not None:
            radius = max(round(AROUND * (face.box[2] - face.box[0]) * max(h, w)), 1)
            x, y = (int(c * max(h, w)) for c in at)
            here = rgb[:, max(y - radius, 0) : y + radius + 1, max(x - radius, 0) : x + radius + 1]
            red, green, blue = (max(float(v), 0.0) for v in here.mean(axis=(1, 2)))
            found.append(LitSkin(who, at, (red, green, blue)))
    return tuple(found)


def alike(one: LinearRgb, two: LinearRgb) -> float:
    """CIEDE2000 between two skins, as light as each other."""
    first, second = (linear_rgb_to_lab(np.array(v)) for v in (one, two))
    first[0] = second[0] = (first[0] + second[0]) / 2.0
    planes = [v.reshape(3, 1, 1).astype(np.float32) for v in (first, second)]
    return float(difference_plane(*planes)[0, 0])


def _cell_at(face: Face, seen: Unwrapped, at: Place, edge: int) -> tuple[int, int] | None:
    off = np.hypot(seen.at[..., 0] + 0.5 - at[0] * edge, seen.at[..., 1] + 0.5 - at[1] * edge)
    off = np.where(seen.ok, off, np.inf)
    row, column = np.unravel_index(int(off.argmin()), off.shape)
    wide = (face.box[2] - face.box[0]) * edge
    return (int(row), int(column)) if off[row, column] < NEAR * wide else None


def _best_lit(seen: Unwrapped, edge: int) -> Place | None:
    inner = cv2.erode(seen.ok.astype(np.uint8), np.ones((FLAT, FLAT), np.uint8)) > 0
    if not inner.any():
        return None
    light = cv2.blur(seen.light.astype(np.float32), (FLAT, FLAT))
    off = np.where(inner, np.abs(light - np.quantile(light[inner], BEST_LIT)), np.inf)
    row, column = np.unravel_index(int(off.argmin()), off.shape)
    return _place(seen, (int(row), int(column)), edge)


def _place(seen: Unwrapped, cell: tuple[int, int], edge: int) -> Place:
    x, y = seen.at[cell]
    return float(x + 0.5) / edge, float(y + 0.5) / edge
