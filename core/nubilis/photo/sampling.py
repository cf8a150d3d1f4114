"""From code values to linear light and back, at any scale: the only code that touches both.

Scaling averages areas in linear light, so that a small picture is what a distant viewer sees.
"""

from typing import Any

import numpy as np

from nubilis import kernel_types as of
from nubilis.arrays import Codes, Floats
from nubilis.colour.profile import Profile
from nubilis.kernels import between, compiled, constants, f32, kernel


@kernel([of.codes8, of.plane, of.plane, of.planes], [of.codes16, of.plane, of.plane, of.planes])
def _decode(rows: Any, codes: Any, table: Any, m: Any, out: Any) -> None:
    m = constants(m)
    for y in range(*rows):
        for x in range(out.shape[2]):
            r = table[0, codes[y, x, 0]]
            g = table[1, codes[y, x, 1]]
            b = table[2, codes[y, x, 2]]
            out[0, y, x] = m[0][0] * r + m[0][1] * g + m[0][2] * b
            out[1, y, x] = m[1][0] * r + m[1][1] * g + m[1][2] * b
            out[2, y, x] = m[2][0] * r + m[2][1] * g + m[2][2] * b


def decode(codes: Codes, profile: Profile) -> Floats:
    """Code values (h, w, 3) to linear Rec. 2020, float32 (3, h, w)."""
    out = np.empty((3, *codes.shape[:2]), dtype=np.float32)
    table = profile.decoding_table(8 * codes.dtype.itemsize)
    _decode(out.shape[1], np.ascontiguousarray(codes), table, profile.decoding_matrix, out)
    return out


@compiled
def _changed(before: Any, after: Any, y: Any, x: Any) -> Any:
    return (
        before[0, y, x] != after[0, y, x]
        or before[1, y, x] != after[1, y, x]
        or before[2, y, x] != after[2, y, x]
    )


@kernel(of.planes, of.planes, of.flag, of.table8, of.plane, of.part_of_codes8)
def _encode8(
    rows: Any, before: Any, after: Any, everywhere: Any, table: Any, m: Any, codes: Any
) -> None:
    m = constants(m)
    last = f32(table.shape[1] - 1)
    for y in range(*rows):
        for x in range(codes.shape[1]):
            if everywhere or _changed(before, after, y, x):
                r, g, b = after[0, y, x], after[1, y, x], after[2, y, x]
                for c in range(3):
                    v = m[c][0] * r + m[c][1] * g + m[c][2] * b
                    at = np.sqrt(between(v, f32(1.0)))
                    codes[y, x, c] = table[c, int(at * last + f32(0.5))]


@kernel(of.planes, of.planes, of.flag, of.plane, of.plane, of.part_of_codes16)
def _encode16(
    rows: Any, before: Any, after: Any, everywhere: Any, table: Any, m: Any, codes: Any
) -> None:
    m = constants(m)
    last = f32(table.shape[1] - 1)
    for y in range(*rows):
        for x in range(codes.shape[1]):
            if everywhere or _changed(before, after, y, x):
                r, g, b = after[0, y, x], after[1, y, x], after[2, y, x]
                for c in range(3):
                    v = m[c][0] * r + m[c][1] * g + m[c][2] * b
                    at = np.sqrt(between(v, f32(1.0))) * last
                    i = min(int(at), table.shape[1] - 2)
                    code = table[c, i] + (at - f32(i)) * (table[c, i + 1] - table[c, i])
                    codes[y, x, c] = int(code * f32(65535.0) + f32(0.5))


def encode_changes(before: Floats, after: Floats, codes: Codes, profile: Profile) -> None:
    """Write new code values into `codes` (h, w, 3), but only where `after` differs from `before`.

    before, after: float32 (3, h, w) linear Rec. 2020; codes: what `before` was decoded from, 8 or 16
    bits. Values outside the profile's gamut are clipped.
    """
    _encode(before, after, False, codes, profile)


def encode(rgb_linear: Floats, profile: Profile, bits: int = 8) -> Codes:
    """Linear Rec. 2020 (3, h, w) to code values (h, w, 3) of 8 or 16 bits, clipped to the profile's gamut."""
    dtype = np.uint8 if bits == 8 else np.uint16
    out = np.empty((*rgb_linear.shape[1:], 3), dtype=dtype)
    _encode(rgb_linear, rgb_linear, True, out, profile)
    return out


def _encode(
    before: Floats, after: Floats, everywhere: bool, codes: Codes, profile: Profile
) -> None:
    matrix, tall = profile.encoding_matrix, codes.shape[0]
    if codes.dtype == np.uint8:
        _encode8(tall, before, after, everywhere, profile.encoding_table8, matrix, codes)
    else:
        _encode16(tall, before, after, everywhere, profile.encoding_table, matrix, codes)


@kernel([of.codes8, of.plane, of.plane, of.planes], [of.codes16, of.plane, of.plane, of.planes])
def _halve_codes(rows: Any, codes: Any, table: Any, m: Any, out: Any) -> None:
    m = constants(m)
    h, w = codes.shape[:2]
    quarter = f32(0.25)
    for y in range(*rows):
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
            out[0, y, x] = m[0][0] * r + m[0][1] * g + m[0][2] * b
            out[1, y, x] = m[1][0] * r + m[1][1] * g + m[1][2] * b
            out[2, y, x] = m[2][0] * r + m[2][1] * g + m[2][2] * b


def half_of_codes(codes: Codes, profile: Profile) -> Floats:
    """Half size, float32 (3, h, w) linear Rec. 2020; an odd edge's last pixel is what is there."""
    out = np.empty((3, -(-codes.shape[0] // 2), -(-codes.shape[1] // 2)), dtype=np.float32)
    table = profile.decoding_table(8 * codes.dtype.itemsize)
    _halve_codes(out.shape[1], codes, table, profile.decoding_matrix, out)
    return out


@compiled
def _share(at: Any, first: Any, last: Any) -> Any:
    """How much of the pixel at..at+1 lies between first and last."""
    return f32(min(last, at + 1.0) - max(first, float(at)))


@compiled
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


@kernel(of.planes, of.double, of.double, of.number, of.number, of.planes)
def _area(rows: Any, planes: Any, x_scale: Any, y_scale: Any, x0: Any, y0: Any, out: Any) -> None:
    h, w = planes.shape[1:]
    start = int(x0 * x_scale)
    end = min(int(np.ceil((x0 + out.shape[2]) * x_scale)), w)
    for y in range(*rows):
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


@kernel(
    [of.codes8, of.plane, of.plane, of.double, of.double, of.number, of.number, of.planes],
    [of.codes16, of.plane, of.plane, of.double, of.double, of.number, of.number, of.planes],
)
def _area_of_codes(
    rows: Any,
    codes: Any,
    table: Any,
    m: Any,
    x_scale: Any,
    y_scale: Any,
    x0: Any,
    y0: Any,
    out: Any,
) -> None:
    m = constants(m)
    h, w = codes.shape[:2]
    start = int(x0 * x_scale)
    end = min(int(np.ceil((x0 + out.shape[2]) * x_scale)), w)
    for y in range(*rows):
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
            out[0, y, x] = m[0][0] * r + m[0][1] * g + m[0][2] * b
            out[1, y, x] = m[1][0] * r + m[1][1] * g + m[1][2] * b
            out[2, y, x] = m[2][0] * r + m[2][1] * g + m[2][2] * b


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
    _area_of_codes(
        out.shape[1], codes, table, profile.decoding_matrix, x_scale, y_scale, x0, y0, out
    )
    return out


def area_of_planes(
    planes: Floats,
    scale: tuple[float, float],
    region: tuple[int, int, int, int],
) -> Floats:
    """A region of a planar picture averaged down; scale: source pixels per pixel along x and y."""
    x0, y0, x1, y1 = region
    out = np.empty((3, y1 - y0, x1 - x0), dtype=np.float32)
    _area(out.shape[1], planes, scale[0], scale[1], x0, y0, out)
    return out
