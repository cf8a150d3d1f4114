"""People in a photo: where their faces are, and what of them a mask is made of."""

from ninja import Router

from config.operations import computes
from config.requests import Request
from config.schema import Schema
from nubilis.mask.people import Feature
from nubilis.mask.people import People as PeoplePart
from nubilis.people.areas import part_of, person_at
from nubilis.people.places import SamePlaces, same_skin
from nubilis.recipe.model import Identifier, Place
from shoots.services.find import seen_photo, worked_photo
from shoots.store import keep_asset
from studio.engines import engines
from studio.services.people import SkinElsewhere, people_in, skin_elsewhere

router = Router(tags=["studio"])


class FaceOut(Schema):
    """who: from the left, counted from 1; box: corners, fractions of the long edge; sure: 0..1."""

    who: int
    box: tuple[float, float, float, float]
    sure: float


@router.get("/photos/{int:photo_id}/people", response=list[FaceOut])
@computes
def people(request: Request, photo_id: int) -> list[FaceOut]:
    """The faces in a photo, from the left to the right."""
    found = people_in(seen_photo(request.user, photo_id))
    return [FaceOut(who=i, box=f.box, sure=f.sure) for i, f in enumerate(found.faces, 1)]


class PersonIn(Schema):
    """id: of the part that is made; who: none is all of them."""

    id: Identifier
    of: Feature
    who: int | None = None


@router.post("/photos/{int:photo_id}/people/part", response=PeoplePart)
@computes
def part(request: Request, photo_id: int, payload: PersonIn) -> PeoplePart:
    """A person, or a feature, as a part of a mask; what was found is kept with the photo."""
    row = worked_photo(request.user, photo_id)
    sight = engines.get(row).sight()
    return part_of(
        people_in(row),
        sight,
        payload.of,
        payload.who,
        lambda data: keep_asset(data, row),
        payload.id,
    )


class PersonAtIn(Schema):
    at: Place


class PersonAtOut(Schema):
    who: int | None


@router.post("/photos/{int:photo_id}/people/at", response=PersonAtOut)
@computes
def at(request: Request, photo_id: int, payload: PersonAtIn) -> PersonAtOut:
    """Whose place it is, if anybody's."""
    found = person_at(people_in(seen_photo(request.user, photo_id)), payload.at)
    return PersonAtOut(who=found)


@router.get("/photos/{int:photo_id}/people/{int:who}/elsewhere", response=list[SkinElsewhere])
@computes
def elsewhere(request: Request, photo_id: int, who: int) -> list[SkinElsewhere]:
    """The same skin in other photos of the shoot whose people are known."""
    return skin_elsewhere(seen_photo(request.user, photo_id), who)


@router.post("/photos/{int:photo_id}/people/same-skin", response=SamePlaces | None)
@computes
def same_places(request: Request, photo_id: int, payload: PersonAtIn) -> SamePlaces | None:
    """Where else on a face the skin of a place is; nothing when it lies on none."""
    row = seen_photo(request.user, photo_id)
    engine = engines.get(row)
    return same_skin(people_in(row), engine.untouched(engine.analysis_view), payload.at)
