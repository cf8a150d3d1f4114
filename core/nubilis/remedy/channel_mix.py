"""Mix: each of the photo's channels made anew of all three."""

from typing import Annotated, Any, ClassVar, Literal

import numpy as np
from pydantic import Field

from nubilis import kernel_types as of
from nubilis.arrays import Floats
from nubilis.kernels import constants, constants_of_6, f32, kernel
from nubilis.remedy.remedy import Ground, Remedy
from nubilis.remedy.tint import luminance_of_rgb, matrices

Part = Annotated[float, Field(ge=-2.0, le=2.0, allow_inf_nan=False)]
Row = tuple[Part, Part, Part]


class ChannelMix(Remedy):
    """red, green, blue: what each takes of red, green and blue, in linear light of the photo's own primaries.
    keep_grey: what a row lacks of 1 it takes evenly of all; hold_luminance: light stays."""

    title: ClassVar[str] = "mix"

    kind: Literal["channel-mix"] = "channel-mix"
    red: Row = (1.0, 0.0, 0.0)
    green: Row = (0.0, 1.0, 0.0)
    blue: Row = (0.0, 0.0, 1.0)
    keep_grey: bool = True
    hold_luminance: bool = False

    @property
    def rows(self) -> Floats:
        """(3, 3), of the photo's own channels."""
        rows = np.array([self.red, self.green, self.blue], dtype=np.float64)
        if self.keep_grey:
            rows += (1.0 - rows.sum(axis=1, keepdims=True)) / 3.0
        return rows.astype(np.float32)

    def applied(self, rgb: Floats, mask: Floats, ground: Ground) -> Floats:
        mixed = np.linalg.inv(ground.to_device) @ self.rows @ ground.to_device
        step = np.float32(min(self.amount, 1.0)) * (mixed - np.eye(3)).astype(np.float32)
        if not np.abs(step).max() > 1e-6:
            return rgb
        out = np.empty_like(rgb)
        m = matrices(ground.to_device)
        _mix(rgb.shape[1], rgb, mask, step.astype(np.float32), self.hold_luminance, m, out)
        return out


@kernel(of.planes, of.plane, of.plane, of.flag, of.planes, of.planes)
def _mix(rows: Any, rgb: Any, mask: Any, step: Any, hold: Any, m: Any, out: Any) -> None:
    m, step = constants_of_6(m), constants(step)
    for y in range(*rows):
        for x in range(rgb.shape[2]):
            w = mask[y, x]
            r, g, b = rgb[0, y, x], rgb[1, y, x], rgb[2, y, x]
            if w > f32(0.0):
                nr = r + w * (step[0][0] * r + step[0][1] * g + step[0][2] * b)
                ng = g + w * (step[1][0] * r + step[1][1] * g + step[1][2] * b)
                nb_ = b + w * (step[2][0] * r + step[2][1] * g + step[2][2] * b)
                if hold:
                    now = max(luminance_of_rgb(m, nr, ng, nb_), f32(1e-6))
                    gain = max(luminance_of_rgb(m, r, g, b), f32(0.0)) / now
                    nr, ng, nb_ = nr * gain, ng * gain, nb_ * gain
                r, g, b = nr, ng, nb_
            out[0, y, x], out[1, y, x], out[2, y, x] = r, g, b
