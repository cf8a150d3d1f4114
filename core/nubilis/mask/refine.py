"""Refining a whole mask: specks and pinholes away, grown or shrunk, drawn to the photo's edges, softened.

In this order.
"""

import math
from collections.abc import Callable
from typing import Annotated

import numpy as np
from pydantic import Field

from nubilis.arrays import Floats
from nubilis.mask.edges import followed
from nubilis.mask.soften import GRID, blurred, grown, room_of_blur
from nubilis.photo.pyramid import View
from nubilis.recipe.model import Model

EDGE_CONTRAST = 4e-4  # variance of the root of linear light from which on a change is an edge

_Small = Annotated[float, Field(ge=0.0, le=0.05, allow_inf_nan=False)]


class Refine(Model):
    """All are fractions of the long edge. clean: width of the specks that go and of the pinholes that
    are filled; grow: by how much the edge moves outwards, inwards below 0; follow: how far it is drawn to
    the photo's edges, which makes it smooth between them; soften: of the edge."""

    clean: _Small = 0.0
    grow: Annotated[float, Field(ge=-0.05, le=0.05, allow_inf_nan=False)] = 0.0
    follow: _Small = 0.0
    soften: _Small = 0.0

    @property
    def active(self) -> bool:
        return bool(self.clean or self.grow or self.follow or self.soften)

    def room(self, long_edge: int) -> int:
        """How far around a place the mask must be known, in pixels of that zoom."""
        blur = room_of_blur(self._sigma(long_edge)) if self.soften else 0.0
        wide = 2.0 * self.clean + abs(self.grow) + 2.5 * self.follow
        return math.ceil(wide * long_edge + blur) + GRID

    def _sigma(self, long_edge: int) -> float:
        return self.soften * long_edge / 2.0

    def applied(self, mask: Floats, view: View, rgb_of: Callable[[View], Floats]) -> Floats:
        """A mask over a view, float32 (h, w) 0..1. rgb_of: the settled photo in a view, asked for only
        where its edges are followed."""
        long_edge = view.long_edge
        speck = self.clean * long_edge / 2.0
        if speck >= 0.5:
            mask = grown(grown(mask, -speck), speck)
            mask = grown(grown(mask, speck), -speck)
        if abs(self.grow) * long_edge >= 0.5:
            mask = grown(mask, self.grow * long_edge)
        if self.follow * long_edge >= 0.5:
            reach = self.follow * long_edge
            mask = followed(rgb_of(view), mask, reach, EDGE_CONTRAST, view.region[:2])
        sigma = self._sigma(long_edge)
        if sigma >= 0.3:
            mask = blurred(mask, sigma)
        return np.clip(mask, 0.0, 1.0)
