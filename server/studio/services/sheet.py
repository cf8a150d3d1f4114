"""One photo's proof with its small pictures: made once for each state, and kept."""

import hashlib
import json
from functools import cache
from typing import Literal

from pydantic import BaseModel

from nubilis.colour.profile import srgb
from nubilis.engine.engine import Engine
from nubilis.photo.pyramid import View
from nubilis.photo.sampling import encode
from nubilis.proof.casts import PhotoProof, prove_outcome
from nubilis.proof.figures import Figure, Figures, figures_of
from nubilis.proof.outcome import Outcome
from nubilis.proof.pixels import When
from nubilis.recipe.document import Recipe
from shoots.models import Photo
from studio.engines import engines
from studio.models import KeptSheet
from studio.services.drawing import jpeg_address
from studio.services.figure_pictures import ShownFigure, field_change, figure_picture
from studio.services.people import faces_of, known_people
from studio.services.save_recipe import current

PICTURE_EDGE = 560  # pixels; the field comes at the analysis size, and is smooth
CLOSE_EDGE = 320
QUALITY = 88
PictureName = Literal["before", "now", "field_before", "field_now"]


class Sheet(BaseModel):
    """pictures: JPEGs as data addresses; close: of each cast that masks something, what it masks before
    and now; field: the finder's, before and after."""

    width: int
    height: int
    proof: PhotoProof
    figures: Figures
    field: Figure
    pictures: dict[PictureName, str]
    close: dict[str, tuple[str, str]]


def sheet_of(photo: Photo) -> Sheet:
    """Of the saved recipe. Raises NubilisError."""
    recipe = current(photo).recipe
    state = state_of(photo, recipe)
    if kept := KeptSheet.of(photo, state):
        return Sheet.model_validate_json(kept.document)
    sheet = _made(photo, recipe)
    KeptSheet.keep(photo, state, document=sheet.model_dump_json())
    return sheet


def state_of(photo: Photo, recipe: Recipe) -> str:
    """What a sheet depends on: the recipe, the shoot's photos, whose palette the finder uses, and the form
    that this version of the program gives to sheets."""
    others = (other.content_hash for other in photo.shoot.photos.all())
    told = "\n".join([_form(), recipe.model_dump_json(), *others])
    return hashlib.sha256(told.encode()).hexdigest()


@cache
def _form() -> str:
    return json.dumps(Sheet.model_json_schema(), sort_keys=True)


def _made(photo: Photo, recipe: Recipe) -> Sheet:
    engine = engines.get(photo)
    outcome = Outcome(engine, recipe, faces_of(known_people(photo)))
    proof = prove_outcome(outcome)
    whole = View.fit(engine.photo, PICTURE_EDGE)
    pictures: dict[PictureName, str] = {
        "before": _rendered(engine, Recipe(), whole),
        "now": _rendered(engine, recipe, whole),
    }
    fields: dict[PictureName, When] = {"field_before": "before", "field_now": "now"}
    for name, when in fields.items():
        shown = ShownFigure(key="field", when=when)
        pictures[name] = jpeg_address(figure_picture(photo, recipe, shown, None), QUALITY)
    return Sheet(
        width=engine.photo.width,
        height=engine.photo.height,
        proof=proof,
        figures=figures_of(proof),
        field=field_change(photo, recipe),
        pictures=pictures,
        close=_close(outcome),
    )


def _close(outcome: Outcome) -> dict[str, tuple[str, str]]:
    engine, recipe = outcome.engine, outcome.recipe
    views = {c.id: outcome.close_view(c, CLOSE_EDGE) for c in recipe.casts}
    return {
        cast: (_rendered(engine, recipe.uncast, view), _rendered(engine, recipe, view))
        for cast, view in views.items()
        if view is not None
    }


def _rendered(engine: Engine, recipe: Recipe, view: View) -> str:
    return jpeg_address(encode(engine.render(recipe, view), srgb()), QUALITY)
