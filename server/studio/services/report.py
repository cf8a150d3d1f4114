"""The proof sheets of one or several photos as open documents."""

import csv
import io
import json
import math
from collections.abc import Iterator, Sequence
from dataclasses import asdict, dataclass
from typing import Any

from django.template.loader import render_to_string
from django.utils import timezone

from nubilis.engine.sample import Measured
from nubilis.library.exchange import cell
from nubilis.proof.casts import CastProof
from nubilis.proof.figures import Figure
from nubilis.recipe.differences import letters
from nubilis.recipe.document import Cast, Recipe
from shoots.models import Photo
from studio.services.save_recipe import current
from studio.services.sheet import Sheet, sheet_of

PAGE = "studio/report.html"
HEADER = ("photo", "cast", "figure", "before", "now", "unit")
DIAL, RING = 22.0, 20.0  # its radius as drawn, and the distance in a*, b* that this is


@dataclass(frozen=True, eq=False)
class PhotoReport:
    photo: Photo
    recipe: Recipe
    sheet: Sheet

    def of_casts(self) -> Iterator[tuple[str, Cast, CastProof, tuple[Figure, ...]]]:
        """letter, cast, its proof, its figures."""
        names = letters(self.recipe.casts)
        for cast, proof in zip(self.recipe.casts, self.sheet.proof.casts, strict=True):
            yield names[cast.id], cast, proof, self.sheet.figures.casts[cast.id]

    def of_photo(self) -> tuple[Figure, ...]:
        return *self.sheet.figures.photo, self.sheet.field


def report_of(photo: Photo) -> PhotoReport:
    """Of the saved recipe. Raises NubilisError."""
    return PhotoReport(photo, current(photo).recipe, sheet_of(photo))


def as_json(reports: Sequence[PhotoReport]) -> str:
    document = {
        "format": "nubilis-proof",
        "version": 1,
        "made": timezone.now().isoformat(timespec="seconds"),
        "photos": [
            {
                "title": r.photo.title,
                "file": r.photo.file_name,
                "revision": r.photo.revision,
                "proof": asdict(r.sheet.proof),
                "figures": asdict(r.sheet.figures),
                "field": asdict(r.sheet.field),
            }
            for r in reports
        ],
    }
    return json.dumps(document, indent=1) + "\n"


def as_csv(reports: Sequence[PhotoReport]) -> str:
    """A header, and a line for each figure."""
    out = io.StringIO()
    table = csv.writer(out)
    table.writerow(HEADER)
    for report in reports:
        title = cell(report.photo.title)
        lines = [("", figure) for figure in report.of_photo()]
        for letter, _, _, figures in report.of_casts():
            lines += [(letter, figure) for figure in figures]
        for letter, f in lines:
            before = "" if f.before is None else f"{f.before:.4g}"
            table.writerow((title, letter, f.name, before, f"{f.now:.4g}", f.unit))
    return out.getvalue()


def as_html(title: str, reports: Sequence[PhotoReport]) -> str:
    """One page that needs nothing else, to be read and printed."""
    context = {"title": title, "made": timezone.now(), "photos": [_shown(r) for r in reports]}
    return render_to_string(PAGE, context)


def _shown(report: PhotoReport) -> dict[str, Any]:
    return {
        "title": report.photo.title,
        "file": report.photo.file_name,
        "size": f"{report.sheet.width} × {report.sheet.height}",
        "revision": report.photo.revision,
        "pictures": report.sheet.pictures,
        "casts": [_shown_cast(report.sheet, *known) for known in report.of_casts()],
        "figures": [_line(f) for f in report.of_photo()],
    }


def _shown_cast(
    sheet: Sheet, letter: str, cast: Cast, proof: CastProof, figures: tuple[Figure, ...]
) -> dict[str, Any]:
    word = f"{proof.towards.capitalize()} cast" if proof.towards else "Cast"
    return {
        "letter": letter,
        "name": cast.name or word,
        "on": cast.on,
        "close": sheet.close.get(cast.id),
        "dial": {
            "before": _on_dial(proof.offset_before),
            "now": _on_dial(proof.offset_after),
        },
        "remedies": ", ".join(
            f"{r.kind.replace('-', ' ')} {r.amount * 100:.0f} %" for r in cast.remedies if r.on
        ),
        "figures": [_line(f) for f in figures],
        "pairs": [
            {
                "number": i,
                "swatches": [_css(p.is_before), _css(p.should_be), _css(p.is_now)],
                "before": "" if p.before is None else f"{p.before:.1f}",
                "after": "" if p.after is None else f"{p.after:.1f}",
            }
            for i, p in enumerate(proof.pairs, 1)
        ],
        "guards": [(_css(g.colour), f"{g.moved:.1f}", g.held) for g in proof.guards],
        "concerns": [c.text for c in proof.concerns],
    }


def _on_dial(offset: tuple[float, float] | None) -> dict[str, str] | None:
    """Where a colour stands, y downwards; farther ones stand on the ring."""
    if offset is None:
        return None
    factor = DIAL / max(RING, math.hypot(*offset))
    return {"x": f"{offset[0] * factor:.1f}", "y": f"{-offset[1] * factor:.1f}"}


def _line(figure: Figure) -> tuple[str, str, str]:
    values = [f"{v:.2f}" for v in (figure.before, figure.now) if v is not None]
    return figure.name, " → ".join(values).replace("-", "−"), figure.unit


def _css(colour: Measured | None) -> str:
    return "transparent" if colour is None else "rgb({}, {}, {})".format(*colour.display)
