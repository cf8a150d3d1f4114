"""Casts that use the mask of another: each is given it, as it stands in the same recipe.

Masks may lend on, and one may be lent more than once, so what a mask comes to can double at every step:
its depth and its size with all that it borrows are bounded before anything is done with it.
"""

from collections.abc import Mapping
from dataclasses import dataclass

from nubilis.errors import RecipeError
from nubilis.mask.combine import Lent, Mask

MOST_DEEP = 8  # masks that lend to each other in a row
MOST_PARTS = 1000  # of one mask, with those of all that it borrows


@dataclass(frozen=True)
class _Filled:
    """A mask with what it borrows; deep: how many masks in a row; parts: in all."""

    mask: Mask
    deep: int
    parts: int


def with_lent(masks: Mapping[str, Mask]) -> dict[str, Mask]:
    """Casts' masks by their ids, with those that they use filled in. Raises RecipeError when one is
    missing, when masks use each other in a circle, or when they come to too much."""
    known: dict[str, _Filled] = {}
    return {cast_id: _filled(masks, cast_id, (), known).mask for cast_id in masks}


def _filled(
    masks: Mapping[str, Mask], cast_id: str, users: tuple[str, ...], known: dict[str, _Filled]
) -> _Filled:
    if cast_id in known:
        return known[cast_id]
    if cast_id not in masks:
        raise RecipeError("a mask uses that of a cast which is not there")
    if cast_id in users:
        raise RecipeError("masks use each other in a circle")
    mask = masks[cast_id]
    lenders = {p.cast for p in mask.parts if isinstance(p, Lent)}
    lent = {name: _filled(masks, name, (*users, cast_id), known) for name in sorted(lenders)}
    deep = 1 + max((f.deep for f in lent.values()), default=0)
    if deep > MOST_DEEP:
        raise RecipeError(f"masks may lend to each other {MOST_DEEP} deep at most")
    count = sum(lent[p.cast].parts if isinstance(p, Lent) else 1 for p in mask.parts)
    if count > MOST_PARTS:
        raise RecipeError(f"a mask may have {MOST_PARTS} parts at most, with those that it borrows")
    known[cast_id] = _Filled(_with(mask, lent), deep, count)
    return known[cast_id]


def _with(mask: Mask, lent: Mapping[str, _Filled]) -> Mask:
    if not lent:
        return mask
    parts = tuple(
        p.model_copy(update={"mask": lent[p.cast].mask}) if isinstance(p, Lent) else p
        for p in mask.parts
    )
    return mask.model_copy(update={"parts": parts})
