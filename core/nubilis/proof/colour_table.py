"""The colour part of a treatment as a table, and what a table cannot carry."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import partial

import numpy as np

from nubilis.arrays import Floats
from nubilis.colour.cielab import lab_planes
from nubilis.colour.difference import difference_plane
from nubilis.colour.profile import Profile, srgb
from nubilis.engine.acting import active_casts, casts_until
from nubilis.engine.engine import Engine
from nubilis.engine.reading import look_of
from nubilis.errors import PlaceError
from nubilis.look.cube import Cube
from nubilis.look.through import entries_of, through_codes
from nubilis.recipe.document import Cast, Recipe
from nubilis.remedy.alone import colours_alone

SIZES = (17, 33, 65)
EVERY = 4  # pixels of the analysis size from one colour that is compared to the next
_PLACED = {
    "wash": "the strokes of a wash",
    "calm": "noise",
    "restore": "what is restored",
}


@dataclass(frozen=True, eq=False)
class ColourTable:
    """left_out: what the table cannot carry; mean, largest: CIEDE2000 between the table and the engine on the
    photo's own colours."""

    cube: Cube
    left_out: tuple[str, ...]
    mean: float
    largest: float


def colour_table(
    engine: Engine,
    recipe: Recipe,
    cast_id: str | None = None,
    size: int = 33,
    space: Profile | None = None,
) -> ColourTable:
    """Of one cast by itself, else of base, casts and look together, in the codes of a space, else sRGB's.
    Raises PlaceError."""
    space = space or srgb()
    if size not in SIZES:
        raise PlaceError(
            f"a table has {', '.join(map(str, SIZES[:-1]))} or {SIZES[-1]} entries a side"
        )
    casts = active_casts(recipe)
    if cast_id is not None and not any(c.id == cast_id for c in casts):
        raise PlaceError("the recipe has no such cast that acts")
    chosen = [c for c in casts if cast_id in (None, c.id)]

    def seen(rgb: Floats) -> Floats:
        made = rgb if cast_id else recipe.state.applied(rgb)
        for cast in chosen:
            made = _after(engine, recipe, cast, made)
        return made

    cube = Cube(_title(recipe, cast_id, space), 3, entries_of(seen, size, space))
    came = engine.came(engine.analysis_view)[:, ::EVERY, ::EVERY].reshape(3, 1, -1)
    came = np.ascontiguousarray(came)
    by_table = through_codes(cube, space, came[:, 0])[:, None]
    off = difference_plane(*(lab_planes(np.maximum(v, 0.0)) for v in (seen(came), by_table)))
    return ColourTable(cube, _left_out(chosen), float(off.mean()), float(off.max()))


def _after(engine: Engine, recipe: Recipe, cast: Cast, rgb: Floats) -> Floats:
    """Colours after a cast, as if each carried all of it."""
    state = recipe.state
    casts = casts_until(recipe, cast.id)
    shifts = [step.shift for step in engine.passes(state, casts)] if cast.follows else []
    return colours_alone(
        cast.remedies,
        rgb,
        engine.to_device,
        evidence_for=partial(engine.evidence, state, casts),
        shifts=shifts,
        measured=lambda statistic: engine.measured(statistic, state, cast.mask),
        table=engine.table,
    )


def _title(recipe: Recipe, cast_id: str | None, space: Profile) -> str:
    name = next((c.name for c in recipe.casts if c.id == cast_id), "")
    name = name or ("a cast" if cast_id else "a treatment")
    told = name if space is srgb() else f"{name}, in {space.name}"
    return told.replace('"', "")


def _left_out(casts: Sequence[Cast]) -> tuple[str, ...]:
    """In plain words, each once."""
    found: list[str] = []
    for cast in casts:
        if look_of(cast):
            continue
        found.append("masks")
        if cast.follows:
            found.append("amounts that differ from place to place")
        for remedy in cast.remedies:
            if not remedy.acts:
                continue
            found.append(_PLACED.get(remedy.kind, ""))
            if remedy.kind == "tone" and (remedy.local or remedy.detail):
                found.append("local contrast and detail")
            if remedy.kind == "even-out":
                found.append("evening out")
    return tuple(dict.fromkeys(f for f in found if f))
