"""From code values to linear light and back, at any scale: the only code that touches both.

Scaling averages areas in linear light, so that a small picture is what a distant viewer sees.
"""

from typing import Any

import numba as nb
import numpy as np

from nubilis.arrays import Codes, Floats
from nubilis.colour.profile import Profile
from nubilis.kernels import f32, inline, kernel


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


@inline
def _changed(before: Any, after: Any, y: Any, x: Any) -> Any:
    return (
        before[0, y, x] != after[0, y, x]
        or before[1, y, x] != after[1, y, x]
        or before[2, y, x] != after[2, y, x]
    )


@kernel
def _encode8(before: Any, after: Any, table: Any, m: Any, codes: Any) -> None:
    last = f32(table.shape[1] - 1)
    for y in nb.prange(codes.shape[0]):
        for x in range(codes.shape[1]):
            if _changed(before, after, y, x):
                r, g, b = after[0, y, x], after[1, y, x], after[2, y, x]
                for c in range(3):
                    v = m[c, 0] * r + m[c, 1] * g + m[c, 2] * b
                    at = np.sqrt(min(max(v, f32(0.0)), f32(1.0)))
                    codes[y, x, c] = table[c, int(at * last + f32(0.5))]


@kernel
def _encode16(before: Any, after: Any, table: Any, m: Any, codes: Any) -> None:
    last = f32(table.shape[1] - 1)
    for y in nb.prange(codes.shape[0]):
        for x in range(codes.shape[1]):
            if _changed(before, after, y, x):
                r, g, b = after[0, y, x], after[1, y, x], after[2, y, x]
                for c in range(3):
                    v = m[c, 0] * r + m[c, 1] * g + m[c, 2] * b
                    at = np.sqrt(min(max(v, f32(0.0)), f32(1.0))) * last
                    i = min(int(at), table.shape[1] - 2)
                    code = table[c, i] + (at - f32(i)) * (table[c, i + 1] - table[c, i])
                    codes[y, x, c] = int(code * f32(65535.0) + f32(0.5))


def encode_changes(before: Floats, after: Floats, codes: Codes, profile: Profile) -> None:
    """Write new code values into `codes` (h, w, 3), but only where `after` differs from `before`.

    before, after: float32 (3, h, w) linear Rec. 2020; codes: what `before` was decoded from, 8 or 16
    bits. Values outside the profile's gamut are clipped.
    """
    matrix = profile.encoding_matrix
    if codes.dtype == np.uint8:
        _encode8(before, after, profile.encoding_table8, matrix, codes)
    else:
        _encode16(before, after, profile.encoding_table, matrix, codes)


def encode(rgb_linear: Floats, profile: Profile) -> Codes:
    """Linear Rec. 2020 (3, h, w) to uint8 code values (h, w, 3) in a profile, clipped to its gamut."""
    out = np.empty((*rgb_linear.shape[1:], 3), dtype=np.uint8)
    nowhere = np.full((3, 1, 1), np.nan, dtype=np.float32)  # equal to nothing
    _encode8(
        np.broadcast_to(nowhere, rgb_linear.shape),
        rgb_linear,
        profile.encoding_table8,
        profile.encoding_matrix,
        out,
    )
    return out


def encoded(rgb_linear: Floats, profile: Profile, bits: int) -> Codes:
    """The same at 8 or 16 bits."""
    if bits == 8:
        return encode(rgb_linear, profile)
    out = np.empty((*rgb_linear.shape[1:], 3), dtype=np.uint16)
    before = np.full(rgb_linear.shape, np.nan, dtype=np.float32)  # equal to nothing
    encode_changes(before, rgb_linear, out, profile)
    return out


@kernel
def _halve_codes(codes: Any, table: Any, m: Any, out: Any) -> None:
    h, w = codes.shape[:2]
    quarter = f32(0.25)
    for y in nb.prange(out.shape[1]):
        top = 2 * y
        bottom = min(top + 1, h - 1)
        light = np.empty((3, out.shape[2]), dtype=np.float32)
        for x in range(out.shape[2]):
            left = 2 * x
            right = min(left + 1, w - 1)
            for c in range(3):
                light[c, x] = quarter * (
                    table[c, codes[top, left, c]]
                    + table[c, codes[top, right, c]]
                    + table[c, codes[bottom, left, c]]
                    + table[c, codes[bottom, right, c]]
                )
        for x in range(out.shape[2]):
            r, g, b = light[0, x], light[1, x], light[2, x]
            out[0, y, x] = m[0, 0] * r + m[0, 1] * g + m[0, 2] * b
            out[1, y, x] = m[1, 0] * r + m[1, 1] * g + m[1, 2] * b
            out[2, y, x] = m[2, 0] * r + m[2, 1] * g + m[2, 2] * b


def half_of_codes(codes: Codes, profile: Profile) -> Floats:
    """Half size, float32 (3, h, w) linear Rec. 2020; an odd edge's last pixel is what is there."""
    out = np.empty((3, -(-codes.shape[0] // 2), -(-codes.shape[1] // 2)), dtype=np.float32)
    table = profile.decoding_table(8 * codes.dtype.itemsize)
    _halve_codes(codes, table, profile.decoding_matrix, out)
    return out


@inline
def _share(at: Any, first: Any, last: Any) -> Any:
    """How much of the pixel at..at+1 lies between first and last."""
    return f32(min(last, at + 1.0) - max(first, float(at)))


@inline
def _across(line: Any, start: Any, tall: Any, x_scale: Any, x0: Any, y: Any, out: Any) -> None:
    """Average a line of column sums (3, n) into one row of `out`; start: the line's first column;
    tall: the summed heights."""
    end = start + line.shape[1]
    for x in range(out.shape[2]):
        left = (x0 + x) * x_scale
        right = min(left + x_scale, end)
        r = g = b = total = f32(0.0)
        for i in range(int(left), min(int(np.ceil(right)), end)):
            share = _share(i, left, right)
            r += share * line[0, i - start]
            g += share * line[1, i - start]
            b += share * line[2, i - start]
            total += share
        total *= tall
        out[0, y, x] = r / total
        out[1, y, x] = g / total
        out[2, y, x] = b / total


@kernel
def _area(planes: Any, x_scale: Any, y_scale: Any, x0: Any, y0: Any, out: Any) -> None:
    h, w = planes.shape[1:]
    start = int(x0 * x_scale)
    end = min(int(np.ceil((x0 + out.shape[2]) * x_scale)), w)
    for y in nb.prange(out.shape[1]):
        top = (y0 + y) * y_scale
        bottom = min(top + y_scale, h)
        line = np.zeros((3, end - start), dtype=np.float32)
        tall = f32(0.0)
        for j in range(int(top), min(int(np.ceil(bottom)), h)):
            share = _share(j, top, bottom)
            tall += share
            for c in range(3):
                row, sums = planes[c, j, start:end], line[c]
                for i in range(end - start):
                    sums[i] += share * row[i]
        _across(line, start, tall, x_scale, x0, y, out)


@kernel
def _area_of_codes(
    codes: Any, table: Any, m: Any, x_scale: Any, y_scale: Any, x0: Any, y0: Any, out: Any
) -> None:
    h, w = codes.shape[:2]
    start = int(x0 * x_scale)
    end = min(int(np.ceil((x0 + out.shape[2]) * x_scale)), w)
    for y in nb.prange(out.shape[1]):
        top = (y0 + y) * y_scale
        bottom = min(top + y_scale, h)
        line = np.zeros((3, end - start), dtype=np.float32)
        tall = f32(0.0)
        for j in range(int(top), min(int(np.ceil(bottom)), h)):
            share = _share(j, top, bottom)
            tall += share
            row = codes[j, start:end]
            for i in range(end - start):
                line[0, i] += share * table[0, row[i, 0]]
                line[1, i] += share * table[1, row[i, 1]]
                line[2, i] += share * table[2, row[i, 2]]
        _across(line, start, tall, x_scale, x0, y, out)
        for x in range(out.shape[2]):
            r, g, b = out[0, y, x], out[1, y, x], out[2, y, x]
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
