"""One choice instead of a guess: where several explanations are about as likely, the editor sees them.

From numbers alone nobody can tell the tainted side of a difference from the clean one; everybody can see it.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import cv2
import numpy as np

from nubilis.arrays import Floats
from nubilis.cast.direction import angle_between
from nubilis.find.cause import Box
from nubilis.find.field import Field, Words
from nubilis.find.finding import Finding
from nubilis.find.reason import where
from nubilis.find.regions import LEAST_CONFIDENCE

WORTH_ASKING = 0.38  # the field's strength, which a third of untainted photographs reach
LIKELIER = 0.5  # confidence of a finding that needs no "this or none"
SURE = 0.7  # confidence of a finding from which on nothing is asked
MOST_CHOICES = 4
CLOSE_SIDE = 0.42  # of the short edge
ALIKE = 30.0  # degrees: two explanations that are one to the eye


@dataclass(frozen=True)
class Choice:
    """One explanation. findings: ids of what is taken off if it is chosen; says: what that means, in a few
    words."""

    id: str
    findings: tuple[str, ...]
    says: str


def choices(
    field: Field,
    own: Sequence[Finding],
    directions: Sequence[tuple[float, float]],
    look: Callable[[Words], Finding | None],
) -> tuple[tuple[Choice, ...], tuple[Finding, ...]]:
    """The answers between which the editor may choose, none when there is nothing to ask, and the findings
    that only they speak of. own: what the finder holds for likely; look: what a word to it brings up."""
    convincing = [f for f in own if f.confidence >= LEAST_CONFIDENCE]
    if field.strength < WORTH_ASKING or any(f.confidence >= SURE for f in own):
        return (), ()
    told = [tuple(convincing)] if convincing else []
    further: list[Finding] = []
    for shift in directions:
        known = [f.shift for f in (*(convincing if len(convincing) == 1 else ()), *further)]
        if len(told) == MOST_CHOICES or any(_alike(shift, k) for k in known):
            continue
        found = look(Words(direction=shift))
        # Led one way the finder may still come back to another.
        if found and not any(_alike(found.shift, k) for k in known):
            further.append(replace(found, alternative=True))
            told.append((further[-1],))
    plain = any(f.confidence >= LIKELIER for f in convincing)
    if not told or (plain and not further):
        return (), ()
    says = [_says(found) for found in told]
    says = [s if says.count(s) == 1 else f"{s} {_at(f)}" for s, f in zip(says, told, strict=True)]
    named = tuple(
        Choice(f"choice-{i}", tuple(f.id for f in found), say)
        for i, (found, say) in enumerate(zip(told, says, strict=True), 1)
    )
    return named, tuple(further)


def close_up(taint: Floats) -> Box:
    """A square with as much taint as any, as fractions of the long edge."""
    h, w = taint.shape
    side = max(1, round(CLOSE_SIDE * min(h, w)))
    x, y = fullest_square(taint, side)
    x0, y0, x1, y1 = (v / max(h, w) for v in (x, y, x + side, y + side))
    return x0, y0, x1, y1


def fullest_square(plane: Floats, side: int) -> tuple[int, int]:
    """Left and top of the square of so many pixels that holds most of a plane."""
    h, w = plane.shape
    sums = cv2.boxFilter(plane, -1, (side, side), anchor=(0, 0), borderType=cv2.BORDER_CONSTANT)
    within = sums[: h - side + 1, : w - side + 1]
    y, x = np.unravel_index(int(within.argmax()), within.shape)
    return int(x), int(y)


def _alike(one: tuple[float, float], two: tuple[float, float]) -> bool:
    return angle_between(np.array(one), np.array(two)) < ALIKE


def _at(found: Sequence[Finding]) -> str:
    return where(np.max([f.mask for f in found], axis=0) > 0.5)


def _says(found: Sequence[Finding]) -> str:
    hues = list(dict.fromkeys(f.towards for f in found))
    return "less " + " and ".join(hues)
