"""Proof sheets as PDF: each photo's is printed once and kept, and a shoot's is put together from them."""

import hashlib
import io
from collections.abc import Iterable, Sequence
from functools import cache
from pathlib import Path
from typing import Any

import weasyprint
from django.conf import settings
from django.db.models import prefetch_related_objects
from pypdf import PdfWriter
from weasyprint.text.fonts import FontConfiguration
from weasyprint.urls import URLFetcher

from nubilis.recipe.document import Recipe
from shoots.models import Photo, Shoot
from studio.models import KeptPaper
from studio.services.report import PAGE, as_html, report_of
from studio.services.save_recipe import current, currents
from studio.services.sheet import state_of

TEMPLATE = Path(__file__).resolve().parents[1] / "templates" / PAGE
FONT = "instrument-sans-latin-*wght-normal-*.woff2"


def as_pdf(title: str, papers: Sequence[bytes]) -> bytes:
    """One of several."""
    if len(papers) == 1:
        return papers[0]
    if not papers:
        return _printed(as_html(title, []))
    whole = PdfWriter()
    whole.add_metadata({"/Title": f"Proof: {title}"})
    for paper in papers:
        whole.append(io.BytesIO(paper))
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
    return f"{weasyprint.__version__}\n{template}"


class Own(URLFetcher):  # type: ignore[misc]
    """Fetches pictures within the page, and our own letters; nothing else of this machine or any other."""

    def __init__(self) -> None:
        super().__init__(allowed_protocols=("data", "file"), allow_redirects=False)

    def fetch(self, url: str, headers: Any = None) -> Any:
        letters = (Path(settings.WEB_DIST) / "assets").as_uri() + "/"
        if not url.startswith(("data:", letters)) or ".." in url:
            raise ValueError("a report fetches nothing")
        return super().fetch(url, headers)


def _printed(page: str) -> bytes:
    """On A4, its letters in the application's own type."""
    fonts = FontConfiguration()
    faces = "".join(
        f"@font-face {{ font-family: Sheet; src: url({path.as_uri()}); font-weight: {weight}; }}"
        for path in sorted((Path(settings.WEB_DIST) / "assets").glob(FONT))
        for weight in (400, 700)
    )
    style = weasyprint.CSS(string=faces, font_config=fonts, url_fetcher=Own())
    html = weasyprint.HTML(string=page, url_fetcher=Own())
    made = html.write_pdf(stylesheets=[style], font_config=fonts)
    return bytes(made)
