"""JPEG, coded in strips by all cores and put together as one picture.

A strip is what lies between two restart markers: it starts anew, so that it may be coded by itself (ITU-T
T.81 (1992), sections B.2.1, B.2.4.4 and E.1.4). The pixels are those of a picture coded in one go.
"""

import struct
from collections.abc import Sequence
from contextlib import suppress

import imagecodecs
import numpy as np

from nubilis.arrays import Codes
from nubilis.cores import each_on_one_core
from nubilis.errors import PhotoError
from nubilis.photo.coding import LEAST_QUALITY, Coding
from nubilis.photo.exif_block import DAMAGED, fitting
from nubilis.photo.iptc import MARKED, as_resources
from nubilis.photo.jpeg_xmp import xmp_payloads
from nubilis.photo.metadata import Metadata

JPEG_QUALITY = 95
MOST_SIDE = 65_500  # pixels, libjpeg's
_MCU = {"444": (8, 8), "422": (16, 8), "420": (16, 16)}  # pixels across and down
_STRIP = 384  # rows, about
_MOST_RESTART = 65_535  # units between two markers
_SEGMENT = 65_533  # a segment's payload, without its two length bytes
MOST_EXIF = _SEGMENT - 6
_SOF, _SOS, _JFIF = b"\xff\xc0", b"\xff\xda", b"\xff\xe0"


def jpeg_of(codes: Codes, segments: bytes, coding: Coding) -> bytes:
    """A whole file. codes: uint8 (h, w, 3); segments: what it says beside its pixels. Raises PhotoError when
    it is too large for the format, or cannot be as small as is asked."""
    if max(codes.shape[:2]) > MOST_SIDE:
        raise PhotoError(f"a JPEG has at most {MOST_SIDE} pixels a side; choose another format")
    quality = coding.quality or JPEG_QUALITY
    made = _with(segments, _coded(codes, quality, coding.subsampling))
    if coding.limit_kb is None or len(made) <= 1000 * coding.limit_kb:
        return made
    return _within(codes, segments, coding, quality)


def _within(codes: Codes, segments: bytes, coding: Coding, too_large: int) -> bytes:
    """The best quality that is small enough, by halving what is left to try."""
    assert coding.limit_kb is not None
    best, low, high = b"", LEAST_QUALITY, too_large - 1
    while low <= high:
        middle = (low + high) // 2
        made = _with(segments, _coded(codes, middle, coding.subsampling))
        if len(made) <= 1000 * coding.limit_kb:
            best, low = made, middle + 1
        else:
            high = middle - 1
    if not best:
        raise PhotoError(
            f"the photo does not fit into {coding.limit_kb} kB at quality {LEAST_QUALITY}; "
            "a shorter long edge would help"
        )
    return best


def _with(segments: bytes, body: bytes) -> bytes:
    return body[:2] + segments + body[2:]


def _coded(codes: Codes, quality: int, subsampling: str) -> bytes:
    tall, wide = codes.shape[:2]
    across, down = _MCU[subsampling]
    units = -(-wide // across)
    rows = max(min(_STRIP // down, _MOST_RESTART // units), 1)
    strips = [codes[y : y + rows * down] for y in range(0, tall, rows * down)]

    def code(strip: Codes) -> bytes:
        contiguous = np.ascontiguousarray(strip)
        return bytes(imagecodecs.jpeg8_encode(contiguous, level=quality, subsampling=subsampling))

    coded = list(each_on_one_core(code, strips))
    return coded[0] if len(coded) == 1 else _joined(coded, tall, units * rows)


def _joined(strips: Sequence[bytes], tall: int, restart: int) -> bytes:
    """The header of the first with the whole's height, and the strips' scans with markers between."""
    first = strips[0]
    frame = _find(first, _SOF)
    scan = _find(first, _SOS)
    header = bytearray(first[:scan])
    struct.pack_into(">H", header, frame + 5, tall)
    parts = [bytes(header), struct.pack(">BBHH", 0xFF, 0xDD, 4, restart)]
    for i, strip in enumerate(strips):
        at = _find(strip, _SOS)
        (length,) = struct.unpack_from(">H", strip, at + 2)
        parts.append(strip[at if i == 0 else at + 2 + length : -2])
        parts.append(bytes((0xFF, 0xD0 + i % 8)) if i + 1 < len(strips) else b"\xff\xd9")
    return b"".join(parts)


def _find(data: bytes, marker: bytes) -> int:
    """Where a segment begins; the ones before are stepped over by their lengths."""
    at = 2
    while data[at : at + 2] != marker:
        (length,) = struct.unpack_from(">H", data, at + 2)
        at += 2 + length
    return at


def with_density(data: bytes, dpi: tuple[float, float]) -> bytes:
    """The file with so many dots an inch in its JFIF header (ITU-T T.871, 2011, section 10.1)."""
    at = _find(data, _JFIF)
    said = struct.pack(">BHH", 1, round(dpi[0]), round(dpi[1]))
    return data[: at + 11] + said + data[at + 16 :]


def segments_of(about: Metadata, icc: bytes) -> bytes:
    """APP1 for EXIF and XMP, APP13 for IPTC and resources, APP2 for the profile (ICC.1:2022, annex B.4)."""
    exif, xmp = about.exif, about.xmp

    def segment(marker: int, payload: bytes) -> bytes:
        return struct.pack(">BBH", 0xFF, marker, len(payload) + 2) + payload

    out = b""
    if exif:
        with suppress(*DAMAGED):
            out += segment(0xE1, b"Exif\0\0" + fitting(exif, MOST_EXIF)[0])
    for payload in xmp_payloads(xmp) if xmp else ():
        out += segment(0xE1, payload)
    room = _SEGMENT - 14  # behind either of the marks below, which are of 14 bytes at most
    resources = as_resources(about.iptc, about.resources)
    for i in range(0, len(resources), room):
        out += segment(0xED, MARKED + resources[i : i + room])
    chunks = [icc[i : i + room] for i in range(0, len(icc), room)]
    for i, chunk in enumerate(chunks, 1):
        out += segment(0xE2, b"ICC_PROFILE\0" + bytes([i, len(chunks)]) + chunk)
    return out
