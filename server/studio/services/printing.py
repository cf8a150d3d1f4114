"""HTML printed as PDF, in the application's own type. Loading it takes seconds, which only reports need."""

import io
from collections.abc import Sequence
from pathlib import Path
from typing import Any

import weasyprint
from django.conf import settings
from pypdf import PdfWriter
from weasyprint.text.fonts import FontConfiguration
from weasyprint.urls import URLFetcher

FONT = "instrument-sans-latin-*wght-normal-*.woff2"


class Own(URLFetcher):  # type: ignore[misc]
    """Fetches pictures within the page, and our own letters; nothing else of this machine or any other."""

    def __init__(self) -> None:
        super().__init__(allowed_protocols=("data", "file"), allow_redirects=False)

    def fetch(self, url: str, headers: Any = None) -> Any:
        letters = (Path(settings.WEB_DIST) / "assets").as_uri() + "/"
        if not url.startswith(("data:", letters)) or ".." in url:
            raise ValueError("a report fetches nothing")
        return super().fetch(url, headers)


def printed(page: str) -> bytes:
    """On A4."""
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


def put_together(title: str, papers: Sequence[bytes]) -> bytes:
    """One of several."""
    whole = PdfWriter()
    whole.add_metadata({"/Title": title})
    for paper in papers:
        whole.append(io.BytesIO(paper))
    whole.compress_identical_objects()  # every sheet brings the same letters
    out = io.BytesIO()
    whole.write(out)
    return out.getvalue()
