"""From code values to linear light and back, at any scale: the only code that touches both.

Scaling averages areas in linear light, so that a small picture is what a distant viewer sees.
"""

from typing import Any

import numba as nb
import numpy as np

from nubilis.arrays import Codes, Floats
from nubilis.colour.profile import INVERSE_SIZE, Profile
from nubilis.kernels import f32, kernel


@kernel
def _decode(codes: Any, table: Any, m: Any, out: Any) -> None:
    for y in nb.prange(out.shape[1]):
        for x in range(out.shape[2]):
            r = table[0, codes[y, x, 0]]
            g = table[1, codes[y, x, 1]]
            b = table[2, codes[y, x, 2]]
            out[0, y, x] = m[0, 0] * r + m[0, 1] * g + m[0, 2] * b
            out[1, y, x] = m[1, 0] * r + m[1, 1] * g + m[1, 2] * b
            out[2, y, x] = m[2, 0] * r + m[2, 1] * g + m[2, 2] * b


def decode(codes: Codes, profile: Profile) -> Floats:
    """Code values (h, w, 3) to linear Rec. 2020, float32 (3, h, w)."""
    out = np.empty((3, *codes.shape[:2]), dtype=np.float32)
    table = profile.decoding_table(8 * codes.dtype.itemsize)
    _decode(np.ascontiguousarray(codes), table, profile.decoding_matrix, out)
    return out


@kernel
def _encode(before: Any, after: Any, codes: Any, table: Any, m: Any, top: Any, out: Any) -> None:
    last = f32(INVERSE_SIZE - 1)
    for y in nb.prange(codes.shape[0]):
        for x in range(codes.shape[1]):
            r, g, b = after[0, y, x], after[1, y, x], after[2, y, x]
            if r == before[0, y, x] and g == before[1, y, x] and b == before[2, y, x]:
                for c in range(3):
                    out[y, x, c] = codes[y, x, c]
            else:
                for c in range(3):
                    v = m[c, 0] * r + m[c, 1] * g + m[c, 2] * b
                    at = np.sqrt(min(max(v, f32(0.0)), f32(1.0))) * last
                    i = min(int(at), INVERSE_SIZE - 2)
                    t = at - f32(i)
                    code = table[c, i] + t * (table[c, i + 1] - table[c, i])
                    out[y, x, c] = int(code * top + f32(0.5))


def encode_changes(
    before: Floats, after: Floats, codes: Codes, profile: Profile, out: Codes
) -> None:
    """Write code values into `out` (h, w, 3): the given codes where `after` equals `before` to the bit.

    before, after: float32 (3, h, w) linear Rec. 2020; codes: what `before` was decoded from.
    `out` may be `codes` itself.
    """
    top = f32(np.iinfo(codes.dtype).max)
    _encode(before, after, codes, profile.encoding_table, profile.encoding_matrix, top, out)


def encode(rgb_linear: Floats, profile: Profile, dtype: type[Any] = np.uint8) -> Codes:
    """Linear Rec. 2020 (3, h, w) to code values (h, w, 3) in a profile, clipped to its gamut."""
    out = np.zeros((*rgb_linear.shape[1:], 3), dtype=dtype)
    nowhere = np.full_like(rgb_linear, np.nan)  # equal to nothing: every pixel is encoded
    encode_changes(nowhere, rgb_linear, out, profile, out)
    return out


@kernel
def _area(planes: Any, x_scale: Any, y_scale: Any, x0: Any, y0: Any, out: Any) -> None:
    h, w = planes.shape[1:]
    for y in nb.prange(out.shape[1]):
        top = (y0 + y) * y_scale
        bottom = min(top + y_scale, h)
        first_row, last_row = int(top), min(int(np.ceil(bottom)), h)
        for x in range(out.shape[2]):
            left = (x0 + x) * x_scale
            right = min(left + x_scale, w)
            first, last = int(left), min(int(np.ceil(right)), w)
            r = g = b = total = 0.0
            for j in range(first_row, last_row):
                tall = min(bottom, j + 1.0) - max(top, float(j))
                for i in range(first, last):
                    share = tall * (min(right, i + 1.0) - max(left, float(i)))
                    r += share * planes[0, j, i]
                    g += share * planes[1, j, i]
                    b += share * planes[2, j, i]
                    total += share
            out[0, y, x] = r / total
            out[1, y, x] = g / total
            out[2, y, x] = b / total


@kernel
def _area_of_codes(
    codes: Any, table: Any, m: Any, x_scale: Any, y_scale: Any, x0: Any, y0: Any, out: Any
) -> None:
    h, w = codes.shape[:2]
    for y in nb.prange(out.shape[1]):
        top = (y0 + y) * y_scale
        bottom = min(top + y_scale, h)
        first_row, last_row = int(top), min(int(np.ceil(bottom)), h)
        for x in range(out.shape[2]):
            left = (x0 + x) * x_scale
            right = min(left + x_scale, w)
            first, last = int(left), min(int(np.ceil(right)), w)
            r = g = b = total = 0.0
            for j in range(first_row, last_row):
                tall = min(bottom, j + 1.0) - max(top, float(j))
                for i in range(first, last):
                    share = tall * (min(right, i + 1.0) - max(left, float(i)))
                    r += share * table[0, codes[j, i, 0]]
                    g += share * table[1, codes[j, i, 1]]
                    b += share * table[2, codes[j, i, 2]]
                    total += share
            r, g, b = r / total, g / total, b / total
            out[0, y, x] = m[0, 0] * r + m[0, 1] * g + m[0, 2] * b
            out[1, y, x] = m[1, 0] * r + m[1, 1] * g + m[1, 2] * b
            out[2, y, x] = m[2, 0] * r + m[2, 1] * g + m[2, 2] * b


def area_of_codes(
    codes: Codes, profile: Profile, size: tuple[int, int], region: tuple[int, int, int, int]
) -> Floats:
    """A region of the picture scaled to `size` (width, height), float32 (3, h, w) linear Rec. 2020.

    region: x0, y0, x1, y1 in pixels of the scaled picture.
    """
    x0, y0, x1, y1 = region
    out = np.empty((3, y1 - y0, x1 - x0), dtype=np.float32)
    table = profile.decoding_table(8 * codes.dtype.itemsize)
    x_scale, y_scale = codes.shape[1] / size[0], codes.shape[0] / size[1]
    _area_of_codes(codes, table, profile.decoding_matrix, x_scale, y_scale, x0, y0, out)
    return out


def area_of_planes(
    planes: Floats,
    scale: tuple[float, float],
    region: tuple[int, int, int, int],
) -> Floats:
    """A region of a planar picture averaged down; scale: source pixels per pixel along x and y."""
    x0, y0, x1, y1 = region
    out = np.empty((3, y1 - y0, x1 - x0), dtype=np.float32)
    _area(planes, scale[0], scale[1], x0, y0, out)
    return out
