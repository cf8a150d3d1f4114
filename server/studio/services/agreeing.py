"""One colour over the photos of a shoot: where it is in each, how far it is off, and bringing it level."""

from collections.abc import Callable, Iterator, Sequence

import numpy as np

from accounts.models import User
from config.errors import Missing
from jobs.models import Job
from jobs.progress import Progress
from jobs.services.start import start
from nubilis.colour.cielab import lab_to_linear_rgb, linear_rgb_to_lab
from nubilis.colour.difference import as_light_apart
from nubilis.colour.profile import srgb
from nubilis.engine.sample import Code, describe
from nubilis.library.reference import Lab
from nubilis.people.people import People
from nubilis.photo.pyramid import pixel_at
from nubilis.recipe.model import LinearRgb, Model, Place
from nubilis.series.agree import AROUND, Material, Sought
from nubilis.series.frame import Frame
from nubilis.series.level import levelled
from shoots.models import Photo, Shoot
from shoots.store import keep_asset
from studio.engines import engines
from studio.services.people import known_people, people_or_nobody
from studio.services.save_recipe import State, current, save_recipe
from studio.services.small_frames import small_frame

LOOKED_FOR = 60  # photos whose people are looked for; in larger sets those that are known count
OFF = 3.0  # CIEDE2000, as light as each other, from which on a photo counts as an outlier


class Chosen(Model):
    """What should be one colour everywhere: at a place of a photo, as that stands now; or a colour, CIELAB
    D50."""

    photo: int | None = None
    at: Place | None = None
    lab: Lab | None = None


class Seen(Model):
    """A colour at its place. lab: CIELAB D50; display: 8-bit sRGB; distance: CIEDE2000 to the chosen one, as
    light as each other; offset: (a*, b*) beyond it; lighter: L* beyond it."""

    lab: tuple[float, float, float]
    display: Code
    distance: float
    offset: tuple[float, float]
    lighter: float


class Standing(Model):
    """How a photo stands to the chosen colour. at: where it is, None when it was not found; by_hand: whether
    that was said; before: untreated; now: as treated; off: whether it is an outlier."""

    photo: int
    at: Place | None
    by_hand: bool = False
    before: Seen | None = None
    now: Seen | None = None
    off: bool = False


class Agreement(Model):
    """chosen: its colour, linear Rec. 2020, and how it looks; spread: mean CIEDE2000 to the mean, as light as
    it, before and now."""

    chosen: LinearRgb
    display: Code
    rows: tuple[Standing, ...]
    spread_before: float
    spread_now: float


def start_agreeing(
    owner: User, shoot: Shoot, photos: Sequence[Photo], chosen: Chosen, said: dict[int, Place]
) -> Job:
    """said: places that were corrected by hand, by photo."""
    return start(
        owner,
        "agree",
        shoot,
        photos=[p.id for p in photos],
        chosen=chosen.model_dump(),
        said={str(k): v for k, v in said.items()},
    )


def agree(job: Job, progress: Progress) -> dict[str, object]:
    """The job "agree"."""
    ids = job.arguments["photos"]
    rows = {p.id: p for p in job.shoot.photos.filter(id__in=ids).select_related("shoot")}
    photos = [rows[i] for i in ids if i in rows]
    chosen = Chosen.model_validate(job.arguments["chosen"])
    said = {int(k): (v[0], v[1]) for k, v in job.arguments["said"].items()}
    found = _agreed(photos, chosen, said, progress.reach)
    return {"agreement": found.model_dump()}


def still_there(found: Agreement, shoot: Shoot) -> Agreement:
    """Without the photos that are not in the shoot any more."""
    there = set(shoot.photos.values_list("id", flat=True))
    return found.model_copy(update={"rows": tuple(r for r in found.rows if r.photo in there)})


def _agreed(
    photos: Sequence[Photo],
    chosen: Chosen,
    said: dict[int, Place],
    tell: Callable[[float], None],
) -> Agreement:
    wanted = _wanted(photos, chosen)
    places: dict[int, Place | None] = {}
    for i, place in _places(photos, chosen):
        places[photos[i].id] = place
        tell(0.5 * len(places) / len(photos))
    rows = []
    for photo in photos:
        at = said.get(photo.id) or places[photo.id]
        rows.append(standing(photo, at, wanted, by_hand=photo.id in said))
        tell(0.5 + 0.5 * len(rows) / len(photos))
    return Agreement(
        chosen=wanted,
        display=describe(wanted, srgb()).display,
        rows=tuple(rows),
        spread_before=_spread([r.before for r in rows]),
        spread_now=_spread([r.now for r in rows]),
    )


def _wanted(photos: Sequence[Photo], chosen: Chosen) -> LinearRgb:
    if chosen.lab is not None:
        red, green, blue = (float(v) for v in lab_to_linear_rgb(chosen.lab))
        return max(red, 0.0), max(green, 0.0), max(blue, 0.0)
    photo = next((p for p in photos if p.id == chosen.photo), None)
    if photo is None or chosen.at is None:
        raise Missing
    return _colour_at(small_frame(photo, current(photo).recipe), chosen.at)


def _places(photos: Sequence[Photo], chosen: Chosen) -> Iterator[tuple[int, Place | None]]:
    if chosen.lab is not None:
        material = Material(np.array(chosen.lab, dtype=np.float32))
        for i, photo in enumerate(photos):
            yield i, material.place_in(small_frame(photo))
        return
    clicked = next(i for i, p in enumerate(photos) if p.id == chosen.photo)
    assert chosen.at is not None

    def frame(i: int) -> Frame:
        return small_frame(photos[i])

    def people(i: int) -> People | None:
        return (people_or_nobody if len(photos) <= LOOKED_FOR else known_people)(photos[i])

    yield from Sought(len(photos), frame, people, clicked, chosen.at).places()


def standing(
    photo: Photo, at: Place | None, wanted: LinearRgb, *, by_hand: bool = False
) -> Standing:
    """How one photo stands. Raises PhotoError."""
    if at is None:
        return Standing(photo=photo.id, at=None)
    before = _seen(_colour_at(small_frame(photo), at), wanted)
    recipe = current(photo).recipe
    now = before
    if recipe.casts or recipe.look or recipe.base.active:
        now = _seen(_colour_at(small_frame(photo, recipe), at), wanted)
    return Standing(
        photo=photo.id, at=at, by_hand=by_hand, before=before, now=now, off=now.distance > OFF
    )


def level(photo: Photo, at: Place, wanted: LinearRgb, name: str, author: User) -> State:
    """Bring a photo level at a place: a cast of its own, a step of its history. Raises NubilisError,
    Refused."""
    state = current(photo)
    engine, people = engines.get(photo), people_or_nobody(photo)
    cast = levelled(engine, people, at, wanted, name, lambda data: keep_asset(data, photo))
    recipe = state.recipe.model_copy(update={"casts": (*state.recipe.casts, cast)})
    return save_recipe(photo, state.revision, recipe, author)


def _colour_at(frame: Frame, at: Place) -> LinearRgb:
    """The mean around a place."""
    x, y = pixel_at(at, frame.shape)
    half = AROUND // 2
    here = frame.rgb[:, max(y - half, 0) : y + half + 1, max(x - half, 0) : x + half + 1]
    red, green, blue = (max(float(v), 0.0) for v in here.mean(axis=(1, 2)))
    return red, green, blue


def _seen(rgb: LinearRgb, wanted: LinearRgb) -> Seen:
    told = describe(rgb, srgb())
    light, a, b = (float(v) for v in linear_rgb_to_lab(wanted))
    lab = told.lab
    return Seen(
        lab=lab,
        display=told.display,
        distance=as_light_apart(lab, (light, a, b)),
        offset=(lab[1] - a, lab[2] - b),
        lighter=lab[0] - light,
    )


def _spread(seen: Sequence[Seen | None]) -> float:
    labs = np.array([s.lab for s in seen if s is not None])
    if not len(labs):
        return 0.0
    mean = labs.mean(axis=0)
    return float(np.mean([as_light_apart(one, mean) for one in labs]))
