"""Joining parts. The algebra, with a what stands and b the new part, both 0..1:

add = min(a + b, 1), subtract = a (1 - b), intersect = a b. Inverted, b is 1 - b; its strength multiplies
that. Two parts whose soft edges complete each other, as halves of one ramp do, add to exactly 1: no dark
seam is left between them, as the more usual a + b - a b leaves one of a quarter.
"""

from collections.abc import Callable, Iterable
from typing import Annotated, Any, ClassVar, Literal

import numpy as np
from pydantic import Field
from pydantic.json_schema import SkipJsonSchema

from nubilis import kernel_types as of
from nubilis.arrays import Floats
from nubilis.errors import PlaceError
from nubilis.kernels import f32, kernel
from nubilis.mask.brush import Brush
from nubilis.mask.colour_key import ColourKey
from nubilis.mask.guess import Guess
from nubilis.mask.oval import Oval
from nubilis.mask.part import Part
from nubilis.mask.path import Path
from nubilis.mask.people import People
from nubilis.mask.picture import Picture
from nubilis.mask.ramp import Ramp
from nubilis.mask.refine import Refine
from nubilis.mask.similar import Similar
from nubilis.mask.snap import Snap
from nubilis.mask.soften import GRID
from nubilis.mask.whole import Whole
from nubilis.photo.pyramid import Region, View, around, overlap
from nubilis.recipe.model import Identifier, Model


class Lent(Part):
    """cast: whose mask is used, as it is there; mask: that one, which the recipe fills in."""

    title: ClassVar[str] = "other cast's mask"

    kind: Literal["lent"] = "lent"
    cast: Identifier
    mask: SkipJsonSchema["Mask | None"] = Field(default=None, exclude=True)

    def reach(self, size: tuple[int, int]) -> Region:
        return self.mask.reach(size) if self.mask else (0, 0, 0, 0)


# The registry: a new kind of part is one file and one name here.
AnyPart = Annotated[
    Brush
    | Path
    | Oval
    | Ramp
    | ColourKey
    | Snap
    | Similar
    | Guess
    | People
    | Picture
    | Whole
    | Lent,
    Field(discriminator="kind"),
]


class Mask(Model):
    """Parts in order. No part: nothing is masked, so nothing changes."""

    parts: Annotated[tuple[AnyPart, ...], Field(max_length=100)] = ()
    refine: Refine = Refine()

    def reach(self, size: tuple[int, int]) -> Region:
        """Beyond this region of a photo of `size` (width, height) the mask is 0."""
        everywhere = 0, 0, *size
        adding = [p for p in self.parts if p.on and p.join == "add"]
        if not adding:
            return 0, 0, 0, 0
        x0, y0, x1, y1 = around(everywhere if p.invert else p.reach(size) for p in adding)
        more = self.refine.room(max(size)) if self.refine.active else 0
        return overlap((x0 - more, y0 - more, x1 + more, y1 + more), everywhere) or (0, 0, 0, 0)

    @property
    def looks_around(self) -> bool:
        """Whether what is masked at a place depends on pixels elsewhere."""
        lent = (p.mask for p in self.parts if isinstance(p, Lent) and p.mask)
        found = any(p.looks for p in self.parts)
        return self.refine.active or found or any(m.looks_around for m in lent)

    def only(self, part_id: str) -> "Mask":
        """One part alone, without refinement. Raises PlaceError."""
        part = next((p for p in self.parts if p.id == part_id), None)
        if part is None:
            raise PlaceError("the mask has no such part")
        return Mask(parts=(part.model_copy(update={"join": "add", "on": True}),))

    def cover(
        self,
        view: View,
        coverage_of: Callable[[Part, View], Floats],
        rgb_of: Callable[[View], Floats],
    ) -> Floats:
        """The mask over a view, float32 (h, w). coverage_of: of a part before its own invert and
        strength, over the view or one around it; rgb_of: the settled photo there."""
        parts = [p for p in self.parts if p.on]
        if not self.refine.active:
            return combine(parts, lambda p: coverage_of(p, view), view.shape)
        wide = view.grown(self.refine.room(view.long_edge), GRID)
        mask = combine(parts, lambda p: coverage_of(p, wide), wide.shape)
        mask = self.refine.applied(mask, wide, rgb_of)
        x0, y0 = (a - b for a, b in zip(view.region[:2], wide.region[:2], strict=True))
        return np.ascontiguousarray(mask[y0 : y0 + view.shape[0], x0 : x0 + view.shape[1]])


def combine(
    parts: Iterable[Part], coverage_of: Callable[[Part], Floats], shape: tuple[int, int]
) -> Floats:
    """Join parts, float32 (h, w). coverage_of: before a part's own invert and strength; not asked for
    where nothing stands that it could take from."""
    mask = None
    for part in parts:
        if part.join != "add" and (mask is None or not mask.any()):
            mask = np.zeros(shape, dtype=np.float32)
            continue
        b = coverage_of(part)
        joined = np.empty(shape, dtype=np.float32)
        way = _WAYS[part.join] if mask is not None else _FIRST
        _join(
            joined.shape[0],
            b if mask is None else mask,
            b,
            way,
            part.invert,
            f32(part.strength),
            joined,
        )
        mask = joined
    return np.zeros(shape, dtype=np.float32) if mask is None else mask


_WAYS = {"add": 0, "subtract": 1, "intersect": 2}
_FIRST = 3


@kernel(of.plane, of.plane, of.number, of.flag, of.real, of.plane)
def _join(rows: Any, mask: Any, part: Any, way: Any, invert: Any, strength: Any, out: Any) -> None:
    for y in range(*rows):
        for x in range(out.shape[1]):
            a, c = mask[y, x], part[y, x]
            b = strength * ((f32(1.0) - c) if invert else c)
            if way == 0:
                out[y, x] = min(a + b, f32(1.0))
            elif way == 1:
                out[y, x] = a * (f32(1.0) - b)
            elif way == 2:
                out[y, x] = a * b
            else:
                out[y, x] = b
