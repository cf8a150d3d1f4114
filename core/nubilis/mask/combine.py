"""Joining parts. The algebra, with a what stands and b the new part, both 0..1:

add = a + b - a b (soft edges that overlap grow together), subtract = a (1 - b), intersect = a b.
"""

from collections.abc import Callable, Iterable
from typing import Annotated

import numpy as np
from pydantic import Field

from nubilis.arrays import Floats
from nubilis.mask.brush import Brush
from nubilis.mask.colour_key import ColourKey
from nubilis.mask.part import Part, shaped
from nubilis.mask.picture import Picture
from nubilis.mask.whole import Whole
from nubilis.photo.pyramid import Region, around
from nubilis.recipe.base import Model

# The registry: a new kind of part is one file and one name here.
AnyPart = Annotated[Brush | ColourKey | Picture | Whole, Field(discriminator="kind")]


class Mask(Model):
    """Parts in order. No part: nothing is masked, so nothing changes."""

    parts: Annotated[tuple[AnyPart, ...], Field(max_length=100)] = ()

    def reach(self, size: tuple[int, int]) -> Region:
        """Beyond this region of a photo of `size` (width, height) the mask is 0."""
        everywhere = 0, 0, *size
        adding = [p for p in self.parts if p.on and p.join == "add"]
        if not adding:
            return 0, 0, 0, 0
        return around(everywhere if p.invert else p.reach(size) for p in adding)


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
        b = shaped(part, coverage_of(part))
        if mask is None:
            mask = b
        elif part.join == "add":
            mask = mask + b - mask * b
        elif part.join == "subtract":
            mask = mask * (np.float32(1.0) - b)
        else:
            mask = mask * b
    return np.zeros(shape, dtype=np.float32) if mask is None else mask
