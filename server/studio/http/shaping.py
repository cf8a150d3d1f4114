"""What remedies that shape colours are set over; the browser only draws it."""

from ninja import Router

from config.operations import computes
from config.requests import Request
from config.schema import Schema
from nubilis.proof.shaping import PLANE_RANGE, shaping
from nubilis.recipe.document import Recipe
from nubilis.recipe.model import Place
from shoots.services.find import seen_photo
from studio.engines import engines
from studio.services.drawing import data_address

router = Router(tags=["studio"])


class ShapingIn(Schema):
    """remedy: one that shapes colours, of the cast; at: a place whose colour is asked for."""

    recipe: Recipe
    cast: str
    remedy: str
    at: Place | None = None


class ShapingOut(Schema):
    """As the core's Shaping has it; plane: a PNG as data address, over a and b within `plane_range`;
    at: OKLab."""

    hues: list[float]
    levels: list[list[float]]
    plane: str
    plane_range: float
    by_hue: list[list[float]]
    curves: dict[str, list[float]]
    lines: dict[str, list[list[tuple[float, float]]]]
    reached: dict[str, tuple[float, float]]
    at: tuple[float, float, float] | None


@router.post("/photos/{photo_id}/shaping", response=ShapingOut)
@computes
def shape(request: Request, photo_id: int, payload: ShapingIn) -> ShapingOut:
    """What a remedy that shapes colours is set over, and what it comes to."""
    engine = engines.get(seen_photo(request.user, photo_id))
    found = shaping(engine, payload.recipe, payload.cast, payload.remedy, payload.at)
    return ShapingOut(
        hues=found.hues.round(3).tolist(),
        levels=found.levels.round(3).tolist(),
        plane=data_address(found.plane),
        plane_range=PLANE_RANGE,
        by_hue=found.by_hue.round(4).tolist(),
        curves={name: line.round(4).tolist() for name, line in found.curves.items()},
        lines={
            tone: [[(round(a, 4), round(b, 4)) for a, b in line] for line in lines]
            for tone, lines in found.lines.items()
        },
        reached=found.reached,
        at=found.at,
    )
