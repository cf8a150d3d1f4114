"""What every kind of remedy shares, and what it is told about the place where it acts."""

from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property
from typing import Annotated

from pydantic import Field

from nubilis.arrays import Floats
from nubilis.recipe.base import Identifier, Model
from nubilis.remedy.direction import Pair

Amount = Annotated[float, Field(ge=0.0, le=1.5, allow_inf_nan=False)]
Rgb = tuple[float, float, float]


@dataclass(frozen=True)
class Evidence:
    """What was sampled for a cast, as the base shows it: pairs, and colours that must stay.

    carried: how much of the cast each pair's sample carries; empty: all the same.
    """

    pairs: tuple[Pair, ...] = ()
    guards: tuple[Rgb, ...] = ()
    carried: tuple[float, ...] = ()


@dataclass(frozen=True, eq=False)
class Place:
    """One region of a photo. came, settled: as it came, and under the base, (3, h, w) linear Rec. 2020;
    evidence_for: the samples of the cast as the remedy of an id finds them, after what acts earlier;
    passes: shift and amount (h, w) of each direction of the cast, for a share of softness;
    lightness_of: OKLab lightness (h, w) without its detail, worked out when asked for."""

    came: Floats
    settled: Floats
    evidence_for: Callable[[str], Evidence]
    passes: Callable[[float], list[tuple[tuple[float, float], Floats]]]
    lightness_of: Callable[[], Floats]

    @cached_property
    def lightness(self) -> Floats:
        return self.lightness_of()


class Remedy(Model):
    """amount: 0 leaves every pixel bit for bit as it is, 1 is the whole effect."""

    id: Identifier
    on: bool = True
    amount: Amount = 1.0

    def applied(self, rgb: Floats, mask: Floats, place: Place) -> Floats:
        """The region with the remedy, float32 (3, h, w), bit for bit as before where the mask is 0."""
        raise NotImplementedError
