"""A smooth warp of the a-b plane that passes through dragged colours and cannot fold.

The plane flows from where colours are to where they are wanted, in small steps; the velocity of each step is
a sum of Gaussians about the points, solved for the way that each still has to go (Joshi, Miller 2000,
"Landmark matching via large deformation diffeomorphisms"; with a ridge as in Camion, Younes 2001, "Geodesic
interpolating splines"). A step that would leave less than a tenth of its area to a cell of the table is made
shorter, so that the Jacobian stays positive everywhere; a point that cannot be reached that way stops on it.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

import numpy as np
import numpy.typing as npt

from nubilis import kernel_types as of
from nubilis.arrays import Floats
from nubilis.kernels import exp2, f32, kernel

HALF_RANGE = 0.5  # of OKLab a and b that the table spans
GRID = 129  # entries along each
STEPS = 12
RIDGE = 2e-4  # of a firm point; a loose one has up to LOOSE more
LOOSE = 1.0
LEAST_LEFT = 0.1  # of its area that every cell of the table keeps
SHORTER = 5  # times that a step is halved before it is left out
NEUTRALS = 0.025  # radius of the ring of greys that stay
_RING = np.linspace(0.0, 2.0 * np.pi, 6, endpoint=False)
HELD = np.concatenate([[[0.0, 0.0]], NEUTRALS * np.stack([np.cos(_RING), np.sin(_RING)], axis=1)])
AXIS = np.linspace(-HALF_RANGE, HALF_RANGE, GRID)

MEANS = np.linspace(0.1, 0.9, 9)

Doubles = npt.NDArray[np.float64]


@dataclass(frozen=True)
class Way:
    """A colour's way in the plane: from, to: OKLab a, b; light: step of OKLab lightness there; loose: 0 holds
    to it, 1 follows its neighbours."""

    start: tuple[float, float]
    end: tuple[float, float]
    light: float = 0.0
    loose: float = 0.0


@dataclass(frozen=True, eq=False)
class Warp:
    """table: by how much colours move, OKLab a, b, and the step of lightness, float32 (3, GRID, GRID) over
    b and a; reached: where the ways end, (n, 2)."""

    table: Floats
    reached: Doubles


@lru_cache(64)
def warp_through(ways: tuple[Way, ...], width: float) -> Warp:
    """width: OKLab distance from a point at which its pull is down to a half."""
    b, a = np.meshgrid(AXIS, AXIS, indexing="ij")
    table = np.zeros((3, GRID, GRID), dtype=np.float32)
    if not ways:
        return Warp(table, np.zeros((0, 2)))
    rest = np.stack([a, b]).astype(np.float32)
    reached, flown = _flow(ways, width, rest)
    table[:2] = flown - rest
    table[2] = _lightness(ways, width, rest)
    return Warp(table, reached[: len(ways)])


def _flow(ways: Sequence[Way], width: float, places: Floats) -> tuple[Doubles, Floats]:
    """Where the points come to, and where all places do (2, h, w), step by step; a step that would fold the
    table is made shorter, and in the end not at all."""
    at = np.array([*(w.start for w in ways), *HELD], dtype=np.float64)
    end = np.array([*(w.end for w in ways), *HELD], dtype=np.float64)
    ridge = _ridge(ways)
    for left in range(STEPS, 0, -1):
        near = _near(at, at, width)
        pulls = np.linalg.solve(near + ridge, (end - at) / left)
        for _ in range(SHORTER):
            there = places.copy()
            _advance(
                there.shape[1],
                there,
                at.astype(np.float32),
                pulls.astype(np.float32),
                f32(1.0 / width**2),
            )
            if tightest(there) > LEAST_LEFT:
                places, at = there, at + near @ pulls
                break
            pulls = pulls / 2.0
        else:
            break
    return at, places


def tightest(places: Floats) -> float:
    """The least area that a cell of the table keeps, of its own; (2, h, w). The determinant between four
    entries is least in a corner, for between them they are joined linearly."""
    cell = (2.0 * HALF_RANGE / (GRID - 1)) ** 2
    across, down = np.diff(places, axis=2), np.diff(places, axis=1)
    corners = (
        across[0, y][:, :] * down[1, :, x] - across[1, y][:, :] * down[0, :, x]
        for y in (np.s_[:-1], np.s_[1:])
        for x in (np.s_[:-1], np.s_[1:])
    )
    return float(min(c.min() for c in corners)) / cell


def between_unfolded(one: Warp, two: Warp) -> bool:
    """Whether all means of two warps keep the plane's sense."""
    rest = np.stack(np.meshgrid(AXIS, AXIS)).astype(np.float32)
    means = (one.table[:2] + np.float32(t) * (two.table - one.table)[:2] for t in MEANS)
    return all(tightest(rest + mean) > 0.0 for mean in means)


def _ridge(ways: Sequence[Way]) -> Doubles:
    return np.diag(RIDGE + LOOSE * np.array([*(w.loose**2 for w in ways), *[0.0] * len(HELD)]))


def _near(one: Doubles, two: Doubles, width: float) -> Doubles:
    away = ((one[:, None] - two[None]) ** 2).sum(axis=2)
    return np.asarray(np.exp2(-away / width**2))


def _lightness(ways: Sequence[Way], width: float, places: Floats) -> Floats:
    """The step of lightness at places, which passes through those of the points; greys keep theirs."""
    at = np.array([*(w.start for w in ways), *HELD])
    wanted = np.array([*(w.light for w in ways), *[0.0] * len(HELD)])
    if not wanted.any():
        return np.zeros(places.shape[1:], dtype=np.float32)
    pulls = np.linalg.solve(_near(at, at, width) + _ridge(ways), wanted)
    both = np.stack([pulls, np.zeros_like(pulls)], axis=1).astype(np.float32)
    there = places.copy()
    _advance(there.shape[1], there, at.astype(np.float32), both, f32(1.0 / width**2))
    return np.asarray(there[0] - places[0])


@kernel(of.planes, of.plane, of.plane, of.real)
def _advance(rows: Any, at: Any, centres: Any, pulls: Any, per: Any) -> None:
    """One step of all places (2, h, w), in place."""
    for y in range(*rows):
        for x in range(at.shape[2]):
            a, b = at[0, y, x], at[1, y, x]
            step_a = step_b = f32(0.0)
            for i in range(centres.shape[0]):
                da, db = a - centres[i, 0], b - centres[i, 1]
                near = exp2(-(da * da + db * db) * per)
                step_a += near * pulls[i, 0]
                step_b += near * pulls[i, 1]
            at[0, y, x], at[1, y, x] = a + step_a, b + step_b
