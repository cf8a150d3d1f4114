"""The space that a PNG's colours are in, and which of them is transparent.

Source: PNG (third edition, 2025), sections 4.3, 11.3.1 and 11.3.2: cICP counts before iCCP, sRGB, and gAMA
with cHRM.
"""

import struct
from dataclasses import dataclass, field
from typing import Any, BinaryIO

import numpy as np

from nubilis.colour.numbered import numbered_icc
from nubilis.colour.rgb import D65, SRGB_PRIMARIES
from nubilis.colour.standard import Primaries, standard_icc
from nubilis.errors import PhotoError
from nubilis.photo.png import CHECK, PIXELS, chunks
from nubilis.photo.samples import Pixels, stretched

GREY, RGB = 0, 2
_WANTED = b"IHDR", b"cICP", b"sRGB", b"gAMA", b"cHRM", b"tRNS"
_MOST = 1024  # bytes of one of these
LEAST_AREA = 0.01  # of a triangle of primaries, twice; sRGB's is .22


@dataclass(frozen=True)
class PngSays:
    """bits: of a sample; kind: of colour, as in IHDR; said: the chunks that speak of colour."""

    bits: int
    kind: int
    said: dict[bytes, bytes] = field(repr=False)

    def icc(self, embedded: bytes | None) -> bytes | None:
        """embedded: what iCCP holds. Raises PhotoError for HDR."""
        for known in (self._by_number, lambda: embedded, self._srgb, self._by_gamma):
            icc = known()
            if icc is not None:
                return icc
        return None

    def _by_number(self) -> bytes | None:
        data = self.said.get(b"cICP", b"")
        return numbered_icc(data[0], data[1]) if len(data) == 4 and data[3] == 1 else None

    def _srgb(self) -> bytes | None:
        return standard_icc("srgb") if b"sRGB" in self.said else None

    def _by_gamma(self) -> bytes | None:
        (gamma,) = struct.unpack(">I", self.said.get(b"gAMA", bytes(4)))
        if not 1000 <= gamma <= 1_000_000:
            return None
        white, primaries = self._primaries()
        return numbered_icc(primaries, 100_000.0 / gamma, white)

    def _primaries(self) -> tuple[tuple[float, float], Primaries]:
        data = self.said.get(b"cHRM", b"")
        if len(data) != 32:
            return D65, SRGB_PRIMARIES
        white, *primaries = np.array(struct.unpack(">8I", data)).reshape(4, 2) / 100_000.0
        red, green, blue = primaries
        area = abs(np.linalg.det(np.array([green - red, blue - red])))
        places = np.array([white, *primaries])
        if area < LEAST_AREA or places[:, 1].min() <= 0.0 or places.sum(axis=1).max() > 1.0:
            return D65, SRGB_PRIMARIES
        return _place(white), (_place(red), _place(green), _place(blue))

    def alpha(self, colour: Pixels) -> Pixels | None:
        """colour: (h, w, 1 or 3), as decoded; what one colour that is said is not, is opaque."""
        data, count = self.said.get(b"tRNS", b""), {GREY: 1, RGB: 3}.get(self.kind)
        if count is None or len(data) != 2 * count or colour.shape[2] != count:
            return None
        named = np.array(struct.unpack(f">{count}H", data)) & (2**self.bits - 1)
        through = (colour == stretched(named, self.bits)).all(axis=2)
        top: Any = np.iinfo(colour.dtype).max
        return np.where(through, 0, top).astype(colour.dtype)


def _place(xy: Pixels) -> tuple[float, float]:
    return float(xy[0]), float(xy[1])


def png_says(file: BinaryIO) -> PngSays:
    """The file is left anywhere. Raises PhotoError when its header is damaged."""
    said: dict[bytes, bytes] = {}
    for kind, length in chunks(file):
        if kind in PIXELS:
            break
        if kind in _WANTED and length <= _MOST:
            said.setdefault(kind, file.read(length + CHECK)[:length])
    header = said.pop(b"IHDR", b"")
    if len(header) != 13 or len(said.get(b"gAMA", bytes(4))) != 4:
        raise PhotoError("the file's header is damaged")
    return PngSays(header[8], header[9], said)
