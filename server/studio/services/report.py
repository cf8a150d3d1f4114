"""The proof sheet: figures of one or several photos, with small pictures, as open documents."""

import base64
import csv
import io
import json
from collections.abc import Iterator, Sequence
from dataclasses import asdict, dataclass
from typing import Any

import imagecodecs
from django.template.loader import render_to_string
from django.utils import timezone

from nubilis.colour.profile import srgb
from nubilis.engine import Engine
from nubilis.library.exchange import cell
from nubilis.photo.pyramid import View
from nubilis.photo.sampling import encode
from nubilis.proof.casts import CastProof, PhotoProof, prove
from nubilis.proof.side_effects import Besides, SideEffects, side_effects
from nubilis.recipe.differences import letters
from nubilis.recipe.document import Cast, Recipe
from nubilis.sample import Measured
from shoots.models import Photo
from studio.engines import engines
from studio.services.save_recipe import current

PICTURE_EDGE = 560
HEADER = ("photo", "cast", "figure", "value", "unit")


@dataclass(frozen=True, eq=False)
class PhotoReport:
    """What is known of one photo's treatment."""

    photo: Photo
    engine: Engine
    recipe: Recipe
    proof: PhotoProof
    besides: Besides

    def of_casts(self) -> Iterator[tuple[str, Cast, CastProof, SideEffects | None]]:
        """letter, cast, its proof, and its side effects where it does something."""
        effects = {e.cast: e for e in self.besides.casts}
        names = letters(self.recipe.casts)
        for cast, proof in zip(self.recipe.casts, self.proof.casts, strict=True):
            yield names[cast.id], cast, proof, effects.get(cast.id)


def report_of(photo: Photo) -> PhotoReport:
    """Of the saved recipe."""
    engine, recipe = engines.get(photo), current(photo).recipe
    return PhotoReport(photo, engine, recipe, prove(engine, recipe), side_effects(engine, recipe))


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
                "proof": asdict(r.proof),
                "side_effects": asdict(r.besides),
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
        for cast, name, value, unit in _figures(report):
            table.writerow((title, cast, name, f"{value:.4g}", unit))
    return out.getvalue()


def _figures(report: PhotoReport) -> Iterator[tuple[str, str, float, str]]:
    """cast's letter, figure, value, unit; only those that are known."""
    for letter, _, proof, effects in report.of_casts():
        for name, value, unit in (*_of_proof(proof), *_of_effects(effects)):
            if value is not None:
                yield letter, name, value, unit
    outside = report.besides.outside
    yield "", "outside the masks, mean", outside.mean, "ΔE2000"
    yield "", "outside the masks, 95th percentile", outside.p95, "ΔE2000"
    yield "", "outside the masks, most", report.proof.outside_most, "ΔE2000"
    yield "", "newly clipped", report.proof.newly_clipped * 100.0, "%"


def _of_proof(proof: CastProof) -> list[tuple[str, float | None, str]]:
    return [
        ("distance to reference, before", proof.before, "ΔE2000"),
        ("distance to reference, now", proof.after, "ΔE2000"),
        ("off the skin line, before", proof.skin_before, "°"),
        ("off the skin line, now", proof.skin_after, "°"),
        ("lightness change in the mask", proof.lightness_change, "L*"),
        ("masked", proof.area * 100.0, "%"),
    ]


def _of_effects(effects: SideEffects | None) -> list[tuple[str, float | None, str]]:
    if effects is None:
        return []
    clean = effects.clean
    return [
        ("moved where tainted, mean", effects.tainted.mean, "ΔE2000"),
        ("moved where not tainted, mean", clean and clean.mean, "ΔE2000"),
        ("moved where not tainted, 95th percentile", clean and clean.p95, "ΔE2000"),
        ("noise, before", effects.noise_before, "CIELAB"),
        ("noise, now", effects.noise_after, "CIELAB"),
        ("new steps along the mask's rim", effects.edge, "CIELAB a pixel"),
    ]


def as_html(title: str, reports: Sequence[PhotoReport]) -> str:
    """One page that needs nothing else, to be read and printed."""
    context = {"title": title, "made": timezone.now(), "photos": [_shown(r) for r in reports]}
    return render_to_string("studio/report.html", context)


def _shown(report: PhotoReport) -> dict[str, Any]:
    outside = report.besides.outside
    return {
        "title": report.photo.title,
        "file": report.photo.file_name,
        "size": f"{report.engine.photo.width} × {report.engine.photo.height}",
        "revision": report.photo.revision,
        "before": _picture(report, Recipe()),
        "now": _picture(report, report.recipe),
        "casts": [_shown_cast(*known) for known in report.of_casts()],
        "outside": [
            ("Mean", f"{outside.mean:.2f}"),
            ("95th percentile", f"{outside.p95:.2f}"),
            ("Most", f"{report.proof.outside_most:.2f}"),
        ],
        "clipped": f"{report.proof.newly_clipped * 100:.2f} %",
    }


def _shown_cast(
    letter: str, cast: Cast, proof: CastProof, effects: SideEffects | None
) -> dict[str, Any]:
    word = f"{proof.towards.capitalize()} cast" if proof.towards else "Cast"
    told = [(n, v, u) for n, v, u in (*_of_proof(proof), *_of_effects(effects)) if v is not None]
    return {
        "letter": letter,
        "name": cast.name or word,
        "on": cast.on,
        "remedies": ", ".join(
            f"{r.kind.replace('-', ' ')} {r.amount * 100:.0f} %" for r in cast.remedies if r.on
        ),
        "figures": [(n.capitalize(), f"{v:.2f}", u) for n, v, u in told],
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


def _css(colour: Measured | None) -> str:
    return "transparent" if colour is None else "rgb({} {} {})".format(*colour.display)


def _picture(report: PhotoReport, recipe: Recipe) -> str:
    view = View.fit(report.engine.photo, PICTURE_EDGE)
    jpeg = imagecodecs.jpeg8_encode(encode(report.engine.render(recipe, view), srgb()), level=88)
    return "data:image/jpeg;base64," + base64.b64encode(bytes(jpeg)).decode()
