"""Proof sheets as PDF: each photo's is printed once and kept, and a shoot's is put together from them."""

import hashlib
import io
from collections.abc import Iterable, Sequence
from functools import cache
from pathlib import Path

import weasyprint
from django.conf import settings
from django.db.models import prefetch_related_objects
from pypdf import PdfWriter
from weasyprint.text.fonts import FontConfiguration

from nubilis.recipe.document import Recipe
from shoots.models import Photo, Shoot
from studio.models import KeptPaper
from studio.services.report import PAGE, as_html, report_of
from studio.services.save_recipe import current
from studio.services.sheet import state_of

TEMPLATE = Path(__file__).resolve().parents[1] / "templates" / PAGE
FONT = "instrument-sans-latin-*wght-normal-*.woff2"


def as_pdf(title: str, photos: Sequence[Photo]) -> bytes:
    """Raises NubilisError."""
    if len(photos) == 1:
        return paper_of(photos[0])
    if not photos:
        return _printed(as_html(title, []))
    whole = PdfWriter()
    whole.add_metadata({"/Title": f"Proof: {title}"})
    for photo in photos:
        whole.append(io.BytesIO(paper_of(photo)))
    whole.compress_identical_objects()  # every sheet brings the same letters
    out = io.BytesIO()
    whole.write(out)
    return out.getvalue()


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
    known = ((photo, current(photo).recipe) for photo in shoot.photos.all())
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
    return f"{weasyprint.__version__}\n{template}"


def _printed(page: str) -> bytes:
    """On A4, its letters in the application's own type."""
    fonts = FontConfiguration()
    faces = "".join(
        f"@font-face {{ font-family: Sheet; src: url({path.as_uri()}); font-weight: {weight}; }}"
        for path in sorted((Path(settings.WEB_DIST) / "assets").glob(FONT))
        for weight in (400, 700)
    )
    style = weasyprint.CSS(string=faces, font_config=fonts)
    made = weasyprint.HTML(string=page).write_pdf(stylesheets=[style], font_config=fonts)
    return bytes(made)
