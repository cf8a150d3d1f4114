"""A part of the way from one picture to another."""

from typing import Any

import numpy as np

from nubilis import kernel_types as of
from nubilis.arrays import Floats
from nubilis.kernels import f32, kernel


def mixed(rgb: Floats, aim: Floats, share: Floats) -> Floats:
    """(3, h, w): `rgb` to the bit where the share (h, w) is 0, `aim` where it is 1."""
    out = np.empty_like(rgb)
    _mix(rgb.shape[1], rgb, np.ascontiguousarray(aim), share, out)
    return out


@kernel(of.planes, of.planes, of.plane, of.planes)
def _mix(rows: Any, rgb: Any, aim: Any, share: Any, out: Any) -> None:
    for y in range(*rows):
        for c in range(3):
            for x in range(rgb.shape[2]):
                v, w = rgb[c, y, x], share[y, x]
                out[c, y, x] = v + w * (aim[c, y, x] - v) if w > f32(0.0) else v
