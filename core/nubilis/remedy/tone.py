"""Tone: light and colour of what is masked, set as the base sets the whole photo; local contrast and detail.

Detail is what is left of lightness when it is smoothed along its edges (a guided filter: He, Sun, Tang 2013),
so that a strong edge is none, and gets no halo.
"""

from typing import Annotated, Any, ClassVar, Literal

import numpy as np
from pydantic import Field

from nubilis import kernel_types as of
from nubilis.arrays import Floats
from nubilis.kernels import constants_of_4, f32, kernel
from nubilis.remedy.mix import mixed
from nubilis.remedy.oklab_planes import MATRICES, lightness_plane, room_to_move, to_oklab
from nubilis.remedy.remedy import Ground, Remedy, Statistic
from nubilis.remedy.smooth import smooth_lightness
from nubilis.settle.apply import settled
from nubilis.settle.base import Settings

WIDE, FINE = 0.03, 0.004  # of the long edge
EDGE = 6e-4  # of the guide's variance: about 2.5 L*; stronger steps are edges
MOST_STEP = 0.12  # of OKLab lightness, that detail may be moved by
More = Annotated[float, Field(ge=-1.0, le=1.5, allow_inf_nan=False)]


BROAD = Statistic("lightness without what is local", smooth_lightness(WIDE, EDGE))
NARROW = Statistic("lightness without fine detail", smooth_lightness(FINE, EDGE))


class Tone(Remedy, Settings):
    """local, detail: -1 takes them away, 1 doubles them."""

    statistics: ClassVar[tuple[Statistic, ...]] = (BROAD, NARROW)
    title: ClassVar[str] = "tone"

    kind: Literal["tone"] = "tone"
    local: More = 0.0
    detail: More = 0.0

    def applied(self, rgb: Floats, mask: Floats, ground: Ground) -> Floats:
        share = mask * np.float32(self.amount)
        out = rgb
        if self.local or self.detail:
            planes = [
                (k, ground.read(ground.measured(s)))
                for k, s in ((self.local, BROAD), (self.detail, NARROW))
                if k
            ]
            out = np.empty_like(rgb)
            smooth = np.stack([p for _, p in planes])
            how = np.array([k for k, _ in planes], dtype=np.float32)
            _deepen(
                rgb.shape[1],
                rgb,
                share,
                lightness_plane(ground.settled),
                smooth,
                how,
                MATRICES,
                out,
            )
        if self.rest:
            return out
        return mixed(out, settled(out, self), share)


@kernel(of.planes, of.plane, of.plane, of.planes, of.line, of.planes, of.planes)
def _deepen(
    rows: Any, rgb: Any, share: Any, light: Any, smooth: Any, how: Any, m: Any, out: Any
) -> None:
    """light: of the settled photo; smooth: without its detail, one plane for each of `how`."""
    m = constants_of_4(m)
    for y in range(*rows):
        for x in range(rgb.shape[2]):
            r, g, b = rgb[0, y, x], rgb[1, y, x], rgb[2, y, x]
            w = share[y, x]
            if w > f32(0.0):
                step = f32(0.0)
                for k in range(smooth.shape[0]):
                    step += how[k] * (light[y, x] - smooth[k, y, x])
                step = min(max(step, f32(-MOST_STEP)), f32(MOST_STEP))
                now = max(to_oklab(m, r, g, b)[0], f32(0.02))
                ratio = max(f32(1.0) + w * step * room_to_move(now) / now, f32(0.0))
                gain = ratio * ratio * ratio
                r, g, b = r * gain, g * gain, b * gain
            out[0, y, x], out[1, y, x], out[2, y, x] = r, g, b
