"""What a shoot remembers: materials that were seen in several of its photos, and objects that are none of a
cast's."""

from collections.abc import Iterator, Sequence
from contextlib import suppress

import numpy as np
from django.db.models import F
from pydantic import BaseModel

from nubilis.cast.direction import angle_between
from nubilis.colour.cielab import linear_rgb_to_lab
from nubilis.colour.difference import as_light_apart
from nubilis.colour.kind import Kind, kind_of
from nubilis.colour.profile import srgb
from nubilis.engine.sample import Measured, describe
from nubilis.errors import NubilisError
from nubilis.find.finding import Told
from nubilis.recipe.document import Dismissed, Recipe, Sample
from nubilis.series.frame import Frame
from nubilis.series.motion import Motion, motion_between
from shoots.models import Photo
from studio.models import Revision
from studio.services.save_recipe import current
from studio.services.small_frames import small_frame

SAME = 4.0  # CIEDE2000, as light as each other: one material
MOST = 24  # materials that are offered
NEAR = 4  # photos on either side whose dismissed findings count
SAME_WAY, SAME_PLACE = 30.0, 0.4  # degrees; overlap of the boxes, over the smaller


class KnownMaterial(BaseModel):
    """A colour that served as a reference, or had to stay, in other photos. photos: their titles; colour: the
    mean."""

    kind: Kind
    photos: list[str]
    colour: Measured


def materials(photo: Photo) -> list[KnownMaterial]:
    """Those of the shoot's other photos; the ones seen in most of them first."""
    groups: list[tuple[list[Sample], list[str]]] = []
    for title, sample in _sampled(photo):
        for samples, titles in groups:
            if _apart(samples[0], sample) < SAME:
                samples.append(sample)
                titles.append(title)
                break
        else:
            groups.append(([sample], [title]))
    told = [_material(samples, titles) for samples, titles in groups]
    return sorted(told, key=lambda m: -len(m.photos))[:MOST]


def _sampled(photo: Photo) -> Iterator[tuple[str, Sample]]:
    rows = Revision.objects.filter(
        photo__shoot=photo.shoot, photo__removed=None, number=F("photo__revision")
    )
    for row in rows.exclude(photo=photo).select_related("photo").order_by("photo"):
        recipe = row.recipe
        for cast in recipe.casts:
            samples = [p.reference for p in cast.pairs if p.reference]
            for sample in (*samples, *(g.sample for g in cast.guards)):
                if sample.at is not None:  # measured, not made or brought
                    yield row.photo.title, sample.settled(recipe.base)


def _apart(one: Sample, two: Sample) -> float:
    return as_light_apart(linear_rgb_to_lab(one.rgb), linear_rgb_to_lab(two.rgb))


def _material(samples: Sequence[Sample], titles: Sequence[str]) -> KnownMaterial:
    red, green, blue = (float(v) for v in np.mean([s.rgb for s in samples], axis=0))
    colour = describe((red, green, blue), srgb())
    kind = next((s.kind for s in samples if s.kind), None) or kind_of(colour.lab)
    return KnownMaterial(kind=kind, photos=list(dict.fromkeys(titles)), colour=colour)


def known_objects(photo: Photo, findings: Sequence[Told]) -> dict[str, str]:
    """Ids of findings that somebody has dismissed on a neighbouring photo of the same view, with that
    one's title."""
    known: dict[str, str] = {}
    for other, dismissed in _dismissed_near(photo):
        open_ones = [f for f in findings if f.id not in known]
        motion = _motion(photo, other) if open_ones else None
        if motion is None:
            continue
        for finding in open_ones:
            if any(_same(finding, d, motion) for d in dismissed):
                known[finding.id] = other.title
    return known


def _dismissed_near(photo: Photo) -> Iterator[tuple[Photo, Sequence[Dismissed]]]:
    own = photo.shoot.photos.select_related("shoot")
    before = own.filter(id__lt=photo.id).order_by("-id")[:NEAR]
    after = own.filter(id__gt=photo.id).order_by("id")[:NEAR]
    for other in (*before, *after):
        recipe: Recipe = current(other).recipe
        if recipe.dismissed:
            yield other, recipe.dismissed


def _motion(photo: Photo, other: Photo) -> Motion | None:
    with suppress(NubilisError, FileNotFoundError):
        frames: list[Frame] = [small_frame(p) for p in (photo, other)]
        return motion_between(*frames)
    return None


def _same(finding: Told, dismissed: Dismissed, motion: Motion) -> bool:
    way = angle_between(np.array(finding.shift), np.array(dismissed.shift))
    return way < SAME_WAY and _overlap(finding.box, _moved(dismissed.box, motion)) > SAME_PLACE


Edges = tuple[float, float, float, float]


def _moved(box: Edges, motion: Motion) -> Edges:
    """Where what lay in a box of the other photo is now: by as much as most of it moved."""
    edge = max(motion.sure.shape)
    x0, y0, x1, y1 = (int(v * edge) for v in box)
    inside = motion.forth[max(y0, 0) : max(y1, y0 + 1), max(x0, 0) : max(x1, x0 + 1)]
    if not inside.size:
        return box
    dx, dy = (float(v) / edge for v in np.median(inside.reshape(-1, 2), axis=0))
    return box[0] + dx, box[1] + dy, box[2] + dx, box[3] + dy


def _overlap(one: Edges, two: Edges) -> float:
    wide = min(one[2], two[2]) - max(one[0], two[0])
    high = min(one[3], two[3]) - max(one[1], two[1])
    least = min((b[2] - b[0]) * (b[3] - b[1]) for b in (one, two))
    return max(wide, 0.0) * max(high, 0.0) / least if least > 0.0 else 0.0
