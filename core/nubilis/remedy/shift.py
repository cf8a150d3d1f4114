"""Shift: hue, saturation and luminance moved by the same step everywhere in the mask."""

import math
from typing import Annotated, Any, ClassVar, Literal

import numpy as np
from pydantic import Field

from nubilis import kernel_types as of
from nubilis.arrays import Floats
from nubilis.kernels import constants_of_4, f32, kernel
from nubilis.remedy.oklab_planes import MATRICES, from_oklab, room_to_move, to_oklab
from nubilis.remedy.remedy import Ground, Remedy


class Shift(Remedy):
    """hue: degrees of OKLCh; saturation: -1 takes all chroma, 1 doubles it; luminance: of OKLab
    lightness, -0.5..0.5."""

    title: ClassVar[str] = "shift"

    kind: Literal["shift"] = "shift"
    hue: Annotated[float, Field(ge=-180.0, le=180.0, allow_inf_nan=False)] = 0.0
    saturation: Annotated[float, Field(ge=-1.0, le=1.0, allow_inf_nan=False)] = 0.0
    luminance: Annotated[float, Field(ge=-0.5, le=0.5, allow_inf_nan=False)] = 0.0

    def applied(self, rgb: Floats, mask: Floats, ground: Ground) -> Floats:
        turn = math.radians(self.hue) * self.amount
        gain = max(1.0 + self.saturation * self.amount, 0.0)
        step = gain * math.cos(turn), gain * math.sin(turn), self.luminance * self.amount
        if step == (1.0, 0.0, 0.0):
            return rgb
        out = np.empty_like(rgb)
        _shift(rgb.shape[1], rgb, mask, np.array(step, dtype=np.float32), MATRICES, out)
        return out


@kernel(of.planes, of.plane, of.line, of.planes, of.planes)
def _shift(rows: Any, rgb: Any, mask: Any, step: Any, m: Any, out: Any) -> None:
    """step: gain times cosine and sine of the turn, and the step of lightness."""
    m = constants_of_4(m)
    cosine, sine, lighter = step[0], step[1], step[2]
    for y in range(*rows):
        for x in range(rgb.shape[2]):
            w = mask[y, x]
            r, g, b = rgb[0, y, x], rgb[1, y, x], rgb[2, y, x]
            if w > f32(0.0):
                light, a, c = to_oklab(m, r, g, b)
                na = cosine * a - sine * c
                nc = sine * a + cosine * c
                room = room_to_move(light)
                r, g, b = from_oklab(
                    m, light + w * lighter * room, a + w * (na - a), c + w * (nc - c)
                )
            out[0, y, x], out[1, y, x], out[2, y, x] = r, g, b
