"""Casts that several photos share: what is changed on one is carried over to the others, except what was
touched up there."""

import hashlib
from collections.abc import Sequence
from typing import Annotated, Protocol, TypeVar

from pydantic import BaseModel, Field

from nubilis.recipe.model import Identifier, Model

REFINE = "refine"  # stands for the refining of the mask, which has no id
_Mark = Annotated[str, Field(max_length=16)]


class Link(Model):
    """id: of the cast that all of them were copied from; came: what its parts and remedies were when they
    were last brought here, by id, each as a short hash."""

    id: Identifier
    came: Annotated[tuple[tuple[Identifier, _Mark], ...], Field(max_length=200)] = ()


class Named(Protocol):
    """A part or a remedy."""

    @property
    def id(self) -> str: ...


Item = TypeVar("Item", bound=Named)


def mark_of(item: object) -> str:
    """Tells two states of a part or a remedy apart."""
    assert isinstance(item, BaseModel)
    return hashlib.sha256(item.model_dump_json().encode()).hexdigest()[:12]


def carried(
    source: Sequence[Item], target: Sequence[Item], came: dict[str, str]
) -> tuple[Item, ...]:
    """The target's items after the source's changes. came: marks of what both last had in common.

    What was changed, added or deleted at the target stays so.
    """
    here, there = ({i.id: i for i in items} for items in (target, source))
    out = []
    for item in source:
        own = here.get(item.id)
        if own is not None and mark_of(own) != came.get(item.id):
            out.append(own)
        elif own is not None or item.id not in came:
            out.append(item)
    for own in target:
        if own.id not in there and mark_of(own) != came.get(own.id):
            out.append(own)
    return tuple(out)
