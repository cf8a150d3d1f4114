"""The skin of each person's face: how far off the line, how even, and one side against the other."""

from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt

from nubilis.arrays import Floats
from nubilis.colour.cielab import lab_planes
from nubilis.colour.difference import as_light_apart
from nubilis.people.canonical import ACROSS, Unwrapped, unwrapped
from nubilis.people.people import People
from nubilis.proof.outcome import Outcome
from nubilis.proof.scopes import skin_angle

MOST = 12  # faces, the largest ones
FEWEST = 300  # cells that are well seen
MIDDLE = 0.15  # of half a face: what is nearer its middle belongs to neither side


@dataclass(frozen=True)
class SkinFigures:
    """angle: degrees off the skin line, towards yellow above 0; spread: mean CIELAB distance of chroma from
    its mean; sides: CIEDE2000 between left and right, as light as each other, None where one is not seen."""

    angle: float
    spread: float
    sides: float | None


@dataclass(frozen=True)
class SkinOf:
    """who: from the left, from 1."""

    who: int
    before: SkinFigures
    now: SkinFigures


def skin_of_people(outcome: Outcome, people: People) -> tuple[SkinOf, ...]:
    """Before the casts and now, of faces that are well seen."""
    before, now = outcome.pictures
    largest = sorted(range(len(people.faces)), key=lambda i: -people.faces[i].size)[:MOST]
    found = []
    for i in sorted(largest):
        seen = unwrapped(before, people.faces[i].points)
        if seen.ok.sum() >= FEWEST:
            found.append(SkinOf(i + 1, _figures(before, seen), _figures(now, seen)))
    return tuple(found)


def _figures(rgb: Floats, seen: Unwrapped) -> SkinFigures:
    x, y = (np.ascontiguousarray(seen.at[..., i]) for i in (0, 1))
    cells = np.stack([cv2.remap(np.maximum(p, 0.0), x, y, cv2.INTER_LINEAR) for p in rgb])
    colours = np.ascontiguousarray(cells[:, seen.ok][:, None], dtype=np.float32)
    red, green, blue = (float(v) for v in colours.mean(axis=(1, 2)))
    lab = lab_planes(colours)[:, 0]
    spread = float(np.hypot(*(lab[1:] - lab[1:].mean(axis=1, keepdims=True))).mean())
    return SkinFigures(skin_angle((red, green, blue)), spread, _sides(lab, ACROSS[seen.ok]))


def _sides(lab: Floats, across: npt.NDArray[np.float64]) -> float | None:
    left, right = across < -MIDDLE, across > MIDDLE
    if min(left.sum(), right.sum()) < FEWEST / 6:
        return None
    return as_light_apart(*(lab[:, side].mean(axis=1) for side in (left, right)))
