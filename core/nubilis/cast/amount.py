"""The amount field: how much of a cast lies on each place of the photo.

Evidence is gathered coarsely, where noise and texture average out; edges are placed finely. The field
is solved once at an analysis size that does not depend on the view, and kept so that it can be read at
any zoom (field.py).
"""

from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Any

import cv2
import numpy as np
import numpy.typing as npt

from nubilis import kernel_types as of
from nubilis.arrays import Floats
from nubilis.cast.chroma import chroma_of, chroma_planes, luminance_of
from nubilis.cast.direction import MeasuredPair
from nubilis.cast.evidence import STRONGEST, Reference, Weights, cost_volume, likely_amount
from nubilis.cast.field import guide_of, smoother
from nubilis.cast.guard import guarded
from nubilis.cast.lead import led_shift
from nubilis.cast.solve import Problem, solve
from nubilis.kernels import compiled, f32, kernel
from nubilis.photo.pyramid import pixel_at

COARSE = 256  # long side for the evidence
ROUNDS = 2  # the field is solved, and the evidence read again in its light


@dataclass(frozen=True)
class Tuning:
    """Weights of the solve; see bench/RESULTS.md for what each is worth. window: of the long side, guided
    filter of the evidence; follow: how near an amount is expected to that of the round before; dim: luminance
    below which evidence counts less."""

    smooth: float = 12.7
    data: float = 0.005
    clean: float = 4.4
    pin: float = 80.0
    chroma_edge: float = 0.04
    bright_edge: float = 0.15
    floor: float = 0.026
    window: float = 0.004
    follow: float = 0.43
    dim: float = 0.015
    evidence: Weights = field(default_factory=Weights)


# Where no pair's reference is a place of the photo: what is masked says more of how much lies where.
PLACELESS = Tuning(data=0.02, chroma_edge=0.08, evidence=Weights(material=2.0, other=0.0))


@dataclass(frozen=True, eq=False)
class Solved:
    """amount: (h, w) at the analysis size, of the pairs' mean; shift: log chroma (2,) of amount 1; another:
    by how much a cast that goes another way explains what is masked better, nats (h, w), coarse."""

    amount: Floats
    shift: npt.NDArray[np.float64]
    another: Floats


def _resize(v: npt.NDArray[Any], like: npt.NDArray[Any]) -> Floats:
    h, w = like.shape[-2:]
    how = cv2.INTER_AREA if v.shape[-2] >= h else cv2.INTER_LINEAR
    return np.asarray(cv2.resize(v, (w, h), interpolation=how))


def _coarse_size(shape: tuple[int, ...]) -> tuple[int, int]:
    f = min(1.0, COARSE / max(shape))
    return max(1, round(shape[0] * f)), max(1, round(shape[1] * f))


def _gather(
    rgb: Floats, mask: Floats, shift: np.ndarray, pairs: list[MeasuredPair], tuning: Tuning
) -> tuple[Floats, Floats, Floats]:
    """At the coarse size: the price of each amount (n, h, w), how well each place is seen (h, w), and by how
    much another cast explains it better (h, w)."""
    size = _coarse_size(mask.shape)
    small = np.stack([_resize(p, np.empty(size)) for p in rgb])
    chroma = chroma_planes(small)
    m = _resize(mask, small)
    references = [
        Reference((float(c[0]), float(c[1])), 116.0 * max(y, 1e-5) ** (1 / 3) - 16.0, placed)
        for c, y, placed in (
            (chroma_of(p.reference), luminance_of(p.reference), p.reference_at is not None)
            for p in pairs
        )
    ]
    cost, another = cost_volume(chroma, 1.0 - m, shift, references, tuning.evidence)
    guide = guide_of(chroma[3])
    seen = np.clip(chroma[3] / np.float32(tuning.dim), 0.05, 1.0)
    r = max(1, int(tuning.window * max(size)))
    smooth = smoother(guide, r, 1e-3)
    share = np.maximum(smooth(seen), 0.02)
    for j in range(len(cost)):
        cost[j] = smooth(seen * cost[j]) / share
    return cost, seen, another


@compiled
def _link(d1: Any, d2: Any, d3: Any, way: Any, weights: Any) -> Any:
    """How tightly two neighbours are joined, and the step of amount between them.

    d1, d2, d3: their difference in log chroma and brightness; way: unit direction of the cast.
    A smooth change of chroma along the cast is light; a sharp one, or one to another side, is paint.
    """
    smooth, floor, chroma_edge, bright_edge = weights[0], weights[1], weights[2], weights[3]
    along = d1 * way[0] + d2 * way[1]
    across = (d1 * way[1] - d2 * way[0]) / chroma_edge
    scaled = along / chroma_edge
    bright = d3 / bright_edge
    joined = f32(1.0) / (f32(1.0) + bright * bright + across * across + scaled * scaled)
    paint = f32(1.0) + across * across + scaled * scaled * f32(1.0 / 2.25)
    dark = d3 * f32(1.0 / 0.35)
    step = along / (weights[4] * paint * (f32(1.0) + dark * dark))
    return smooth * (joined + floor), step


@kernel(of.planes, of.line, of.line, of.plane, of.plane, of.plane, of.plane)
def _links(
    rows: Any, u: Any, way: Any, weights: Any, link_x: Any, link_y: Any, step_x: Any, step_y: Any
) -> None:
    h, w = link_x.shape
    for y in range(*rows):
        below = min(y + 1, h - 1)
        for x in range(w):
            right = min(x + 1, w - 1)
            link_x[y, x], step_x[y, x] = _link(
                u[0, y, right] - u[0, y, x],
                u[1, y, right] - u[1, y, x],
                u[2, y, right] - u[2, y, x],
                way,
                weights,
            )
            link_y[y, x], step_y[y, x] = _link(
                u[0, below, x] - u[0, y, x],
                u[1, below, x] - u[1, y, x],
                u[2, below, x] - u[2, y, x],
                way,
                weights,
            )


def _neighbours(chroma: Floats, shift: np.ndarray, tuning: Tuning) -> list[Floats]:
    """link_x, link_y, step_x, step_y of Problem, each (h, w)."""
    size = float(np.hypot(*shift))
    numbers = tuning.smooth, tuning.floor, tuning.chroma_edge, tuning.bright_edge, size
    out = [np.empty(chroma.shape[1:], dtype=np.float32) for _ in range(4)]
    _links(
        chroma.shape[1],
        chroma,
        (shift / size).astype(np.float32),
        np.array(numbers, dtype=np.float32),
        *out,
    )
    return out


def _pin(
    weight: Floats, target: Floats, at: tuple[float, float], value: float, pull: float
) -> None:
    x, y = pixel_at(at, weight.shape)
    spot = np.s_[max(0, y - 2) : y + 3, max(0, x - 2) : x + 3]
    weight[spot] += pull / 25.0
    target[spot] = value


def _told(data: Floats, likely: Floats, mask: Floats, tuning: Tuning) -> tuple[Floats, Floats]:
    """Weight and target of what evidence and mask say."""
    weight = data + np.float32(tuning.clean) * (np.float32(1.0) - mask) + np.float32(1e-6)
    return weight.astype(np.float32), (likely * data / weight).astype(np.float32)


@dataclass(frozen=True)
class _Known:
    """How much lies at a place, in units of the shift that is solved for."""

    at: tuple[float, float]
    amount: float


def _known(
    pairs: list[MeasuredPair], amounts: npt.NDArray[np.float64], chroma: Floats, shift: np.ndarray
) -> list[_Known]:
    """Samples hold what was measured, each of several places its own; references nothing."""
    found = []
    for pair, amount in zip(pairs, amounts, strict=True):
        places = [] if pair.tainted_at is None else [(pair.tainted_at, float(amount))]
        if pair.further and pair.tainted_at is not None:
            every = (pair.tainted_at, *pair.further)
            places = [(at, _carried_at(at, pair, chroma, shift)) for at in every]
        found += [_Known(at, float(np.clip(v, 0.0, STRONGEST))) for at, v in places]
        if pair.reference_at is not None:
            found.append(_Known(pair.reference_at, 0.0))
    return found


def _carried_at(
    at: tuple[float, float], pair: MeasuredPair, chroma: Floats, shift: np.ndarray
) -> float:
    x, y = pixel_at(at, chroma.shape[1:])
    here = chroma[:2, max(0, y - 1) : y + 2, max(0, x - 1) : x + 2].mean(axis=(1, 2))
    return float((here - chroma_of(pair.reference)) @ shift / (shift @ shift))


def solve_amount(
    rgb: Floats,
    mask: Floats,
    pairs: list[MeasuredPair],
    guards: Sequence[tuple[float, float]] = (),
    tuning: Tuning | None = None,
) -> Solved:
    """How much of a cast lies where, and which way it goes.

    rgb: the photo at the analysis size, float32 (3, h, w) linear Rec. 2020; mask: (h, w) 0..1;
    pairs: one or more of the same cast; guards: places (fractions of the long edge) of colours that
    must stay, with the connected area of like colour around each; tuning: None for the usual one.
    """
    placeless = all(p.reference_at is None for p in pairs)
    if tuning is None:
        tuning = PLACELESS if placeless else Tuning()
    calm = np.stack([np.asarray(cv2.GaussianBlur(p, (0, 0), 0.7)) for p in rgb])
    chroma = chroma_planes(calm)
    shifts = np.array([led_shift(chroma, mask, p) if placeless else p.shift for p in pairs])
    way = shifts.sum(axis=0)
    n = way / max(float(np.hypot(*way)), 1e-9)
    own = shifts @ n
    # Solved in units of the strongest pair: in those of the mean, its surroundings would be out of reach.
    size, mean = max(float(own.max()), 1e-3), max(float(own.mean()), 1e-3)
    shift = n * size
    neighbours = _neighbours(chroma, shift, tuning)
    cost, seen, another = _gather(rgb, mask, shift, pairs, tuning)
    known = _known(pairs, own / size, chroma, shift)
    kept = guarded(rgb, guards)
    b: Floats | None = None
    for _ in range(ROUNDS):
        around = None if b is None else np.clip(_resize(b, seen), 0.0, STRONGEST)
        likely, variance = likely_amount(cost, tuning.evidence.soft, around, tuning.follow)
        data = tuning.data * mask * _resize(seen / (variance + np.float32(0.01)), mask)
        weight, target = _told(data, _resize(likely, mask), mask, tuning)
        for k in known:
            _pin(weight, target, k.at, k.amount, tuning.pin)
        weight[kept], target[kept] = tuning.pin, 0.0
        b = solve(Problem(weight, target, *neighbours))
    assert b is not None
    amount = np.clip(b, 0.0, STRONGEST) * np.float32(size / mean)
    return Solved(amount, n * mean, another * _resize(mask, another))
