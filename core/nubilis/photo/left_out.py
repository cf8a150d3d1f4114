"""What a photo has and a format has no place for: told, so that nothing is lost without a word."""

from collections.abc import Iterator
from contextlib import suppress

from PIL import ExifTags

from nubilis.photo.exif_block import DAMAGED, fitting
from nubilis.photo.jpeg import MOST_EXIF
from nubilis.photo.picture import Photo

_NAMES = {"jpeg": "JPEG", "avif": "AVIF", "jxl": "JPEG XL", "png": "PNG", "ora": "OpenRaster"}
_WITHOUT_IPTC = ("avif", "jxl")
_OPAQUE = ("jpeg", "avif10", "avif12")


def left_out(photo: Photo, file_format: str) -> tuple[str, ...]:
    """Sentences, of a photo as it is written in a format."""
    return tuple(_left_out(photo, file_format))


def _left_out(photo: Photo, file_format: str) -> Iterator[str]:
    about, kind = photo.metadata, file_format.rstrip("0123456789")
    if kind == "tiff":
        return
    name = _NAMES[kind]
    if photo.alpha is not None and photo.alpha_kind == "unspecified":
        yield "Left out: the fourth channel, whose meaning only a TIFF leaves open."
    elif photo.alpha is not None and file_format in _OPAQUE:
        deep = "" if kind == "jpeg" else f" of {file_format[4:]} bits"
        yield f"Left out: the transparency; {name}{deep} has none."
    if kind == "jpeg" and about.exif and (names := _too_large(about.exif)):
        yield f"Left out of the EXIF, of which a JPEG holds 64 kB: {', '.join(names)}."
    if kind in _WITHOUT_IPTC:
        lost = [
            word
            for word, block in (
                ("the IPTC", about.iptc),
                ("clipping paths and other resources", about.resources),
                ("dots an inch", about.dpi),
            )
            if block
        ]
        if lost:
            yield f"Left out: {' and '.join(lost)}; {name} has no place for {_them(lost)}."


def _them(lost: list[str]) -> str:
    return "it" if lost == ["the IPTC"] else "them"


def _too_large(exif: bytes) -> list[str]:
    with suppress(*DAMAGED):
        return [ExifTags.TAGS.get(v.tag, f"0x{v.tag:04X}") for v in fitting(exif, MOST_EXIF)[1]]
    return ["all of it, which is damaged"]
