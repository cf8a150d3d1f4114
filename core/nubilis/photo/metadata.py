"""What a picture file says about itself: EXIF, XMP, profile. Kept as it came, but for the orientation."""

import re
import struct
from dataclasses import dataclass, field
from datetime import datetime

from PIL import Image, TiffImagePlugin

ORIENTATION = 0x0112
EXIF_IFD, GPS_IFD, INTEROP_IFD = 0x8769, 0x8825, 0xA005
TAKEN = 0x9003
XMP_TAG, IPTC_TAG = 700, 33723
# In a TIFF the first directory also describes the pixels' storage; these are the ones about the photo.
DESCRIPTIVE = {
    0x010D, 0x010E, 0x010F, 0x0110, ORIENTATION, 0x011A, 0x011B, 0x0128, 0x0131, 0x0132, 0x013B,
    0x8298, 0x4746, 0x4749, EXIF_IFD, GPS_IFD,
}  # fmt: skip


@dataclass(frozen=True)
class Metadata:
    """exif: a TIFF-structured block without the 'Exif' prefix, orientation already 1; xmp: a packet."""

    exif: bytes | None = field(default=None, repr=False)
    xmp: bytes | None = field(default=None, repr=False)


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
        return Metadata(xmp=_xmp(image)), 1
    orientation = exif.get(ORIENTATION, 1)
    orientation = orientation if orientation in range(1, 9) else 1
    kept = _descriptive(exif)
    return Metadata(kept, _xmp(image)), orientation


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
