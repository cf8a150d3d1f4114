"""Ramp: full on one side of a line, nothing on the other, an even fall between."""

import math
from typing import Any, ClassVar, Literal, Self

import numpy as np

from nubilis import kernel_types as of
from nubilis.arrays import Floats
from nubilis.kernels import f32, kernel, smoothstep
from nubilis.mask.move import Move
from nubilis.mask.part import NOTHING, Given, Part
from nubilis.photo.pyramid import View
from nubilis.recipe.model import Place


class Ramp(Part):
    """full, none: where the fall begins and ends; it runs across the line between them."""

    title: ClassVar[str] = "ramp"

    kind: Literal["ramp"] = "ramp"
    full: Place
    none: Place

    def moved(self, move: Move) -> Self:
        return self.model_copy(
            update={"full": move.place(self.full), "none": move.place(self.none)}
        )

    def coverage(self, rgb_linear: Floats, view: View, given: Given = NOTHING) -> Floats:
        (ax, ay), (bx, by) = (
            (x * view.long_edge, y * view.long_edge) for x, y in (self.full, self.none)
        )
        # Half a pixel of fall at least, or a hard edge would show its steps.
        size = max(math.hypot(bx - ax, by - ay), 1.0)
        way = ((bx - ax) / size, (by - ay) / size) if (bx, by) != (ax, ay) else (1.0, 0.0)
        out = np.empty(view.shape, dtype=np.float32)
        x0, y0 = view.region[:2]
        start = (x0 + 0.5 - ax) * way[0] + (y0 + 0.5 - ay) * way[1]
        _ramp(out.shape[0], f32(start / size), f32(way[0] / size), f32(way[1] / size), out)
        return out


@kernel(of.real, of.real, of.real, of.plane)
def _ramp(rows: Any, start: Any, dx: Any, dy: Any, out: Any) -> None:
    for y in range(*rows):
        row = start + f32(y) * dy
        for x in range(out.shape[1]):
            out[y, x] = smoothstep(f32(1.0) - row - f32(x) * dx)
