"""Refining a whole mask: specks and pinholes away, grown or shrunk, softened. In this order."""

import math
from typing import Annotated

import numpy as np
from pydantic import Field

from nubilis.arrays import Floats
from nubilis.mask.soften import GRID, blurred, grown, room_of_blur
from nubilis.recipe.base import Model

_Small = Annotated[float, Field(ge=0.0, le=0.05, allow_inf_nan=False)]


class Refine(Model):
    """All are fractions of the long edge. clean: width of the specks that go and of the pinholes that
    are filled; grow: by how much the edge moves outwards, inwards below 0; soften: of the edge."""

    clean: _Small = 0.0
    grow: Annotated[float, Field(ge=-0.05, le=0.05, allow_inf_nan=False)] = 0.0
    soften: _Small = 0.0

    @property
    def active(self) -> bool:
        return bool(self.clean or self.grow or self.soften)

    def room(self, long_edge: int) -> int:
        """How far around a place the mask must be known, in pixels of that zoom."""
        blur = room_of_blur(self._sigma(long_edge)) if self.soften else 0.0
        return math.ceil((2.0 * self.clean + abs(self.grow)) * long_edge + blur) + GRID

    def _sigma(self, long_edge: int) -> float:
        return self.soften * long_edge / 2.0

    def applied(self, mask: Floats, long_edge: int) -> Floats:
        """float32 (h, w) 0..1, at a zoom where the whole photo's long edge is `long_edge` pixels."""
        speck = self.clean * long_edge / 2.0
        if speck >= 0.5:
            mask = grown(grown(mask, -speck), speck)
            mask = grown(grown(mask, speck), -speck)
        if abs(self.grow) * long_edge >= 0.5:
            mask = grown(mask, self.grow * long_edge)
        sigma = self._sigma(long_edge)
        if sigma >= 0.3:
            mask = blurred(mask, sigma)
        return np.clip(mask, 0.0, 1.0)
