"""One choice instead of a guess: where several explanations are about as likely, the editor sees them treated.

From numbers alone nobody can tell the tainted side of a difference from the clean one; everybody can see it.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import numpy as np

from nubilis.cast.direction import angle_between
from nubilis.find.field import Field, Words
from nubilis.find.finding import Finding
from nubilis.find.regions import LEAST_CONFIDENCE

WORTH_ASKING = 0.36  # the field's strength, which a third of untainted photographs reach
SURE = 0.7  # confidence of a finding from which on nothing is asked
MOST_CHOICES = 4
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
        known = [*(convincing if len(convincing) == 1 else ()), *further]
        if len(told) == MOST_CHOICES or any(_alike(shift, f.shift) for f in known):
            continue
        if found := look(Words(direction=shift)):
            further.append(replace(found, alternative=True))
            told.append((further[-1],))
    if len(told) < 2 and not further:
        return (), ()
    named = tuple(
        Choice(f"choice-{i}", tuple(f.id for f in found), _says(found))
        for i, found in enumerate(told, 1)
    )
    return named, tuple(further)


def _alike(one: tuple[float, float], two: tuple[float, float]) -> bool:
    return angle_between(np.array(one), np.array(two)) < ALIKE


def _says(found: Sequence[Finding]) -> str:
    hues = list(dict.fromkeys(f.towards for f in found))
    return "less " + " and ".join(hues)
