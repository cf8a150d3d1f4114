"""Casts that use the mask of another: each is given it, as it stands in the same recipe."""

from collections.abc import Mapping

from nubilis.errors import RecipeError
from nubilis.mask.combine import Lent, Mask


def with_lent(masks: Mapping[str, Mask], cast_id: str) -> Mask:
    """A cast's mask with those that it uses filled in. Raises RecipeError when one is missing, or when
    masks use each other in a circle."""
    return _filled(masks, cast_id, ())


def _filled(masks: Mapping[str, Mask], cast_id: str, users: tuple[str, ...]) -> Mask:
    mask = masks[cast_id]
    if not any(isinstance(p, Lent) for p in mask.parts):
        return mask
    parts = []
    for part in mask.parts:
        if isinstance(part, Lent):
            if part.cast not in masks:
                raise RecipeError("a mask uses that of a cast which is not there")
            if part.cast in (*users, cast_id):
                raise RecipeError("masks use each other in a circle")
            lent = _filled(masks, part.cast, (*users, cast_id))
            part = part.model_copy(update={"mask": lent})
        parts.append(part)
    return mask.model_copy(update={"parts": tuple(parts)})
