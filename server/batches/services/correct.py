"""A mask corrected by hand on one frame, which makes it a key."""

from collections.abc import Sequence
from uuid import uuid4

import numpy as np

from batches.models import Proposal
from config.errors import Refused
from nubilis.arrays import Floats
from nubilis.engine.engine import Engine
from nubilis.mask.brush import Brush, Stroke
from nubilis.mask.combine import AnyPart, Mask
from nubilis.mask.picture import Picture
from nubilis.photo.grey import grey_png
from nubilis.recipe.document import Cast, Recipe
from nubilis.series.carry import FINE
from shoots.store import keep_asset
from studio.engines import engines


def correct(row: Proposal, cast_id: str, strokes: Sequence[Stroke]) -> None:
    """Paint over a cast's mask, or take away. What was followed is painted on itself; what is drawn gets
    parts of its own. Raises Refused (404, 409)."""
    if row.taken is not None:
        raise Refused("This is taken; correct the photo itself, and follow anew", 409)
    recipe = row.recipe
    cast = next((c for c in recipe.casts if c.id == cast_id), None)
    if cast is None:
        raise Refused("There is no such cast", 404)
    followed = next((p for p in cast.mask.parts if isinstance(p, Picture)), None)
    if followed:
        painted = _painted(row, recipe, followed, strokes)
        parts: tuple[AnyPart, ...] = tuple(
            painted if p.id == followed.id else p for p in cast.mask.parts
        )
    else:
        parts = (*cast.mask.parts, *_brushes(strokes))
    now = cast.model_copy(
        update={"on": True, "mask": cast.mask.model_copy(update={"parts": parts})}
    )
    _keep(row, recipe, now)


def let_go(row: Proposal) -> None:
    """No key any more: it is followed again with the rest."""
    Proposal.objects.filter(id=row.id).update(key=False, corrected=False)


def _keep(row: Proposal, recipe: Recipe, cast: Cast) -> None:
    casts = tuple(cast if c.id == cast.id else c for c in recipe.casts)
    document = recipe.model_copy(update={"casts": casts}).model_dump_json()
    told = {
        "key": True,
        "corrected": True,
        "to_check": False,
        "confidence": 1.0,
        "note": "Corrected by hand",
    }
    Proposal.objects.filter(id=row.id).update(document=document, **told)


def _brushes(strokes: Sequence[Stroke]) -> list[Brush]:
    brushes = []
    for join, erase in (("add", False), ("subtract", True)):
        own = tuple(s.model_copy(update={"erase": False}) for s in strokes if s.erase is erase)
        if own:
            brushes.append(Brush(id=uuid4().hex[:10], join=join, strokes=own))
    return brushes


def _painted(row: Proposal, recipe: Recipe, part: Picture, strokes: Sequence[Stroke]) -> Picture:
    """The picture with strokes laid over it in their order."""
    engine = engines.get(row.photo)
    view = engine.sight().fit(FINE)
    plane = engine.mask(Mask(parts=(part.bare,)), view, recipe.state)
    for stroke in strokes:
        pen = _pen(engine, stroke, recipe)
        plane = plane * (1.0 - pen) if stroke.erase else np.maximum(plane, pen)
    data = grey_png((plane * 255.0 + 0.5).astype(np.uint8))
    return part.model_copy(update={"asset": keep_asset(data, row.photo)})


def _pen(engine: Engine, stroke: Stroke, recipe: Recipe) -> Floats:
    brush = Brush(id="pen", strokes=(stroke.model_copy(update={"erase": False}),))
    view = engine.sight().fit(FINE)
    return engine.mask(Mask(parts=(brush,)), view, recipe.state)
