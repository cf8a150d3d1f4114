"""What every kind of remedy shares, and what it is told about the region where it acts."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Annotated, Any, ClassVar, Protocol, Self

import numpy as np
from pydantic import Field

from nubilis.arrays import Floats
from nubilis.cast.direction import MeasuredPair
from nubilis.cast.field import AmountField
from nubilis.look.cube import Cube
from nubilis.mask.edges import Trace
from nubilis.mask.move import Move
from nubilis.mask.sight import Look
from nubilis.photo.pyramid import View
from nubilis.recipe.model import Identifier, Model
from nubilis.remedy.tint import matrices, within_gamut

Amount = Annotated[float, Field(ge=0.0, le=1.5, allow_inf_nan=False)]
Rgb = tuple[float, float, float]


@dataclass(frozen=True)
class Evidence:
    """What was sampled for a cast, as the base shows it: pairs, and colours that must stay.

    carried: how much of the cast each pair's sample carries; empty: all the same.
    """

    pairs: tuple[MeasuredPair, ...] = ()
    guards: tuple[Rgb, ...] = ()
    carried: tuple[float, ...] = ()


@dataclass(frozen=True)
class Statistic:
    """Something that a remedy wants measured on the photo as a whole: once, at the analysis size, whatever
    the view, so that every region is treated alike.

    measure: of the settled photo, float32 (3, h, w) linear Rec. 2020; of_mask: of that and of the cast's
    mask (h, w), on which it then depends too.
    """

    name: str
    measure: Callable[..., Any]
    of_mask: bool = False

    def of(self, rgb_linear: Floats, mask: Callable[[], Floats]) -> Any:
        """Measured; the mask is asked for only where it counts."""
        return self.measure(rgb_linear, *([mask()] if self.of_mask else []))


class Drawing(Protocol):
    """What is drawn over the photo whatever lies below, and kept: its own key. looks: what it wants found in
    the photo first."""

    @property
    def looks(self) -> tuple[Look, ...]: ...

    def planes(
        self,
        rgb: Callable[[], Floats],
        view: View,
        traces: Sequence[Trace],
        drawn: "Callable[[Drawing], Floats]",
    ) -> Floats:
        """Over a view; rgb: the settled photo there; traces: of its looks; drawn: another drawing there."""
        ...


@dataclass(frozen=True)
class Grain:
    """How much noise there is: standard deviations of the planes of opponent.py. levels: of light, 0..1 (n,),
    at which it was measured; inside: of what is masked, (3, n); around: of what is not, as light as that."""

    levels: tuple[float, ...]
    inside: tuple[tuple[float, ...], ...]
    around: tuple[tuple[float, ...], ...]

    @property
    def seen_inside(self) -> tuple[float, float]:
        """Of lightness and of colour, about in units of L*."""
        return _seen(self.inside)

    @property
    def seen_around(self) -> tuple[float, float]:
        return _seen(self.around)


def _seen(noise: tuple[tuple[float, ...], ...]) -> tuple[float, float]:
    light, red, green = (float(np.mean(row)) for row in noise)
    # L* is 116 times the cube root; the light plane is the sum of three of them over its root.
    return 116.0 * light / 3.0**0.5, 116.0 * float(np.hypot(red, green)) / 2.0**0.5


@dataclass(frozen=True, eq=False)
class Ground:
    """One region of a photo. came, settled: as it came, and as it stands before its casts, (3, h, w) linear
    Rec. 2020; evidence_for: the samples of the cast as the remedy of an id finds them, after what acts
    earlier; passes: shift and amount (h, w) of each direction of the cast, for a share of softness;
    measured: a statistic that the remedy declares; read: a field (h, w) that was measured; drawn: the planes
    of a drawing, None where none can be; grain_for: the noise as the remedy of an id finds it, None when
    there is nothing to measure it on; before_look: as it was before the photo's look, None where none acts
    before this cast; table: by its SHA-256; to_device: linear Rec. 2020 to the photo's own primaries; view:
    of the region; scale: pixels of the view for one of the photo."""

    came: Floats
    settled: Floats
    evidence_for: Callable[[str], Evidence]
    passes: Callable[[float], list[tuple[tuple[float, float], Floats]]]
    measured: Callable[[Statistic], Any]
    read: Callable[[AmountField], Floats]
    drawn: Callable[[Drawing], Floats | None]
    grain_for: Callable[[str], Grain | None]
    before_look: Callable[[], Floats | None]
    table: Callable[[str], Cube]
    to_device: Floats
    view: View
    scale: float


class Remedy(Model):
    """amount: 0 leaves every pixel bit for bit as it is, 1 is the whole effect.

    title: what the kind is called; follows_cast: whether it asks how much of the cast each place carries;
    statistics: what it wants measured; measures_grain: whether it asks for the noise; margin: pixels of the
    photo around each place that it looks at; holds_guards: whether it sees to the kept colours itself; else
    they are taken out of its mask.
    """

    title: ClassVar[str] = ""
    follows_cast: ClassVar[bool] = False
    statistics: ClassVar[tuple[Statistic, ...]] = ()
    measures_grain: ClassVar[bool] = False
    margin: ClassVar[int] = 0
    holds_guards: ClassVar[bool] = False

    id: Identifier
    on: bool = True
    amount: Amount = 1.0

    @property
    def acts(self) -> bool:
        return self.on and self.amount > 0.0

    @property
    def aim(self) -> Rgb | None:
        """The colour that it draws others towards, linear Rec. 2020, for whoever shows it."""
        return None

    def abroad(self) -> Self:
        """For another photo."""
        return self

    def moved(self, move: Move) -> Self:
        """For another photo of the same things, where they lie elsewhere."""
        return self

    def applied(self, rgb: Floats, mask: Floats, ground: Ground) -> Floats:
        """The region with the remedy, float32 (3, h, w), bit for bit as before where the mask is 0. At the
        region's rim, its margin wide, what it looks at is not all there."""
        raise NotImplementedError


def applied_in_order(
    remedies: Sequence[Remedy],
    rgb: Floats,
    mask: Floats,
    ground: Ground,
    kept: Floats | None = None,
) -> Floats:
    """A region with all that act; `rgb` itself when none does. What one of them moves out of the photo's
    gamut gives way in chroma. kept: where colours must stay, (h, w) 0..1."""
    free = mask if kept is None else mask * (np.float32(1.0) - np.clip(kept, 0.0, 1.0))
    m = matrices(ground.to_device)
    for remedy in remedies:
        if remedy.acts:
            where = mask if remedy.holds_guards else free
            moved = remedy.applied(rgb, where, ground)
            if moved is not rgb:
                within_gamut(moved.shape[1], rgb, moved, where, m)
            rgb = moved
    return rgb
