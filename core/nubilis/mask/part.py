"""What every kind of mask part shares."""

from typing import Literal

from nubilis.arrays import Floats
from nubilis.mask.edges import Trace
from nubilis.mask.sight import Look
from nubilis.photo.pyramid import Region, View
from nubilis.recipe.base import Identifier, Model, Share

Join = Literal["add", "subtract", "intersect"]


class Part(Model):
    """One part of a mask. join: how it meets what stands before it; the first part's is 'add'."""

    id: Identifier
    join: Join = "add"
    on: bool = True
    invert: bool = False
    strength: Share = 1.0

    @property
    def looks(self) -> tuple[Look, ...]:
        """What must be found in the photo before the part can be drawn."""
        return ()

    def coverage(self, rgb_linear: Floats, view: View, traces: tuple[Trace, ...] = ()) -> Floats:
        """0..1, float32 (h, w), before invert and strength; rgb_linear: the settled view; traces: of
        its looks, in their order."""
        raise NotImplementedError

    def reach(self, size: tuple[int, int]) -> Region:
        """Beyond this region of a photo of `size` (width, height) the coverage is 0."""
        return 0, 0, *size
