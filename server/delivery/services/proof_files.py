"""The proof sheet of a delivered photo, to go beside it."""

from collections.abc import Callable, Sequence
from pathlib import Path

from delivery.services.order import ProofForm
from nubilis.deliver.pieces import Piece, Written
from shoots.models import Photo
from studio.services.paper import paper_of
from studio.services.report import as_csv, as_html, as_json, report_of

_ENDING: dict[ProofForm, str] = {"page": ".html", "pdf": ".pdf", "json": ".json", "csv": ".csv"}


def proof_pieces(photo: Photo, forms: Sequence[ProofForm]) -> list[Piece]:
    return [Piece(f"-proof{_ENDING[f]}", _writing(_maker(photo, f))) for f in dict.fromkeys(forms)]


def _maker(photo: Photo, form: ProofForm) -> Callable[[], bytes]:
    return {
        "page": lambda: as_html(photo.title, [report_of(photo)]).encode(),
        "pdf": lambda: paper_of(photo),
        "json": lambda: as_json([report_of(photo)]).encode(),
        "csv": lambda: as_csv([report_of(photo)]).encode(),
    }[form]


def _writing(make: Callable[[], bytes]) -> Callable[[Path, Callable[[float], None]], Written]:
    def write(path: Path, tell: Callable[[float], None]) -> Written:
        path.write_bytes(make())
        tell(1.0)
        return Written()

    return write
