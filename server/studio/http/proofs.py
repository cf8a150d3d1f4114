"""What the treatment comes to: figures, the finder's field, and what else a cast would touch."""

from ninja import Router

from config.operations import computes
from config.requests import Request
from config.schema import Schema
from nubilis.proof.casts import PhotoProof, prove_outcome
from nubilis.proof.features import FeaturesMoved
from nubilis.proof.figures import Figure, Figures, figures_of
from nubilis.proof.outcome import Outcome
from nubilis.proof.skin_of_people import SkinOf
from nubilis.proof.touches import Touches, touches
from nubilis.recipe.document import Recipe
from shoots.services.find import seen_photo
from studio.engines import engines
from studio.services.figure_pictures import field_change
from studio.services.people import faces_of, known_people, told_of_people

router = Router(tags=["studio"])


class ProofIn(Schema):
    recipe: Recipe


class ProofOut(Schema):
    """figures: the proof line by line; features: casts that move lips or eyes; skins: of each face; both
    where somebody has looked for people."""

    proof: PhotoProof
    figures: Figures
    features: list[FeaturesMoved]
    skins: list[SkinOf]


class TouchesIn(Schema):
    recipe: Recipe
    cast: str


@router.post("/photos/{photo_id}/proof", response=ProofOut)
@computes(large=True)
def proof(request: Request, photo_id: int, payload: ProofIn) -> ProofOut:
    row = seen_photo(request.user, photo_id)
    people = known_people(row)
    outcome = Outcome(engines.get(row), payload.recipe, faces_of(people))
    proved = prove_outcome(outcome)
    features, skins = told_of_people(row, people, outcome)
    figures = figures_of(proved)
    return ProofOut(proof=proved, figures=figures, features=list(features), skins=list(skins))


@router.post("/photos/{photo_id}/field", response=Figure)
@computes(large=True)
def field(request: Request, photo_id: int, payload: ProofIn) -> Figure:
    """What the finder takes for taint, before and after."""
    return field_change(seen_photo(request.user, photo_id), payload.recipe)


@router.post("/photos/{photo_id}/touches", response=Touches)
@computes(large=True)
def what_it_touches(request: Request, photo_id: int, payload: TouchesIn) -> Touches:
    """Which colours a cast's remedies touch."""
    engine = engines.get(seen_photo(request.user, photo_id))
    return touches(engine, payload.recipe, payload.cast)
