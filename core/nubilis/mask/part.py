"""What every kind of mask part shares."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import ClassVar, Literal, Self

from nubilis.arrays import Codes, Floats
from nubilis.mask.edges import Trace
from nubilis.mask.move import Move
from nubilis.mask.sight import Look, no_codes
from nubilis.photo.pyramid import Region, View
from nubilis.recipe.asset import Asset
from nubilis.recipe.model import Identifier, Model, Share

Join = Literal["add", "subtract", "intersect"]


@dataclass(frozen=True, eq=False)
class Given:
    """What a part is drawn from besides the view. traces: of its looks, in their order; codes_of: code
    values (h, w) of a picture."""

    traces: tuple[Trace, ...] = ()
    codes_of: Callable[[Asset], Codes] = no_codes


NOTHING = Given()


class Part(Model):
    """One part of a mask. title: what the kind is called; join: how it meets what stands before it; the first
    part's is 'add'."""

    title: ClassVar[str] = ""

    id: Identifier
    join: Join = "add"
    on: bool = True
    invert: bool = False
    strength: Share = 1.0

    @property
    def bare(self) -> Self:
        """The same but for what joining does with it, which changes nothing of what is drawn or found."""
        rest = {"id": "bare", "join": "add", "on": True, "invert": False, "strength": 1.0}
        return self.model_copy(update=rest)

    @property
    def has_places(self) -> bool:
        """Whether it lies where it was drawn, and not where the photo's own colours say."""
        return self.moved(Move(dx=0.1)) != self

    def moved(self, move: Move) -> Self:
        """On another photo of the same things, where they lie elsewhere. Unchanged without places of its
        own."""
        return self

    @property
    def looks(self) -> tuple[Look, ...]:
        """What must be found in the photo before the part can be drawn."""
        return ()

    def coverage(self, rgb_linear: Floats, view: View, given: Given = NOTHING) -> Floats:
        """0..1, float32 (h, w), before invert and strength; rgb_linear: the settled view."""
        raise NotImplementedError

    def reach(self, size: tuple[int, int]) -> Region:
        """Beyond this region of a photo of `size` (width, height) the coverage is 0."""
        return 0, 0, *size
