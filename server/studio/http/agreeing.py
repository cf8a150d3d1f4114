"""One colour over a shoot: found in every photo, and brought level."""

from typing import Annotated
from uuid import UUID

from ninja import Router
from pydantic import Field

from config.errors import Missing, Refused
from config.operations import computes
from config.requests import Request
from config.schema import Schema
from jobs.api import JobOut, job_out
from jobs.services.start import own_job
from nubilis.readable import Readable
from nubilis.recipe.model import LinearRgb, Place
from shoots.services.find import seen_photo, worked_photo, worked_photos, worked_shoot
from studio.http.state import RecipeState, state_out
from studio.services import agreeing
from studio.services.agreeing import Agreement, Chosen, Standing

router = Router(tags=["studio"])


class AgreeIn(Schema):
    """photos: ids, in the order of the set; said: places corrected by hand, by photo."""

    photos: Annotated[list[int], Field(min_length=1, max_length=2000)]
    chosen: Chosen
    said: dict[int, Place] = {}


class StandingIn(Schema):
    at: Place
    wanted: LinearRgb


class LevelIn(StandingIn):
    """name: what the colour goes by, for the name of the cast."""

    name: Annotated[str, Field(max_length=100), Readable]


class LevelledOut(Schema):
    state: RecipeState
    standing: Standing


@router.post("/shoots/{shoot_id}/agree", response=JobOut)
def begin(request: Request, shoot_id: int, payload: AgreeIn) -> JobOut:
    """Begin to look for a colour in some photos of a shoot."""
    shoot, chosen = worked_shoot(request.user, shoot_id), payload.chosen
    photos = worked_photos(request.user, shoot_id, payload.photos)
    if chosen.lab is None and (chosen.at is None or chosen.photo not in payload.photos):
        raise Refused("Choose a colour, or a place of one of these photos", 422)
    return job_out(agreeing.start_agreeing(request.user, shoot, photos, chosen, payload.said))


@router.get("/jobs/{uuid:job_id}/agreement", response=Agreement)
def agreement(request: Request, job_id: UUID) -> Agreement:
    """What came of it."""
    job = own_job(request.user, job_id)
    found = (job.result or {}).get("agreement")
    if found is None:
        raise Missing
    return agreeing.still_there(Agreement.model_validate(found), job.shoot)


@router.post("/photos/{int:photo_id}/standing", response=Standing)
@computes
def standing(request: Request, photo_id: int, payload: StandingIn) -> Standing:
    """How one photo stands to a colour at a place that was pointed at."""
    photo = seen_photo(request.user, photo_id)
    return agreeing.standing(photo, payload.at, payload.wanted, by_hand=True)


@router.post("/photos/{int:photo_id}/level", response=LevelledOut)
@computes
def level(request: Request, photo_id: int, payload: LevelIn) -> LevelledOut:
    """Bring a photo level: an ordinary cast is added and saved."""
    photo = worked_photo(request.user, photo_id)
    state = agreeing.level(photo, payload.at, payload.wanted, payload.name, request.user)
    now = agreeing.standing(worked_photo(request.user, photo_id), payload.at, payload.wanted)
    return LevelledOut(state=state_out(state), standing=now)
