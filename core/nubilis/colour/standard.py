"""Standard spaces, made from their primaries, with profiles of our own writing.

Source of the file's form: ICC.1:2022 (version 4), sections 7 and 9; matrix and curve profiles, section 8.3.
"""

import struct
from collections.abc import Sequence
from functools import lru_cache
from typing import Literal, get_args

import numpy as np

from nubilis.colour.adaptation import D50_XYZ, adaptation_matrix
from nubilis.colour.profile import Profile, description_of, read_profile, tags_of
from nubilis.colour.rgb import (
    D65,
    REC2020_PRIMARIES,
    SRGB_PRIMARIES,
    Matrix,
    rgb_to_xyz_matrix,
    white_xyz,
)

Standard = Literal["srgb", "display-p3", "rec2020"]
Primaries = tuple[tuple[float, float], tuple[float, float], tuple[float, float]]
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


def standard_like(profile: Profile) -> Standard | None:
    """The standard space that a profile is of, within what its numbers are rounded to."""
    return next((name for name in STANDARDS if _alike(profile, standard_profile(name))), None)


def _alike(one: Profile, other: Profile) -> bool:
    return np.allclose(one.matrix, other.matrix, atol=2e-3) and all(
        np.allclose(a, b, atol=2e-3) for a, b in zip(one.curves, other.curves, strict=True)
    )


def standard_icc(name: Standard) -> bytes:
    """Its profile's bytes."""
    title, primaries, curve = _SPACES[name]
    return made_icc(title, primaries, D65, curve_tag(3, curve))


def made_icc(title: str, primaries: Primaries, white: tuple[float, float], curve: bytes) -> bytes:
    """A profile's bytes. primaries, white: x, y; curve: a tag's content, for all three channels."""
    to_d50 = adaptation_matrix(white_xyz(white), D50_XYZ)
    columns = to_d50 @ rgb_to_xyz_matrix(primaries, white)
    tags = [
        (b"desc", _text(title)),
        (b"cprt", _text(_WORDS)),
        (b"wtpt", _xyz(D50_XYZ)),
        (b"chad", b"sf32" + bytes(4) + _fixed(to_d50.ravel())),
        (b"rXYZ", _xyz(columns[:, 0])),
        (b"gXYZ", _xyz(columns[:, 1])),
        (b"bXYZ", _xyz(columns[:, 2])),
    ]
    return _file(tags + [(tag, curve) for tag in (b"rTRC", b"gTRC", b"bTRC")])


def rgb_icc_of_grey(icc: bytes) -> bytes:
    """A grey profile's curve on all three channels of sRGB's primaries, on which greys are the same."""
    grey = tags_of(icc)
    name = description_of(grey.get(b"desc", b"")) or "unnamed profile"
    return made_icc(f"{name}, as RGB", SRGB_PRIMARIES, D65, grey[b"kTRC"])


def curve_tag(kind: int, parameters: Sequence[float]) -> bytes:
    """parametricCurveType: kind 0 is a power, 3 a power with a straight foot."""
    return b"para" + bytes(4) + struct.pack(">HH", kind, 0) + _fixed(parameters)


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
