"""ICC profiles of the matrix and curve kind, read into tables and a matrix.

Source: ICC.1:2022 (tags rXYZ, rTRC, chad are those of section 9; curve types section 10). Profiles that
hold tables instead (printers, some scanners) cannot be inverted exactly, so they are refused.
"""

import struct
from dataclasses import dataclass, field
from functools import cached_property, lru_cache

import numpy as np
import numpy.typing as npt
from PIL import ImageCms

from nubilis.arrays import Floats
from nubilis.colour.adaptation import D50_TO_D65
from nubilis.colour.rgb import SRGB_TO_REC2020, XYZ_TO_REC2020, Matrix, srgb_to_linear
from nubilis.errors import PhotoError

Curve = npt.NDArray[np.float64]
CURVE_SIZE = 65536
MOST_WAVERING = 4e-3  # of light, by which a curve may fall back
MOST_LIGHT = 16.0
LEAST_WHITE, MOST_SKEWED = 1e-2, 100.0  # of a matrix: the light of its white, and its condition
INVERSE_SIZE = 8193  # nodes over the square root of linear light, where curves are nearly straight


@dataclass(frozen=True, eq=False)
class Profile:
    """A device RGB space. curves: three arrays of 65536 linear values for code values 0..1;
    matrix: device linear RGB to linear Rec. 2020; icc: the profile's bytes, None when untagged."""

    name: str
    curves: tuple[Curve, Curve, Curve]
    matrix: Matrix
    icc: bytes | None = field(default=None, repr=False)
    grey: bool = False

    def decoding_table(self, bits: int) -> Floats:
        """Code value to device linear light, float32 (3, 256 or 65536)."""
        return self._tables[bits]

    @cached_property
    def _tables(self) -> dict[int, Floats]:
        full = np.stack(self.curves).astype(np.float32)
        return {16: full, 8: np.ascontiguousarray(full[:, ::257])}

    @cached_property
    def encoding_table(self) -> Floats:
        """Square root of device linear light to code value 0..1, float32 (3, 8193)."""
        light = np.linspace(0.0, 1.0, INVERSE_SIZE) ** 2
        codes = np.linspace(0.0, 1.0, CURVE_SIZE)
        return np.stack([np.interp(light, c, codes) for c in self.curves]).astype(np.float32)

    @cached_property
    def encoding_table8(self) -> npt.NDArray[np.uint8]:
        """Square root of device linear light to 8-bit code, (3, 32769): within 0.01 of a code."""
        light = np.linspace(0.0, 1.0, 4 * (INVERSE_SIZE - 1) + 1) ** 2
        codes = np.linspace(0.0, 255.0, CURVE_SIZE)
        exact = np.stack([np.interp(light, c, codes) for c in self.curves])
        return np.asarray(exact + 0.5, dtype=np.uint8)

    def light_of(self, codes: Curve) -> Curve:
        """Linear Rec. 2020 (3, n) of code values 0..1 (3, n)."""
        at = np.linspace(0.0, 1.0, CURVE_SIZE)
        device = [np.interp(v, at, c) for v, c in zip(codes, self.curves, strict=True)]
        return np.asarray(self.matrix @ np.stack(device))

    def codes_of(self, rgb: Curve) -> Curve:
        """Code values 0..1 (3, n) of linear Rec. 2020 (3, n), the nearest there are."""
        at = np.linspace(0.0, 1.0, CURVE_SIZE)
        device = np.linalg.inv(self.matrix) @ rgb
        return np.stack([np.interp(v, c, at) for v, c in zip(device, self.curves, strict=True)])

    @cached_property
    def decoding_matrix(self) -> Floats:
        return self.matrix.astype(np.float32)

    @cached_property
    def encoding_matrix(self) -> Floats:
        return np.linalg.inv(self.matrix).astype(np.float32)


@lru_cache(maxsize=1)
def srgb() -> Profile:
    """sRGB for pictures without a profile."""
    curve = srgb_to_linear(np.linspace(0.0, 1.0, CURVE_SIZE))
    return Profile("sRGB", (curve, curve, curve), SRGB_TO_REC2020)


@lru_cache(maxsize=1)
def srgb_icc() -> bytes:
    """An sRGB profile to embed where the photo had none."""
    return bytes(ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes())


def read_profile(icc: bytes) -> Profile:
    """Parse a profile. Raises PhotoError with the reason when it is broken or of another kind."""
    try:
        return _parse(icc)
    except (struct.error, IndexError, KeyError, ValueError, np.linalg.LinAlgError) as error:
        if isinstance(error, PhotoError):
            raise
        raise PhotoError("the colour profile is damaged") from error


def _parse(icc: bytes) -> Profile:
    space = icc[16:20]
    tags = tags_of(icc)
    name = description_of(tags.get(b"desc", b"")) or "unnamed profile"
    if space == b"GRAY":
        curve = _curve(tags[b"kTRC"])
        # A grey's white is the connection space's: the same on all three channels.
        return Profile(name, (curve, curve, curve), SRGB_TO_REC2020, icc, grey=True)
    if space != b"RGB ":
        raise PhotoError(
            f"the colour profile is for {space.decode('ascii', 'replace').strip()}, not RGB"
        )
    if b"rTRC" not in tags or icc[20:24] != b"XYZ ":
        raise PhotoError(
            f"the colour profile ({name}) is made of tables; please convert the photo to sRGB"
        )
    columns = np.array([_xyz(tags[t]) for t in (b"rXYZ", b"gXYZ", b"bXYZ")]).T
    matrix = _to_white(XYZ_TO_REC2020 @ D50_TO_D65 @ columns)
    red, green, blue = (_curve(tags[t]) for t in (b"rTRC", b"gTRC", b"bTRC"))
    return Profile(name, (red, green, blue), matrix, icc)


def _to_white(matrix: Matrix) -> Matrix:
    """Rounded to 1/65536 in the file; rescaling the rows keeps the device's white exactly neutral."""
    sums = matrix.sum(axis=1, keepdims=True)
    if np.abs(sums).min() < LEAST_WHITE or np.linalg.cond(matrix / sums) > MOST_SKEWED:
        raise PhotoError("the colour profile's primaries are no colours that light can have")
    return np.asarray(matrix / sums)


def tags_of(icc: bytes) -> dict[bytes, bytes]:
    (count,) = struct.unpack_from(">I", icc, 128)
    if count > 200:
        raise PhotoError("the colour profile is damaged")
    found = {}
    for i in range(count):
        signature, offset, size = struct.unpack_from(">4sII", icc, 132 + 12 * i)
        found[signature] = icc[offset : offset + size]
    return found


def _xyz(tag: bytes) -> list[float]:
    return [v / 65536.0 for v in struct.unpack_from(">3i", tag, 8)]


def description_of(tag: bytes) -> str:
    if tag[:4] == b"desc":
        (size,) = struct.unpack_from(">I", tag, 8)
        return tag[12 : 12 + size].split(b"\0")[0].decode("ascii", "replace")
    if tag[:4] == b"mluc":
        size, offset = struct.unpack_from(">II", tag, 20)
        return tag[offset : offset + size].decode("utf-16-be", "replace").rstrip("\0")
    return ""


def _curve(tag: bytes) -> Curve:
    """Light of code values 0..1. It rises, so that it can be gone back; what a scanner's table wavers is
    taken out of it."""
    with np.errstate(all="ignore"):
        curve = _curve_as_written(tag)
        risen = np.maximum.accumulate(curve)
        rises = np.isfinite(curve).all() and bool((risen - curve).max() <= MOST_WAVERING)
    within = -MOST_WAVERING <= curve[0] < curve[-1] <= MOST_LIGHT
    if not rises or not within:
        raise PhotoError("the colour profile has a curve that does not rise from dark to light")
    return np.maximum(risen, 0.0)


def _curve_as_written(tag: bytes) -> Curve:
    x = np.linspace(0.0, 1.0, CURVE_SIZE)
    if tag[:4] == b"curv":
        (count,) = struct.unpack_from(">I", tag, 8)
        if count == 0:
            return x
        values = np.frombuffer(tag, ">u2", count, 12).astype(np.float64)
        if count == 1:
            return np.asarray(x ** (values[0] / 256.0))
        return np.asarray(np.interp(x, np.linspace(0.0, 1.0, count), values / 65535.0))
    if tag[:4] != b"para":
        raise PhotoError("the colour profile has a curve of an unknown kind")
    return _parametric(x, tag)


def _parametric(x: Curve, tag: bytes) -> Curve:
    (kind,) = struct.unpack_from(">H", tag, 8)
    size = (1, 3, 4, 5, 7)[kind]
    p = np.zeros(7)
    p[:size] = np.array(struct.unpack_from(f">{size}i", tag, 12)) / 65536.0
    g, a, b, c, d, e, f = p
    if kind == 0:
        return np.asarray(x**g)
    power = np.maximum(a * x + b, 0.0) ** g
    if kind in (1, 2):
        return np.asarray(
            np.where(x >= -b / a, power + (c if kind == 2 else 0.0), c if kind == 2 else 0.0)
        )
    return np.asarray(
        np.where(x >= d, power + (e if kind == 4 else 0.0), c * x + (f if kind == 4 else 0.0))
    )
