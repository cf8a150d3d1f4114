"""Touches: amounts that the editor set by hand, and how near places of the same material follow them."""

from collections.abc import Sequence
from typing import Any

import numpy as np
import numpy.typing as npt

from nubilis import kernel_types as of
from nubilis.arrays import Floats
from nubilis.cast.evidence import lightness
from nubilis.kernels import exp2, f32, kernel
from nubilis.photo.pyramid import pixel_at

# How far a touch is felt, as standard deviations; see bench/RESULTS.md.
REACH = 0.12  # of the long edge
LIKE_CHROMA = 0.06  # log chroma, the cast taken off
LIKE_LIGHTNESS = 18.0  # L*
EASED = 1e-2  # of a touch that another contradicts beside it, so that neither is driven to extremes


@kernel(of.plane, of.plane, of.plane, of.plane, of.line, of.line, of.plane)
def _felt(
    rows: Any, u1: Any, u2: Any, light: Any, touches: Any, weights: Any, scales: Any, out: Any
) -> None:
    """Adds what the touches change. touches (n, 5): x, y, log chroma, lightness."""
    w = out.shape[1]
    for y in range(*rows):
        for i in range(touches.shape[0]):
            tx, ty, t1 = touches[i, 0], touches[i, 1], touches[i, 2]
            t2, tl, weight = touches[i, 3], touches[i, 4], weights[i]
            dy = (f32(y) - ty) * scales[0]
            for x in range(w):
                dx = (f32(x) - tx) * scales[0]
                d1 = (u1[y, x] - t1) * scales[1]
                d2 = (u2[y, x] - t2) * scales[1]
                dl = (light[y, x] - tl) * scales[2]
                away = dx * dx + dy * dy + d1 * d1 + d2 * d2 + dl * dl
                out[y, x] += weight * exp2(f32(-0.72134752) * min(away, f32(80.0)))


def touched(
    amount: Floats,
    chroma: Floats,
    shift: npt.NDArray[np.float64],
    touches: Sequence[tuple[tuple[float, float], float]],
) -> Floats:
    """An amount field (h, w) that has the touched values at the touched places, never below 0.

    What a touch changes is felt around it by a Gaussian in place, chroma and lightness (radial basis
    interpolation; Hardy 1971). chroma: (4, h, w) from chroma_planes; shift: of amount 1, log chroma (2,);
    touches: places as fractions of the long edge, and amounts.
    """
    if not touches:
        return amount
    h, w = amount.shape
    u1, u2 = (chroma[i] - amount * np.float32(shift[i]) for i in range(2))
    light = lightness(chroma[3])
    at = [pixel_at(place, (h, w)) for place, _ in touches]
    points = np.array([(x, y, *_around(u1, u2, light, x, y)) for x, y in at], dtype=np.float32)
    scales = np.array([1 / (REACH * max(h, w)), 1 / LIKE_CHROMA, 1 / LIKE_LIGHTNESS])
    away = (points[:, None] - points[None]) * scales[[0, 0, 1, 1, 2]]
    likeness = np.exp(-0.5 * (away**2).sum(axis=2)) + EASED * np.eye(len(points))
    wanted = [value - float(amount[y, x]) for (x, y), (_, value) in zip(at, touches, strict=True)]
    weights = np.linalg.solve(likeness, np.array(wanted) * (1.0 + EASED))
    out = amount.copy()
    _felt(h, u1, u2, light, points, weights.astype(np.float32), scales.astype(np.float32), out)
    return np.maximum(out, np.float32(0.0))


def _around(u1: Floats, u2: Floats, light: Floats, x: int, y: int) -> tuple[float, ...]:
    """The mean of a few pixels: a speck is no material."""
    spot = np.s_[max(0, y - 1) : y + 2, max(0, x - 1) : x + 2]
    return tuple(float(v[spot].mean()) for v in (u1, u2, light))
