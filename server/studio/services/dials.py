"""What the contact sheet says about each cast: its dial."""

from collections.abc import Iterable
from dataclasses import asdict, dataclass

from pydantic import TypeAdapter

from config.database import if_there_is_room
from nubilis.find.finding import Told
from nubilis.proof.casts import CastProof, prove
from shoots.models import Photo
from studio.engines import engines
from studio.models import Revision
from studio.services.findings import last_survey, open_findings
from studio.services.save_recipe import current

Offset = tuple[float, float]


@dataclass(frozen=True)
class Dial:
    """before, after: CIEDE2000 to the reference; offsets: (a*, b*) of sample minus reference; found: a
    finding that nobody has adopted yet, with its own estimate as `before`."""

    name: str
    on: bool
    before: float | None
    after: float | None
    offset_before: Offset | None
    offset_after: Offset | None
    found: bool = False


_DIALS = TypeAdapter(list[Dial])


def dials(photo: Photo) -> list[Dial]:
    """The dials of the current revision's casts, and of what the last look found besides."""
    return [*_of_casts(photo), *_of_findings(photo)]


def open_dials(findings: Iterable[Told]) -> list[Dial]:
    """Of what was found and nobody has adopted."""
    return [
        Dial(f"Possible {f.towards} cast", True, f.severity, None, f.cast[1:], None, found=True)
        for f in findings
    ]


def kept_dials(row: Revision) -> list[Dial] | None:
    """Of its casts; None when they are still to be computed."""
    return None if row.figures is None else _DIALS.validate_python(row.figures)


def _of_findings(photo: Photo) -> list[Dial]:
    survey = last_survey(photo)
    return open_dials(open_findings(survey, current(photo).recipe)) if survey else []


def _of_casts(photo: Photo) -> list[Dial]:
    """Computed once and kept with the revision."""
    row = Revision.objects.filter(photo=photo, number=photo.revision).first()
    if row is None:
        return []
    if row.figures is None:
        recipe = row.recipe
        proofs = prove(engines.get(photo), recipe).casts
        made = [_dial(c.name, c.on, p) for c, p in zip(recipe.casts, proofs, strict=True)]
        row.figures = [asdict(d) for d in made]
        # Not save(): the photo may have been removed meanwhile, and then there is nothing to keep.
        with if_there_is_room():
            Revision.objects.filter(id=row.id).update(figures=row.figures)
    return _DIALS.validate_python(row.figures)


def _dial(name: str, on: bool, proof: CastProof) -> Dial:
    word = proof.towards.capitalize() + " cast" if proof.towards else "Cast"
    return Dial(
        name or word, on, proof.before, proof.after, proof.offset_before, proof.offset_after
    )
