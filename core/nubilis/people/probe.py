"""The face as a probe: where its halves, which are one material, differ smoothly, light of another colour
falls from one side.

Log chroma over the unwrapped face is fitted with smooth terms across, down and both, beside how skin pales
and reddens with light; each term is weighed against how it varies over untouched faces, and all of them by
how well they explain this one. What stands out is a cast along one direction; which end is tainted is told by
which lies farther from what skin is.
"""

from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path
from typing import Literal

import numpy as np
import numpy.typing as npt

from nubilis.people.canonical import ACROSS, DOWN, SKIN, Unwrapped
from nubilis.people.skin import ACROSS as TO_EYE

Plane = npt.NDArray[np.float64]
LEAST_SEEN = 0.85  # of the skin: of a face turned away one half says little
USUAL = 0.07  # what even terms leave of a face, scaled log chroma; one that leaves more says less
ROUNDS = 6  # of weighing outliers down
BEYOND = 1.2  # natural logarithm of light, beyond which chroma is not taken to follow it
ENDS = (5.0, 95.0)  # percentiles of the smooth terms that are called its ends
_NATURAL = np.load(Path(__file__).with_name("natural.npz"))
Side = Literal["left", "right", "unsure"]


@dataclass(frozen=True, eq=False)
class Probe:
    """shift: log chroma (2,) that the tainted end has over the other; score: how far that is from what
    untouched faces show, in standard deviations a term; margin: how much likelier that end is the tainted
    one than the other; field: -0.5..0.5 over the unwrapped face, how much each cell carries, the tainted end
    above 0."""

    shift: tuple[float, float]
    score: float
    margin: float
    field: Plane

    @property
    def across(self) -> float:
        """Below 0 where the viewer's left is the tainted end, above 0 where the right is."""
        return float((self.field * ACROSS)[SKIN].mean() / (ACROSS**2)[SKIN].mean())

    @property
    def turned(self) -> "Probe":
        """The other answer: the other end is the tainted one."""
        return Probe((-self.shift[0], -self.shift[1]), self.score, -self.margin, -self.field)


def probe(face: Unwrapped) -> Probe | None:
    """None where too little of the face is seen."""
    if face.ok.sum() < LEAST_SEEN * SKIN.sum():
        return None
    basis = _basis()
    terms, left = _fitted(face, basis)
    smooth = terms[1:]
    weighed = smooth / _NATURAL["sig"][:, None]
    strengths, ways = np.linalg.eigh(weighed.T @ weighed)
    way = ways[:, 1]
    along = np.tensordot(basis[..., 1:], smooth @ way, 1)
    low, high = np.percentile(along[face.ok], ENDS)
    size = max(float(high - low), 1e-9)
    off = [_from_skin(terms[0] + end * way) for end in (low, high)]
    sign = 1.0 if off[1] > off[0] else -1.0
    shift = sign * size * way / TO_EYE
    field = sign * (along - (low + high) / 2.0) / size
    score = float(np.sqrt(max(strengths[1], 0.0) / len(smooth))) * min(1.0, USUAL / left)
    return Probe((float(shift[0]), float(shift[1])), score, float(abs(off[1] - off[0])), field)


@lru_cache(1)
def _basis() -> Plane:
    """Constant, then across, both, down, across squared, down squared: even, and independent over the skin of
    a face, (HIGH, WIDE, 6)."""
    made = [np.ones_like(ACROSS)]
    for term in (ACROSS, ACROSS * DOWN, DOWN, ACROSS**2, DOWN**2):
        rest = term.copy()
        for one in made:
            rest = rest - one * (rest * one)[SKIN].sum() / (one * one)[SKIN].sum()
        made.append(rest / np.sqrt((rest * rest)[SKIN].mean()))
    return np.stack(made, axis=2)


def _fitted(face: Unwrapped, basis: Plane) -> tuple[Plane, float]:
    """Amounts (6, 2) of the terms, by least squares with outliers weighed down (Huber 1964), and the median
    of what they leave."""
    light = np.clip(face.light - np.median(face.light[face.ok]), -BEYOND, BEYOND)
    plain = face.chroma * TO_EYE - _NATURAL["pat"] - _NATURAL["s"] * light[..., None]
    values, terms = plain[face.ok].astype(np.float64), basis[face.ok]
    weight = np.ones(len(values))
    for _ in range(ROUNDS):
        fitted = np.linalg.lstsq(terms * weight[:, None], values * weight[:, None], rcond=None)[0]
        off = np.linalg.norm(values - terms @ fitted, axis=1)
        usual = 1.5 * np.median(off) + 1e-6
        weight = np.sqrt(np.minimum(1.0, usual / np.maximum(off, 1e-9)))
    left = float(np.median(np.linalg.norm(values - terms @ fitted, axis=1)))
    return np.asarray(fitted, dtype=np.float64), max(left, 1e-6)


def _from_skin(chroma: Plane) -> float:
    """How far a chroma lies from what skin is, squared, by how skins vary."""
    off = chroma - _NATURAL["mean"]
    return float(off @ _NATURAL["icov"] @ off)


def mirrored(row: int, column: int) -> tuple[int, int]:
    """The cell of the other half of the face."""
    return row, SKIN.shape[1] - 1 - column
