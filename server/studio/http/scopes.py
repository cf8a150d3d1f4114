"""What the instruments show, as pictures and lines that the browser only draws."""

from typing import Annotated, Literal

from ninja import Router
from pydantic import Field

from config.operations import computes
from config.requests import Request
from config.schema import Schema
from nubilis.colour import skin as skins
from nubilis.colour.skin import Skin
from nubilis.engine.acting import casts_until
from nubilis.proof.plane import Plane
from nubilis.proof.scopes import Area, scopes
from nubilis.recipe.document import Recipe
from nubilis.recipe.model import Place
from shoots.services.find import seen_photo
from studio.engines import engines
from studio.services.drawing import data_address
from studio.services.people import faces_of, people_or_nobody

router = Router(tags=["studio"])
_Edge = Annotated[float, Field(ge=0.0, le=1.0, allow_inf_nan=False)]


class ScopeIn(Schema):
    """cast: whose mask; box: x0, y0, x1, y1 as fractions of the long edge; neither: the whole photo.
    skin_at: a place that is skin; without it, skin is looked for in the area."""

    recipe: Recipe
    cast: str | None = None
    box: tuple[_Edge, _Edge, _Edge, _Edge] | None = None
    skin_at: Place | None = None
    zoom: Literal[1, 2, 4] = 1


class PlaneOut(Schema):
    """picture: a PNG as data address, the colours now; outline: closed lines in -1..1, before."""

    picture: str
    outline: list[list[tuple[float, float]]]


class ScopesOut(Schema):
    """before, now: rows of L*, R, G, B from dark to light; skin_line, skin_range: degrees."""

    vectorscope: PlaneOut
    ab: PlaneOut
    before: list[list[float]]
    now: list[list[float]]
    skin: Skin | None
    skin_line: float = skins.LINE
    skin_range: tuple[float, float] = skins.RANGE
    empty: bool


@router.post("/photos/{photo_id}/scopes", response=ScopesOut)
@computes
def read(request: Request, photo_id: int, payload: ScopeIn) -> ScopesOut:
    photo = seen_photo(request.user, photo_id)
    engine, faces = engines.get(photo), faces_of(people_or_nobody(photo))
    area = Area(payload.cast, payload.box, payload.skin_at, faces)
    seen = scopes(engine, payload.recipe, area, payload.zoom)
    return ScopesOut(
        vectorscope=_plane(seen.vectorscope),
        ab=_plane(seen.ab),
        before=seen.before.round(4).tolist(),
        now=seen.now.round(4).tolist(),
        skin=seen.skin,
        empty=seen.empty,
    )


def _plane(plane: Plane) -> PlaneOut:
    return PlaneOut(picture=data_address(plane.picture), outline=list(plane.outline))


class GrainIn(Schema):
    """remedy: the calm of the cast that asks."""

    recipe: Recipe
    cast: str
    remedy: str


class GrainOut(Schema):
    """Noise as the remedy finds it, in units of L*, of lightness and of colour, inside the mask and around
    it; none where nothing is masked."""

    inside: tuple[float, float] | None = None
    around: tuple[float, float] | None = None


@router.post("/photos/{photo_id}/grain", response=GrainOut)
@computes
def grain(request: Request, photo_id: int, payload: GrainIn) -> GrainOut:
    engine = engines.get(seen_photo(request.user, photo_id))
    casts = casts_until(payload.recipe, payload.cast)
    if not casts:
        return GrainOut()
    found = engine.grain(payload.recipe.state, casts, payload.remedy)
    return GrainOut(inside=found.seen_inside, around=found.seen_around) if found else GrainOut()
