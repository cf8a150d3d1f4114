"""Taking a cast off by von Kries gains, as much as each pixel carries of it."""

import math
from typing import Any

import numpy as np
import numpy.typing as npt

from nubilis import kernel_types as of
from nubilis.arrays import Floats, planar, plane
from nubilis.cast.chroma import log_gains
from nubilis.cast.span import span
from nubilis.colour.adaptation import CONES_TO_REC2020, REC2020_TO_CONES
from nubilis.colour.rgb import LUMINANCE
from nubilis.kernels import exp2, f32, kernel

_MATRICES = np.stack(
    [REC2020_TO_CONES, CONES_TO_REC2020, np.broadcast_to(LUMINANCE, (3, 3))]
).astype(np.float32)


@kernel(of.planes, of.plane, of.plane, of.line, of.planes, of.planes)
def _apply(
    rows: Any, rgb: Any, mask: Any, amount: Any, weights: Any, matrices: Any, out: Any
) -> None:
    """weights: three log2 gains, gain, follow, hold; matrices (3, 3, 3): to cones, back, luminance."""
    # Scalars, or the compiler must reload them after every store and cannot vectorise.
    m00, m01, m02 = matrices[0, 0, 0], matrices[0, 0, 1], matrices[0, 0, 2]
    m10, m11, m12 = matrices[0, 1, 0], matrices[0, 1, 1], matrices[0, 1, 2]
    m20, m21, m22 = matrices[0, 2, 0], matrices[0, 2, 1], matrices[0, 2, 2]
    b00, b01, b02 = matrices[1, 0, 0], matrices[1, 0, 1], matrices[1, 0, 2]
    b10, b11, b12 = matrices[1, 1, 0], matrices[1, 1, 1], matrices[1, 1, 2]
    b20, b21, b22 = matrices[1, 2, 0], matrices[1, 2, 1], matrices[1, 2, 2]
    yr, yg, yb = matrices[2, 0, 0], matrices[2, 0, 1], matrices[2, 0, 2]
    g0, g1, g2 = weights[0], weights[1], weights[2]
    gain, follow, hold = weights[3], weights[4], weights[5]
    one = f32(1.0)
    zero = f32(0.0)
    for y in range(*rows):
        first, last = span(mask, y)
        for c in range(3):
            for x in range(first):
                out[c, y, x] = rgb[c, y, x]
            for x in range(last, rgb.shape[2]):
                out[c, y, x] = rgb[c, y, x]
        # Counted from 0: a compiler that must expect negative indices does not vectorise.
        reds, greens, blues = rgb[0, y, first:last], rgb[1, y, first:last], rgb[2, y, first:last]
        masks, amounts = mask[y, first:last], amount[y, first:last]
        new_r, new_g, new_b = out[0, y, first:last], out[1, y, first:last], out[2, y, first:last]
        for x in range(last - first):
            s = masks[x] * gain * (one - follow + follow * amounts[x])
            r, g, b = reds[x], greens[x], blues[x]
            # What changes is computed as a difference: strength 0 is the identity to the bit.
            c0 = max(m00 * r + m01 * g + m02 * b, zero) * (exp2(s * g0) - one)
            c1 = max(m10 * r + m11 * g + m12 * b, zero) * (exp2(s * g1) - one)
            c2 = max(m20 * r + m21 * g + m22 * b, zero) * (exp2(s * g2) - one)
            dr = b00 * c0 + b01 * c1 + b02 * c2
            dg = b10 * c0 + b11 * c1 + b12 * c2
            db = b20 * c0 + b21 * c1 + b22 * c2
            before = yr * r + yg * g + yb * b
            moved = yr * dr + yg * dg + yb * db
            keep = one - hold * moved / max(before + moved, f32(1e-4))
            new_r[x] = (r + dr) * keep
            new_g[x] = (g + dg) * keep
            new_b[x] = (b + db) * keep


def take_off(
    rgb_linear: npt.NDArray[Any],
    mask: npt.NDArray[Any],
    amount: npt.NDArray[Any],
    shift: npt.ArrayLike,
    gain: float = 1.0,
    follow: float = 1.0,
    hold_lightness: float = 1.0,
) -> Floats:
    """Divide a cast out of a picture, as much as mask and amount say.

    rgb_linear: float32 (3, h, w) linear Rec. 2020; mask: (h, w) 0..1, where 0 leaves the pixel bit for
    bit as it is; amount: (h, w), how much of the cast each pixel carries; shift: the cast in log
    chroma (2,), which an amount of 1 carries; gain: share of it that is taken off; follow: 1 as the amount
    says, 0 the same everywhere; hold_lightness: share of each pixel's luminance that is kept.
    Returns float32 (3, h, w), unclipped; luminance as before when hold_lightness is 1.
    Raises ShapeError.
    Source: von Kries (1902) gains in Bradford cones (Lam 1985).
    """
    rgb = planar("rgb_linear", rgb_linear)
    gains = -log_gains(shift) / math.log(2.0)
    weights = np.array([*gains, gain, follow, hold_lightness], dtype=np.float32)
    out = np.empty_like(rgb)
    _apply(
        rgb.shape[1],
        rgb,
        plane("mask", mask, rgb),
        plane("amount", amount, rgb),
        weights,
        _MATRICES,
        out,
    )
    return out
