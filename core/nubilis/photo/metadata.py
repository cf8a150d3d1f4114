"""What a picture file says about itself: EXIF, XMP, profile. Kept as it came, but for the orientation."""

import re
import struct
from contextlib import suppress
from dataclasses import dataclass, field
from datetime import datetime

from PIL import Image, TiffImagePlugin

from nubilis.photo.exif_block import DAMAGED, EXIF_IFD, GPS_IFD, ORIENTATION, as_kept
from nubilis.photo.iptc import iptc_of
from nubilis.photo.jpeg_xmp import with_further

PREFIX = b"Exif\0\0"
TAKEN = 0x9003
XMP_TAG = 700
# In a TIFF the first directory also describes the pixels' storage; these are the ones about the photo.
DESCRIPTIVE = {
    0x010D, 0x010E, 0x010F, 0x0110, ORIENTATION, 0x011A, 0x011B, 0x0128, 0x0131, 0x0132, 0x013B,
    0x8298, 0x4746, 0x4749, EXIF_IFD, GPS_IFD,
}  # fmt: skip


@dataclass(frozen=True)
class Metadata:
    """exif: a TIFF-structured block without the 'Exif' prefix, orientation already 1; xmp: a packet; iptc:
    data sets; dpi: dots an inch that a print would have, across and down."""

    exif: bytes | None = field(default=None, repr=False)
    xmp: bytes | None = field(default=None, repr=False)
    iptc: bytes | None = field(default=None, repr=False)
    dpi: tuple[float, float] | None = None


def when_taken(metadata: Metadata) -> datetime | None:
    """What the camera's clock said, without a time zone; None where it says nothing sensible."""
    exif = Image.Exif()
    try:
        exif.load(metadata.exif or b"")
        text = exif.get_ifd(EXIF_IFD).get(TAKEN)
        return datetime.strptime(str(text).strip("\0 "), "%Y:%m:%d %H:%M:%S")
    except (SyntaxError, ValueError, KeyError, TypeError, OSError, struct.error):
        return None


def read_metadata(image: Image.Image) -> tuple[Metadata, int]:
    """Metadata of an opened picture and its orientation 1..8 (1 where it says nothing sensible)."""
    exif, orientation = _exif(image)
    return Metadata(exif, _xmp(image), iptc_of(image), _dpi(image)), orientation


def _dpi(image: Image.Image) -> tuple[float, float] | None:
    said = image.info.get("dpi")
    if not isinstance(said, tuple) or len(said) != 2:
        return None
    across, down = float(said[0]), float(said[1])
    return (across, down) if all(1.0 <= v <= 65535.0 for v in (across, down)) else None


def _exif(image: Image.Image) -> tuple[bytes | None, int]:
    block = image.info.get("exif")
    if isinstance(block, bytes) and image.format != "TIFF":
        with suppress(*DAMAGED):
            return as_kept(block.removeprefix(PREFIX))
    try:
        # A PNG's own would decode its pixels, in case that it says something behind them.
        exif = Image.Image.getexif(image) if image.format == "PNG" else image.getexif()
    except (
        SyntaxError,
        ValueError,
        KeyError,
        TypeError,
        OSError,
    ):  # damaged block: the pixels count
        return None, 1
    orientation = exif.get(ORIENTATION, 1)
    orientation = orientation if orientation in range(1, 9) else 1
    return _descriptive(exif), orientation


def _descriptive(exif: Image.Exif) -> bytes | None:
    kept = Image.Exif()
    for tag, value in exif.items():
        if tag in DESCRIPTIVE and tag not in (EXIF_IFD, GPS_IFD):
            kept[tag] = value
    for pointer in (EXIF_IFD, GPS_IFD):
        block = exif.get_ifd(pointer)
        if block:
            kept[pointer] = dict(block)
    if not dict(kept):
        return None
    if ORIENTATION in kept:
        kept[ORIENTATION] = 1
    try:
        return kept.tobytes().removeprefix(b"Exif\0\0")
    except (ValueError, TypeError, KeyError, OverflowError, OSError):  # values no standard allows
        return None


def _xmp(image: Image.Image) -> bytes | None:
    packet = image.info.get("xmp")
    if packet is None and isinstance(image, TiffImagePlugin.TiffImageFile):
        packet = image.tag_v2.get(XMP_TAG)
    if packet is None:
        packet = image.info.get("XML:com.adobe.xmp")
    if isinstance(packet, str):
        packet = packet.encode()
    if isinstance(packet, bytes) and (segments := getattr(image, "applist", None)):
        packet = with_further(packet, (data for name, data in segments if name == "APP1"))
    if not isinstance(packet, bytes):
        return None
    return re.sub(rb'(tiff:Orientation(?:="|>))[1-8]', rb"\g<1>1", packet)


def exif_directory(exif: bytes) -> TiffImagePlugin.ImageFileDirectory_v2:
    """The block as a directory whose sub-directories are nested, for writing into a TIFF."""
    loaded = Image.Exif()
    loaded.load(b"Exif\0\0" + exif)
    directory = TiffImagePlugin.ImageFileDirectory_v2()
    for tag, value in loaded.items():
        if tag not in (EXIF_IFD, GPS_IFD):
            directory[tag] = value
    for pointer in (EXIF_IFD, GPS_IFD):
        block = loaded.get_ifd(pointer)
        if block:
            directory[pointer] = dict(block)
    return directory
