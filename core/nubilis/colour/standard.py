"""Standard spaces, made from their primaries, with profiles of our own writing.

Source of the file's form: ICC.1:2022 (version 4), sections 7 and 9; matrix and curve profiles, section 8.3.
"""

import struct
from functools import lru_cache
from typing import Literal, get_args

import numpy as np

from nubilis.colour.adaptation import D50_XYZ, D65_TO_D50
from nubilis.colour.profile import Profile, read_profile
from nubilis.colour.rgb import (
    D65,
    REC2020_PRIMARIES,
    SRGB_PRIMARIES,
    Matrix,
    rgb_to_xyz_matrix,
)

Standard = Literal["srgb", "display-p3", "rec2020"]
STANDARDS: tuple[Standard, ...] = get_args(Standard)
# SMPTE EG 432-1 (2010), as displays have them with D65.
P3_PRIMARIES = ((0.680, 0.320), (0.265, 0.690), (0.150, 0.060))
# Parameters of a curve of type 3, g a b c d: (a x + b)^g from d on, c x below.
SRGB_CURVE = (2.4, 1.0 / 1.055, 0.055 / 1.055, 1.0 / 12.92, 0.04045)
# ITU-R BT.2020-2, table 4, turned round.
BT2020_CURVE = (1.0 / 0.45, 1.0 / 1.0993, 0.0993 / 1.0993, 1.0 / 4.5, 4.5 * 0.0181)
_SPACES = {
    "srgb": ("sRGB", SRGB_PRIMARIES, SRGB_CURVE),
    "display-p3": ("Display P3", P3_PRIMARIES, SRGB_CURVE),
    "rec2020": ("Rec. 2020", REC2020_PRIMARIES, BT2020_CURVE),
}
_WORDS = "No copyright, use freely"


@lru_cache(maxsize=3)
def standard_profile(name: Standard) -> Profile:
    """A standard space as any other profile."""
    return read_profile(standard_icc(name))


def standard_icc(name: Standard) -> bytes:
    """Its profile's bytes."""
    title, primaries, curve = _SPACES[name]
    columns = D65_TO_D50 @ rgb_to_xyz_matrix(primaries, D65)
    tags = [
        (b"desc", _text(title)),
        (b"cprt", _text(_WORDS)),
        (b"wtpt", _xyz(D50_XYZ)),
        (b"chad", b"sf32" + bytes(4) + _fixed(D65_TO_D50.ravel())),
        (b"rXYZ", _xyz(columns[:, 0])),
        (b"gXYZ", _xyz(columns[:, 1])),
        (b"bXYZ", _xyz(columns[:, 2])),
    ]
    tags += [
        (tag, b"para" + bytes(4) + struct.pack(">HH", 3, 0) + _fixed(curve))
        for tag in (b"rTRC", b"gTRC", b"bTRC")
    ]
    return _file(tags)


def _fixed(values: object) -> bytes:
    """s15Fixed16Number, each rounded."""
    numbers = np.rint(np.asarray(values, dtype=np.float64) * 65536.0).astype(">i4")
    return numbers.tobytes()


def _xyz(values: Matrix) -> bytes:
    return b"XYZ " + bytes(4) + _fixed(values)


def _text(text: str) -> bytes:
    """multiLocalizedUnicodeType with one record."""
    letters = text.encode("utf-16-be")
    record = struct.pack(">IIHHII", 1, 12, 0x656E, 0x4742, len(letters), 28)
    return b"mluc" + bytes(4) + record + letters


def _file(tags: list[tuple[bytes, bytes]]) -> bytes:
    """Header, table of tags, tags; equal tags stand once."""
    at = 128 + 4 + 12 * len(tags)
    table, body, known = struct.pack(">I", len(tags)), b"", dict[bytes, int]()
    for name, data in tags:
        if data not in known:
            known[data] = at + len(body)
            body += data + bytes(-len(data) % 4)
        table += struct.pack(">4sII", name, known[data], len(data))
    size = at + len(body)
    head = struct.pack(">I4sI4s4s4s", size, bytes(4), 0x04400000, b"mntr", b"RGB ", b"XYZ ")
    head += struct.pack(">6H", 2026, 1, 1, 0, 0, 0) + b"acsp" + bytes(28) + _fixed(D50_XYZ)
    return head + bytes(128 - len(head)) + table + body
