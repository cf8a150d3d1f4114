"""Which casts of a recipe act, in which order, and what acts before what."""

from collections.abc import Sequence
from itertools import takewhile
from typing import Any

from nubilis.mask.combine import Mask
from nubilis.mask.whole import Whole
from nubilis.recipe.document import Cast, Recipe

LOOK = "look"  # what stands for the photo's look among casts


def active_casts(recipe: Recipe) -> list[Cast]:
    """Casts that do something, switched on and with a remedy that is, as the base shows their samples, in the
    order in which they act; the photo's look, where it acts, is among them as a cast of all of it."""
    acting = [c for c in recipe.settled_casts() if c.on and any(r.on for r in c.remedies)]
    before, after = ([c for c in acting if c.after_look == later] for later in (False, True))
    if recipe.look is None or not recipe.look.acts:
        return [*before, *after]
    # Not validated: no recipe has such a cast.
    over_all = Mask(parts=(Whole(id="whole"),))
    remedies: tuple[Any, ...] = (recipe.look,)
    look = Cast.model_construct(id=LOOK, mask=over_all, remedies=remedies)
    return [*before, look, *after]


def acting_casts(recipe: Recipe) -> list[Cast]:
    """The same without the photo's look, which is no cast of a person's."""
    return active_casts(recipe.model_copy(update={"look": None}))


def casts_until(recipe: Recipe, cast_id: str) -> list[Cast]:
    """Active casts up to and with one; empty when that one is not active."""
    casts = active_casts(recipe)
    at = next((i for i, c in enumerate(casts) if c.id == cast_id), -1)
    return casts[: at + 1]


def acting_before(casts: Sequence[Cast], remedy: str) -> list[Cast]:
    """What acts before a remedy of the last of some active casts: the earlier casts, and that one with its
    earlier remedies."""
    cast = casts[-1]
    earlier = tuple(r for r in takewhile(lambda r: r.id != remedy, cast.remedies) if r.acts)
    before_it = [cast.model_copy(update={"remedies": earlier})] if earlier else []
    return [*casts[:-1], *before_it]


def roughly(cast: Cast) -> Cast:
    """With amounts in quarters: noise need not be measured anew at every step of a handle."""
    remedies = tuple(
        r.model_copy(update={"amount": max(round(4.0 * r.amount) / 4.0, 0.25)})
        for r in cast.remedies
    )
    return cast.model_copy(update={"remedies": remedies})
