"""The one way from a photo and its casts to the pixels of a view.

What one looks at and what is delivered are made by the same lines: a view goes through the engine's cache, a
tile of delivery remembers only what it asked for itself.
"""

from collections.abc import Callable, Hashable, Sequence
from dataclasses import dataclass
from typing import Any, Protocol

from nubilis.arrays import Codes, Floats
from nubilis.cast.field import AmountField, read_amount
from nubilis.engine.treatment import Pass
from nubilis.look.cube import Cube
from nubilis.mask.combine import Lent, Mask
from nubilis.mask.edges import Trace
from nubilis.mask.part import Given, Part
from nubilis.photo.pyramid import View
from nubilis.recipe.asset import Asset
from nubilis.recipe.document import Cast
from nubilis.remedy.look import Look
from nubilis.remedy.remedy import (
    Drawing,
    Evidence,
    Grain,
    Ground,
    Remedy,
    Statistic,
    applied_in_order,
)
from nubilis.settle.state import Settled

Keep = Callable[[Hashable, Callable[[], Floats]], Floats]


class Known(Protocol):
    """What is worked out on the photo as a whole, whatever the view. Casts: active ones, up to the one that
    is meant."""

    @property
    def size(self) -> tuple[int, int]: ...

    @property
    def to_device(self) -> Floats: ...

    def came(self, view: View) -> Floats: ...

    def codes_of(self, asset: Asset) -> Codes: ...

    def traces(self, part: Part | Drawing, state: Settled) -> tuple[Trace, ...]: ...

    def passes(self, state: Settled, casts: Sequence[Cast]) -> tuple[Pass, ...]: ...

    def evidence(self, state: Settled, casts: Sequence[Cast], remedy: str) -> Evidence: ...

    def guards(self, state: Settled, cast: Cast) -> AmountField | None: ...

    def grain(self, state: Settled, casts: Sequence[Cast], remedy: str) -> Grain | None: ...

    def measured(self, statistic: Statistic, state: Settled, mask: Mask) -> Any: ...

    def table(self, sha256: str) -> Cube: ...


def look_of(cast: Cast) -> Look | None:
    """The photo's look, where a cast stands for it: the engine takes it for a cast of all of the photo."""
    remedies: Sequence[Remedy] = cast.remedies
    return next((r for r in remedies if isinstance(r, Look)), None)


@dataclass(frozen=True, eq=False)
class Reading:
    """state: how the photo stands before its casts; keep: what is under a key, made when missing."""

    known: Known
    state: Settled
    keep: Keep

    def came(self, view: View) -> Floats:
        """The photo as it came, float32 (3, h, w) linear Rec. 2020. Raises PlaceError."""
        return self.keep(("came", view), lambda: self.known.came(view))

    def settled(self, view: View) -> Floats:
        """The photo as it stands before its casts, float32 (3, h, w) linear Rec. 2020. Raises PlaceError."""
        if not self.state.active:
            return self.came(view)
        return self.keep(("settled", self.state, view), lambda: self.state.applied(self.came(view)))

    def mask(self, mask: Mask, view: View) -> Floats:
        """A mask, 0..1, float32 (h, w). Its parts, and masks that it borrows, are kept one by one."""
        return mask.cover(view, self._coverage, self.settled)

    def _coverage(self, part: Part, view: View) -> Floats:
        if isinstance(part, Lent):
            lent = part.mask or Mask()
            return self.keep(("lent", lent, self.state, view), lambda: self.mask(lent, view))

        def make() -> Floats:
            given = Given(self.known.traces(part, self.state), self.known.codes_of)
            return part.coverage(self.settled(view), view, given)

        return self.keep((part.bare, self.state, view), make)

    def treated(self, casts: Sequence[Cast], rgb: Floats, view: View) -> Floats:
        """The last of some active casts on what the others left; `rgb` itself where it does nothing."""
        cast = casts[-1]
        mask = self.mask(cast.mask, view)
        if not mask.any():
            return rgb
        ground = self._ground(casts, mask, view)
        guards = self.known.guards(self.state, cast)
        kept = None if guards is None else ground.read(guards)
        return applied_in_order(cast.remedies, rgb, mask, ground, kept)

    def in_turn(self, chain: Sequence[Sequence[Cast]], view: View) -> Floats:
        """A view after several casts, each behind the ones before it; at the rim some remedies miss what they
        look at."""
        rgb = self.settled(view)
        for upto in chain:
            rgb = self.treated(upto, rgb, view)
        return rgb

    def amounts(
        self, casts: Sequence[Cast], view: View
    ) -> list[tuple[tuple[float, float], Floats]]:
        """How much of the last of some active casts lies where, for each of its directions: the shift of
        amount 1, log chroma, and the amount (h, w)."""
        mask = self.mask(casts[-1].mask, view)
        return self._ground(casts, mask, view).passes(0.0)

    def _ground(self, casts: Sequence[Cast], mask: Floats, view: View) -> Ground:
        before = self.settled(view)
        about = casts[-1].mask

        def read(field: AmountField) -> Floats:
            # Fields are made once and kept by the engine, so that each is its own name.
            return self.keep(
                ("field", field, about, view), lambda: read_amount(field, before, mask, view)
            )

        def passes(soften: float) -> list[tuple[tuple[float, float], Floats]]:
            steps = self.known.passes(self.state, casts)
            return [(step.shift, read(step.softened(soften))) for step in steps]

        def drawn(drawing: Drawing) -> Floats:
            def make() -> Floats:
                traces = self.known.traces(drawing, self.state)
                return drawing.planes(lambda: before, view, traces, drawn)

            return self.keep(("drawn", drawing, self.state, view), make)

        def before_look() -> Floats | None:
            at = next((i for i, c in enumerate(casts) if look_of(c)), None)
            if at is None:
                return None
            chain = [casts[: i + 1] for i in range(at)]
            key = "after", self.state, tuple(casts[:at]), view  # as the engine keeps it
            return self.keep(key, lambda: self.in_turn(chain, view))

        return Ground(
            came=self.came(view),
            settled=before,
            evidence_for=lambda remedy: self.known.evidence(self.state, casts, remedy),
            passes=passes,
            measured=lambda statistic: self.known.measured(statistic, self.state, about),
            read=read,
            drawn=drawn,
            grain_for=lambda remedy: self.known.grain(self.state, casts, remedy),
            before_look=before_look,
            table=self.known.table,
            to_device=self.known.to_device,
            view=view,
            scale=view.long_edge / max(self.known.size),
        )
