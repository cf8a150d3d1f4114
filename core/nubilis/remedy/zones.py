"""Zones: shadows, mids and lights of what is masked, each moved its own way, with smooth joints.

The three weights of a lightness sum to 1 and have continuous slopes: two cubic steps about two crossovers,
whose widths are such that they never overlap.
"""

from typing import Annotated, Any, ClassVar, Literal

import numpy as np
import numpy.typing as npt
from pydantic import Field, model_validator

from nubilis import kernel_types as of
from nubilis.arrays import Floats
from nubilis.kernels import compiled, constants_of_6, f32, kernel, smoothstep
from nubilis.recipe.model import Share
from nubilis.remedy.oklab_planes import room_to_move, to_oklab
from nubilis.remedy.remedy import Ground, Remedy
from nubilis.remedy.tint import matrices, relit

LEAST_APART = 0.08  # of lightness between the crossovers
# Of lightness, from the ends, over which moves of colour fade: black and white have none.
TO_BLACK, TO_WHITE = 0.15, 0.3
Move = Annotated[float, Field(ge=-0.15, le=0.15, allow_inf_nan=False)]
Signed = Annotated[float, Field(ge=-1.0, le=1.0, allow_inf_nan=False)]
Light = Annotated[float, Field(ge=-0.3, le=0.3, allow_inf_nan=False)]


class Zones(Remedy):
    """low, high: crossovers, OKLab lightness. Of each zone: red, yellow: its move in the a-b plane of OKLab,
    to green and to blue below 0; saturation: -1 takes all chroma, 1 doubles it; light: of OKLab lightness."""

    title: ClassVar[str] = "zones"

    kind: Literal["zones"] = "zones"
    low: Share = 0.4
    high: Share = 0.7
    shadows_red: Move = 0.0
    shadows_yellow: Move = 0.0
    shadows_saturation: Signed = 0.0
    shadows_light: Light = 0.0
    mids_red: Move = 0.0
    mids_yellow: Move = 0.0
    mids_saturation: Signed = 0.0
    mids_light: Light = 0.0
    lights_red: Move = 0.0
    lights_yellow: Move = 0.0
    lights_saturation: Signed = 0.0
    lights_light: Light = 0.0

    @model_validator(mode="after")
    def _in_order(self) -> "Zones":
        if self.high < self.low + LEAST_APART - 1e-9:
            raise ValueError(f"the upper crossover lies at least {LEAST_APART} above the lower one")
        return self

    @property
    def moves(self) -> npt.NDArray[np.float32]:
        """(3, 4): shadows, mids, lights; red, yellow, saturation, light."""
        names = ("red", "yellow", "saturation", "light")
        rows = [
            [getattr(self, f"{zone}_{n}") for n in names] for zone in ("shadows", "mids", "lights")
        ]
        return np.array(rows, dtype=np.float32)

    def applied(self, rgb: Floats, mask: Floats, ground: Ground) -> Floats:
        moves = self.moves * np.float32(self.amount)
        if not moves.any():
            return rgb
        joints = np.array([self.low, self.high], dtype=np.float32)
        out = np.empty_like(rgb)
        m = matrices(ground.to_device)
        _move(rgb.shape[1], rgb, mask, joints, moves, m, out)
        return out


def weights(light: npt.ArrayLike, low: float, high: float) -> npt.NDArray[np.float64]:
    """Shares of shadows, mids and lights (3, ...) at a lightness, as the kernel has them."""
    half = (high - low) / 2.0
    t = [np.clip((np.asarray(light) - c) / (2.0 * half) + 0.5, 0.0, 1.0) for c in (low, high)]
    above = [s * s * (3.0 - 2.0 * s) for s in t]
    return np.stack([1.0 - above[0], above[0] - above[1], above[1]])


@compiled
def shares_of(light: Any, low: Any, high: Any, per: Any) -> Any:
    """Of shadows, mids and lights; low, high: the crossovers; per: 1 / what lies between them."""
    above_low = smoothstep((light - low) * per + f32(0.5))
    above_high = smoothstep((light - high) * per + f32(0.5))
    return f32(1.0) - above_low, above_low - above_high, above_high


@kernel(of.planes, of.plane, of.line, of.plane, of.planes, of.planes)
def _move(rows: Any, rgb: Any, mask: Any, joints: Any, moves: Any, m: Any, out: Any) -> None:
    m = constants_of_6(m)
    low, high = joints[0], joints[1]
    per = f32(1.0) / (high - low)
    red0, yellow0, more0, light0 = moves[0, 0], moves[0, 1], moves[0, 2], moves[0, 3]
    red1, yellow1, more1, light1 = moves[1, 0], moves[1, 1], moves[1, 2], moves[1, 3]
    red2, yellow2, more2, light2 = moves[2, 0], moves[2, 1], moves[2, 2], moves[2, 3]
    for y in range(*rows):
        for x in range(rgb.shape[2]):
            w = mask[y, x]
            r, g, b = rgb[0, y, x], rgb[1, y, x], rgb[2, y, x]
            if w > f32(0.0):
                light, a, c = to_oklab(m, r, g, b)
                dark, mid, bright = shares_of(light, low, high, per)
                red = dark * red0 + mid * red1 + bright * red2
                yellow = dark * yellow0 + mid * yellow1 + bright * yellow2
                more = dark * more0 + mid * more1 + bright * more2
                lighter = dark * light0 + mid * light1 + bright * light2
                gain = max(f32(1.0) + w * more, f32(0.0))
                tint = w * smoothstep(light * f32(1.0 / TO_BLACK))
                tint *= smoothstep((f32(1.0) - light) * f32(1.0 / TO_WHITE))
                new = light + w * lighter * room_to_move(light)
                a, c = a * gain + tint * red, c * gain + tint * yellow
                r, g, b = relit(m, r, g, b, light, new, a, c)
            out[0, y, x], out[1, y, x], out[2, y, x] = r, g, b
