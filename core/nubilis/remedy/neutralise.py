"""Neutralise: take a cast off, as much as each pixel carries of it."""

from typing import ClassVar, Literal

from nubilis.arrays import Floats
from nubilis.cast.take_off import take_off
from nubilis.recipe.model import Share
from nubilis.remedy.remedy import Ground, Remedy


class Neutralise(Remedy):
    """Takes the cast off. amount: 1 takes off the whole measured cast; follow: 1 as much as each pixel
    carries of it, 0 the same everywhere in the mask; soften: how far the detail of that amount is left out;
    hold_lightness: how much of each pixel's luminance is kept."""

    follows_cast: ClassVar[bool] = True
    holds_guards: ClassVar[bool] = True
    title: ClassVar[str] = "neutralise"

    kind: Literal["neutralise"] = "neutralise"
    follow: Share = 1.0
    soften: Share = 0.0
    hold_lightness: Share = 1.0

    def applied(self, rgb: Floats, mask: Floats, ground: Ground) -> Floats:
        for shift, amount in ground.passes(self.soften):
            how = self.amount, self.follow, self.hold_lightness
            rgb = take_off(rgb, mask, amount, shift, *how)
        return rgb
