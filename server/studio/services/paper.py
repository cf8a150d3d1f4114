"""Proof sheets as PDF: each photo's is printed once and kept, and a shoot's is put together from them."""

import hashlib
from collections.abc import Iterable, Sequence
from functools import cache
from importlib.metadata import version
from pathlib import Path

from django.db.models import prefetch_related_objects

from nubilis.recipe.document import Recipe
from shoots.models import Photo, Shoot
from studio.models import KeptPaper
from studio.services.report import PAGE, as_html, report_of
from studio.services.save_recipe import current, currents
from studio.services.sheet import state_of

TEMPLATE = Path(__file__).resolve().parents[1] / "templates" / PAGE


def as_pdf(title: str, papers: Sequence[bytes]) -> bytes:
    """One of several."""
    if len(papers) == 1:
        return papers[0]
    if not papers:
        return _printed(as_html(title, []))
    from studio.services.printing import put_together

    return put_together(f"Proof: {title}", papers)


def paper_of(photo: Photo) -> bytes:
    """Of the saved recipe. Raises NubilisError."""
    state = _state(photo, current(photo).recipe)
    if kept := KeptPaper.of(photo, state):
        return bytes(kept.pdf)
    pdf = _printed(as_html(photo.shoot.name, [report_of(photo)]))
    KeptPaper.keep(photo, state, pdf=pdf)
    return pdf


def treated(shoot: Shoot) -> list[tuple[Photo, Recipe]]:
    """Photos that have a cast, with their recipes."""
    prefetch_related_objects([shoot], "photos")  # each photo's sheet asks for the others
    photos = list(shoot.photos.all())
    states = currents(photos)
    known = ((photo, states[photo.id].recipe) for photo in photos)
    return [(photo, recipe) for photo, recipe in known if recipe.casts]


def unprinted(shoot: Shoot, photos: Iterable[tuple[Photo, Recipe]]) -> list[Photo]:
    """Of some of a shoot's photos, with their recipes, those whose page is still to be printed."""
    kept = KeptPaper.objects.filter(photo__shoot=shoot)
    states = dict(kept.values_list("photo_id", "state"))
    return [photo for photo, recipe in photos if states.get(photo.id) != _state(photo, recipe)]


def _state(photo: Photo, recipe: Recipe) -> str:
    """What a page depends on: the sheet, and what stands beside its figures."""
    sheet = state_of(photo, recipe)
    words = (photo.shoot.name, photo.title, photo.file_name, str(photo.revision))
    return hashlib.sha256("\n".join([_form(), sheet, *words]).encode()).hexdigest()


@cache
def _form() -> str:
    template = TEMPLATE.read_text()
    return f"{version('weasyprint')}\n{template}"


def _printed(page: str) -> bytes:
    from studio.services.printing import printed  # seconds, for whoever prints

    return printed(page)
