"""Raw files through LibRaw: the camera's white balance, linear light, into Rec. 2020 at 16 bits.

What the file says of itself comes from its first directory, as far as that is a TIFF's.
"""

import io
from contextlib import suppress
from dataclasses import dataclass
from typing import Any

import imagecodecs
import numpy as np
import numpy.typing as npt
import rawpy
import tifffile

from nubilis.arrays import Codes
from nubilis.colour.rgb import XYZ_TO_REC2020
from nubilis.colour.standard import standard_profile
from nubilis.colour.temperature import light_of_neutral
from nubilis.photo.foreign import rolled_off
from nubilis.photo.raw_kinds import refusal
from nubilis.photo.sampling import encode

_COLOUR_MATRIX = 50721
STRIP = 256  # rows
SINGULAR = 1e-9


@dataclass(frozen=True)
class Raw:
    """codes: upright, in the profile standard_profile("rec2020"); notes: what a person should know."""

    codes: Codes
    notes: tuple[str, ...]


def raw_size(data: bytes) -> tuple[int, int]:
    """(width, height) before anything is decoded. Raises PhotoError."""
    with _opened(data) as raw:
        return int(raw.sizes.width), int(raw.sizes.height)


@dataclass(frozen=True)
class Preview:
    """What a raw file shows without being developed. codes: uint8 (h, w, 3), upright, sRGB, by its camera;
    None where it has none; size: (width, height) that developing gives; notes: as of Raw."""

    codes: Codes | None
    size: tuple[int, int]
    notes: tuple[str, ...]


def preview_of(data: bytes) -> Preview:
    """The sensor's numbers are unpacked, so that half a file is told, not developed. Raises PhotoError."""
    with _opened(data) as raw:
        try:
            unpacked = raw.raw_image if raw.raw_type == rawpy.RawType.Flat else raw.raw_colors
            assert unpacked is not None
            gains = np.array(raw.camera_whitebalance[:3], dtype=np.float64)
        except (rawpy.LibRawError, ValueError, MemoryError, AssertionError) as error:
            raise refusal(data) from error
        kelvin = _light_of(gains, _camera_matrix(raw, data)) if gains.min() > 0.0 else None
        flip = int(raw.sizes.flip)
        size = int(raw.sizes.width), int(raw.sizes.height)
        upright = size[::-1] if flip in (5, 6) else size
        return Preview(_embedded(raw, flip), upright, _told(kelvin))


def _embedded(raw: Any, flip: int) -> Codes | None:
    """LibRaw gives a camera's own picture as the sensor lay."""
    try:
        thumb = raw.extract_thumb()
        if thumb.format != rawpy.ThumbFormat.JPEG:
            return _of_colours(np.asarray(thumb.data))
        codes = np.asarray(imagecodecs.jpeg8_decode(thumb.data, outcolorspace="RGB"))
    except (rawpy.LibRawError, RuntimeError, ValueError):
        return None
    return np.ascontiguousarray(np.rot90(codes, {3: 2, 5: 1, 6: -1}.get(flip, 0)))


def _of_colours(bitmap: Codes) -> Codes | None:
    return bitmap if bitmap.ndim == 3 and bitmap.shape[2] == 3 else None


def read_raw(data: bytes) -> Raw:
    """Raises PhotoError."""
    with _opened(data) as raw:
        try:
            gains = np.array(raw.camera_whitebalance[:3], dtype=np.float64)
            known = bool(gains.min() > 0.0)
            light = raw.postprocess(
                use_camera_wb=known,
                output_color=rawpy.ColorSpace.Rec2020,
                output_bps=16,
                gamma=(1.0, 1.0),
                no_auto_bright=True,
                adjust_maximum_thr=0.0,  # white is the sensor's, whatever the lightest pixel
                # Where one channel is full the others still tell; for that LibRaw leaves room above.
                highlight_mode=rawpy.HighlightMode.Blend,
            )
        except (rawpy.LibRawError, ValueError, MemoryError) as error:
            raise refusal(data) from error
        if light.shape[2] == 1:  # a sensor without colour filters
            light = np.repeat(light, 3, axis=2)
        room = float(gains.max() / gains.min()) if known else 1.0
        kelvin = _light_of(gains, _camera_matrix(raw, data)) if known else None
    return Raw(_encoded(light, room), _told(kelvin))


def _encoded(light: Codes, room: float) -> Codes:
    """With white where it belongs, strip by strip, in its own place: a large raw file fills memory as it is.
    room: how much LibRaw has darkened it."""
    profile = standard_profile("rec2020")
    out = np.require(light, requirements=["C", "W"])
    for y in range(0, light.shape[0], STRIP):
        rows = light[y : y + STRIP].astype(np.float32) * np.float32(room / 65535.0)
        planes = np.ascontiguousarray(np.moveaxis(rolled_off(rows), 2, 0))
        out[y : y + STRIP] = encode(planes, profile, 16)
    return out


def _camera_matrix(raw: Any, data: bytes) -> npt.NDArray[np.float64] | None:
    """CIE XYZ to the sensor, (3, 3): LibRaw's own, or the file's."""
    own = np.array(raw.rgb_xyz_matrix[:3], dtype=np.float64)
    if abs(np.linalg.det(own)) > SINGULAR:
        return own
    with suppress(Exception), tifffile.TiffFile(io.BytesIO(data)) as tiff:
        parts = np.array(tiff.pages.first.tags[_COLOUR_MATRIX].value, dtype=np.float64)
        matrix = np.asarray((parts[::2] / parts[1::2]).reshape(3, 3))
        return matrix if abs(np.linalg.det(matrix)) > SINGULAR else None
    return None


def _light_of(
    gains: npt.NDArray[np.float64], matrix: npt.NDArray[np.float64] | None
) -> float | None:
    """Kelvin of the light that the camera took for neutral; None where it does not say."""
    if matrix is None:
        return None
    xyz = np.linalg.solve(matrix, 1.0 / gains)
    rgb = XYZ_TO_REC2020 @ (xyz / xyz[1])
    if rgb.min() <= 0.0:
        return None
    return light_of_neutral((float(rgb[0]), float(rgb[1]), float(rgb[2])))[0]


def _told(kelvin: float | None) -> tuple[str, ...]:
    profile = standard_profile("rec2020").name
    light = f", balanced as shot for {round(kelvin, -1):.0f} K" if kelvin else ""
    return (f"A raw file: developed into {profile}, 16 bits{light}",)


def _opened(data: bytes) -> Any:
    try:
        return rawpy.imread(io.BytesIO(data))
    except rawpy.LibRawError as error:
        unknown = isinstance(error, rawpy.LibRawFileUnsupportedError)
        raise refusal(data, unknown=unknown) from error
