"""What a picture file says about itself: EXIF, XMP, profile. Kept as it came, but for the orientation."""

import re
import struct
from dataclasses import dataclass, field
from datetime import datetime
from mmap import ACCESS_READ, mmap

from PIL import Image, TiffImagePlugin

from nubilis.photo.exif_block import (
    DAMAGED,
    EXIF_IFD,
    ORIENTATION,
    Block,
    as_kept,
    block_of,
    collected,
)
from nubilis.photo.iptc import iptc_of
from nubilis.photo.jpeg_xmp import with_further

PREFIX, PNG_EXIF = b"Exif\0\0", "Raw profile type exif"
TAKEN = 0x9003
XMP_TAG = 700
UPRIGHT = re.compile(rb'(tiff:Orientation(?:="|>))([1-8])')


@dataclass(frozen=True)
class Metadata:
    """exif: a TIFF-structured block without the 'Exif' prefix, orientation already 1; xmp: a packet; iptc:
    data sets; dpi: dots an inch that a print would have, across and down; resources: blocks beside the IPTC,
    such as clipping paths."""

    exif: bytes | None = field(default=None, repr=False)
    xmp: bytes | None = field(default=None, repr=False)
    iptc: bytes | None = field(default=None, repr=False)
    dpi: tuple[float, float] | None = None
    resources: bytes | None = field(default=None, repr=False)


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
    said = _xmp(image)
    xmp = None if said is None else UPRIGHT.sub(rb"\g<1>1", said)
    turned = image.format not in ("AVIF", "HEIF")  # else by the container, and nothing else counts
    if orientation is None and turned and said and (found := UPRIGHT.search(said)):
        orientation = int(found[2])
    iptc, resources = iptc_of(image)
    return Metadata(exif, xmp, iptc, _dpi(image), resources), orientation or 1


def _dpi(image: Image.Image) -> tuple[float, float] | None:
    said = image.info.get("dpi")
    if not isinstance(said, tuple) or len(said) != 2:
        return None
    across, down = float(said[0]), float(said[1])
    return (across, down) if all(1.0 <= v <= 65535.0 for v in (across, down)) else None


def _exif(image: Image.Image) -> tuple[bytes | None, int | None]:
    block = image.info.get("exif")
    try:
        if isinstance(image, TiffImagePlugin.TiffImageFile):
            return _of_tiff(image)
        if isinstance(block, bytes):
            return as_kept(block.removeprefix(PREFIX))
        if image.format == "PNG" and PNG_EXIF in image.info:
            hex_digits = "".join(str(image.info[PNG_EXIF]).split()[2:])
            return as_kept(bytes.fromhex(hex_digits).removeprefix(PREFIX))
    except DAMAGED:  # the pixels count
        pass
    return None, None


def _of_tiff(image: TiffImagePlugin.TiffImageFile) -> tuple[bytes | None, int | None]:
    """The block that a TIFF itself is, but for its pixels."""
    assert image.fp is not None
    try:
        data: bytes | mmap = mmap(image.fp.fileno(), 0, access=ACCESS_READ)
    except (OSError, ValueError):  # one in memory
        image.fp.seek(0)
        data = image.fp.read()
    found = collected(Block(data))
    turned = next((v for v in found[0] if v.tag == ORIENTATION), None)
    orientation = int.from_bytes(turned.data[:2], "little") if turned else None
    found[0] = [v for v in found[0] if v is not turned]
    block = block_of(found) if any(found.values()) else None
    return block, orientation if orientation in range(1, 9) else None


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
    return packet
