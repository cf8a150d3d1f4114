"""What two states of a recipe differ in, in words."""

from collections.abc import Iterator, Sequence
from typing import Any

from pydantic import BaseModel

from nubilis.mask.brush import Brush
from nubilis.mask.combine import Mask
from nubilis.recipe.document import Cast, Recipe
from nubilis.recipe.kinds import letter
from nubilis.recipe.link import Item
from nubilis.remedy.look import Look
from nubilis.remedy.wash import Wash

# Told in degrees, kelvin, stops or as they are; every other number is told in per cent.
_UNITS = {
    "temperature": " K",
    "tint": "",
    "exposure": " EV",
    "hue": "°",
    "angle": "°",
    "tolerance": "",
}
_SILENT = {"id", "link"}


def differences(before: Recipe, after: Recipe) -> list[str]:
    """One short sentence each, casts under the letters that they have after. Empty when nothing does."""
    told = [f"Base: {text}" for text in _changed_fields(before.base, after.base)]
    told += _of_look(before.look, after.look)
    known = letters(before.casts) | letters(after.casts)
    for name, old, new in _matched(before.casts, after.casts):
        title = f"Cast {known[name]}"
        if old is None:
            told.append(f"{title} added")
        elif new is None:
            told.append(f"{title} deleted")
        elif old != new:
            told += [f"{title}: {text}" for text in _of_cast(old, new)]
    if len(after.dismissed) > len(before.dismissed):
        told.append("A finding dismissed")
    elif len(after.dismissed) < len(before.dismissed):
        told.append("A dismissed finding taken back")
    if after.answered != before.answered:
        told.append("The finder's question " + ("answered" if after.answered else "open again"))
    return told


def _of_look(old: Look | None, new: Look | None) -> Iterator[str]:
    if old is None or new is None:
        if one := old or new:
            yield f"Look {_named(one)} {'laid' if old is None else 'taken away'}"
    elif old.table != new.table:
        yield f"Look {_named(new)} laid"
    else:
        yield from (f"Look: {text}" for text in _changed_fields(old, new))


def _named(look: Look) -> str:
    return look.table.name or "of a table"


def letters(casts: Sequence[Cast]) -> dict[str, str]:
    """By the casts' ids."""
    return {c.id: letter(i) for i, c in enumerate(casts)}


def _matched(
    before: Sequence[Item], after: Sequence[Item]
) -> Iterator[tuple[str, Item | None, Item | None]]:
    """Items of one id together, those that are there in their order, then those that are gone."""
    old, new = ({i.id: i for i in items} for items in (before, after))
    for name, item in new.items():
        yield name, old.get(name), item
    for name, item in old.items():
        if name not in new:
            yield name, item, None


def _of_cast(old: Cast, new: Cast) -> Iterator[str]:
    if old.on != new.on:
        yield "switched on" if new.on else "switched off"
    if old.name != new.name:
        yield f"named {new.name}" if new.name else "name taken away"
    if old.after_look != new.after_look:
        yield "put after the look" if new.after_look else "put before the look"
    if old.link and not new.link:
        yield "link broken"
    for _, one, two in _matched(old.pairs, new.pairs):
        if one is None:
            yield "sampled"
        elif two is None:
            yield "sample deleted"
        elif one.tainted != two.tainted:
            yield "sample changed"
        elif one.reference != two.reference:
            yield "reference chosen" if one.reference is None else "reference changed"
        elif one != two:
            yield "pair changed"
    for _, keep, kept in _matched(old.guards, new.guards):
        if keep != kept:
            yield (
                "colour kept"
                if keep is None
                else "kept colour changed"
                if kept
                else "colour kept no more"
            )
    for _, earlier, touch in _matched(old.touches, new.touches):
        if earlier != touch:
            yield "touched" if earlier is None else "touch changed" if touch else "touch taken away"
    yield from _of_mask(old.mask, new.mask)
    for _, was, now in _matched(old.remedies, new.remedies):
        yield from _of_item(was, now)
    if _order(old.remedies) != _order(new.remedies) and set(_order(old.remedies)) == set(
        _order(new.remedies)
    ):
        yield "remedies in another order"


def _order(items: Sequence[Item]) -> list[str]:
    return [i.id for i in items]


def _of_mask(old: Mask, new: Mask) -> Iterator[str]:
    for _, one, two in _matched(old.parts, new.parts):
        if isinstance(one, Brush) and isinstance(two, Brush) and one.strokes != two.strokes:
            yield "mask painted" if len(two.strokes) > len(one.strokes) else "stroke taken back"
        elif one is None and isinstance(two, Brush) and two.strokes:
            yield "mask painted"
        else:
            yield from _of_item(one, two, "mask, ")
    yield from (f"mask, {text}" for text in _changed_fields(old.refine, new.refine))


def _of_item(one: Any, two: Any, where: str = "") -> Iterator[str]:
    """Of a part or a remedy, either of which may be missing."""
    if one is None or two is None:
        yield f"{where}{(one or two).title} {'added' if one is None else 'deleted'}"
    elif isinstance(one, Wash) and isinstance(two, Wash) and one.strokes != two.strokes:
        more = len(two.strokes) - len(one.strokes)
        yield (
            "washed" if more > 0 else "wash, stroke taken back" if more else "wash, stroke changed"
        )
    elif one != two:
        texts = list(_changed_fields(one, two))
        yield from (f"{where}{two.title} {text}" for text in texts or ["changed"])


def _changed_fields(old: BaseModel, new: BaseModel) -> Iterator[str]:
    """Numbers with their values, everything else as changed."""
    for name in type(new).model_fields:
        one, two = getattr(old, name), getattr(new, name)
        if one == two or name in _SILENT:
            continue
        label = name.replace("_", " ")
        if name == "on":
            yield "switched on" if two else "switched off"
        elif isinstance(two, bool):
            yield f"{label} {'on' if two else 'off'}"
        elif isinstance(two, float | int) and isinstance(one, float | int):
            yield f"{label} {_told(name, one)} → {_told(name, two)}"
        elif isinstance(two, str) and isinstance(one, str) and name in ("join", "of"):
            yield f"{label} {two}"
        else:
            yield f"{label} changed"


def _told(name: str, value: float) -> str:
    unit = _UNITS.get(name)
    if unit is None:
        return f"{value * 100:.4g} %"
    return f"{value:.4g}{unit}"
