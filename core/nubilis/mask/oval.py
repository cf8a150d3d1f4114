"""Oval: an ellipse that may be turned, with a fade on either side of its edge."""

import math
from typing import Annotated, Any, ClassVar, Literal, Self

import numpy as np
from pydantic import Field

from nubilis import kernel_types as of
from nubilis.arrays import Floats
from nubilis.kernels import f32, kernel, smoothstep
from nubilis.mask.move import Move
from nubilis.mask.part import NOTHING, Given, Part
from nubilis.photo.pyramid import Region, View, overlap
from nubilis.recipe.model import Place, Share

MOST = 3.0  # of a radius
_Radius = Annotated[float, Field(gt=0.0, le=MOST, allow_inf_nan=False)]


class Oval(Part):
    """radii: along its own axes, fractions of the long edge; angle: by which it is turned clockwise,
    degrees; inside, outside: shares of the radii over which it fades within and beyond its edge."""

    title: ClassVar[str] = "oval"

    kind: Literal["oval"] = "oval"
    centre: Place
    radii: tuple[_Radius, _Radius]
    angle: Annotated[float, Field(ge=-360.0, le=360.0, allow_inf_nan=False)] = 0.0
    inside: Share = 0.3
    outside: Annotated[float, Field(ge=0.0, le=2.0, allow_inf_nan=False)] = 0.3

    def moved(self, move: Move) -> Self:
        wide, high = (move.size(r, MOST) for r in self.radii)
        turned = math.remainder(self.angle + move.turn, 360.0)
        here = {"centre": move.place(self.centre), "radii": (wide, high), "angle": turned}
        return self.model_copy(update=here)

    def coverage(self, rgb_linear: Floats, view: View, given: Given = NOTHING) -> Floats:
        long_edge = view.long_edge
        radii = [max(r * long_edge, 0.5) for r in self.radii]
        turn = math.radians(self.angle)
        x0, y0 = view.region[:2]
        numbers = (
            self.centre[0] * long_edge - x0 - 0.5,
            self.centre[1] * long_edge - y0 - 0.5,
            math.cos(turn) / radii[0],
            math.sin(turn) / radii[0],
            math.cos(turn) / radii[1],
            math.sin(turn) / radii[1],
            1.0 + self.outside,
            max(self.inside + self.outside, 1.0 / min(radii)),
        )
        out = np.empty(view.shape, dtype=np.float32)
        _oval(out.shape[0], np.array(numbers, dtype=np.float32), out)
        return out

    def reach(self, size: tuple[int, int]) -> Region:
        long_edge = max(size)
        r = max(self.radii) * (1.0 + self.outside) * long_edge + 2.0
        x, y = (c * long_edge for c in self.centre)
        box = math.floor(x - r), math.floor(y - r), math.ceil(x + r), math.ceil(y + r)
        return overlap(box, (0, 0, *size)) or (0, 0, 0, 0)


@kernel(of.line, of.plane)
def _oval(rows: Any, numbers: Any, out: Any) -> None:
    """numbers: centre, cosine and sine over each radius, end of the fade, its width."""
    cx, cy, ux, uy = numbers[0], numbers[1], numbers[2], numbers[3]
    vx, vy, end, width = numbers[4], numbers[5], numbers[6], numbers[7]
    for y in range(*rows):
        dy = f32(y) - cy
        for x in range(out.shape[1]):
            dx = f32(x) - cx
            along, across = dx * ux + dy * uy, dy * vx - dx * vy
            out[y, x] = smoothstep((end - np.sqrt(along * along + across * across)) / width)
