"""How strongly is each pixel tainted by a known cast? Evidence from the colours alone.

Two witnesses. The sampled materials: a pixel that lies on the line from a reference along the cast is
that material under that much taint. The palette: an amount is likely when taking it off yields a colour
that occurs elsewhere in the photo, outside the mask.
"""

from dataclasses import dataclass
from typing import Any

import cv2
import numba as nb
import numpy as np
import numpy.typing as npt

from nubilis.arrays import Floats
from nubilis.kernels import exp2, f32, kernel

AMOUNTS = np.linspace(0.0, 2.0, 21).astype(np.float32)
MATERIAL_WIDTH = 0.06  # log chroma: how far from the line a pixel may lie
BINS = 72
HALF_RANGE = (0.45, 1.1)  # of log chroma along N1, N2
LAYERS = 6  # of lightness
SOFTMIN = 0.25
EXPECTED = 0.6  # the price of an amount of 0 where the editor masked: they saw a taint there


@dataclass(frozen=True)
class Reference:
    """What a tainted sample should be: log chroma (2,) and lightness L* 0..100."""

    chroma: tuple[float, float]
    lightness: float


def lightness(luminance: Floats) -> Floats:
    """L* without the linear toe, enough to sort pixels into layers."""
    return np.asarray(116.0 * np.cbrt(np.maximum(luminance, 1e-5)) - 16.0, dtype=np.float32)


@kernel
def _material_cost(u1: Any, u2: Any, references: Any, shift: Any, out: Any) -> None:
    size = np.sqrt(shift[0] ** 2 + shift[1] ** 2)
    d1 = shift[0] / size
    d2 = shift[1] / size
    for y in nb.prange(u1.shape[0]):
        for x in range(u1.shape[1]):
            nearest = f32(1e9)
            amount = f32(0.0)
            for i in range(references.shape[0]):
                p1 = u1[y, x] - references[i, 0]
                p2 = u2[y, x] - references[i, 1]
                b = (p1 * d1 + p2 * d2) / size
                away = abs(p1 * d2 - p2 * d1) + size * max(f32(-0.15) - b, b - f32(1.3), f32(0.0))
                if away < nearest:
                    nearest = away
                    amount = min(max(b, f32(0.0)), f32(1.4))
            t = nearest / f32(MATERIAL_WIDTH)
            sure = f32(3.0) * exp2(f32(-0.72134752) * t * t)
            for j in range(out.shape[0]):
                off = AMOUNTS[j] - amount
                out[j, y, x] = sure * min(off * off / f32(0.09), f32(1.5))


@kernel
def _palette_cost(u1: Any, u2: Any, layer: Any, table: Any, shift: Any, out: Any) -> None:
    to1 = f32(BINS / 2.0 / HALF_RANGE[0])
    to2 = f32(BINS / 2.0 / HALF_RANGE[1])
    mid = f32(BINS / 2.0)
    top = f32(BINS - 1.0)
    for y in nb.prange(u1.shape[0]):
        for x in range(u1.shape[1]):
            for j in range(out.shape[0]):
                b1 = (u1[y, x] - AMOUNTS[j] * shift[0]) * to1 + mid
                b2 = (u2[y, x] - AMOUNTS[j] * shift[1]) * to2 + mid
                i1 = int(min(max(b1, f32(0.0)), top) + f32(0.5))
                i2 = int(min(max(b2, f32(0.0)), top) + f32(0.5))
                out[j, y, x] += table[layer[y, x], i2, i1]


def _bin(value: float, half_range: float) -> int:
    return int(np.clip(round(value / half_range * BINS / 2 + BINS / 2), 0, BINS - 1))


def _layer_of(light: npt.ArrayLike) -> npt.NDArray[np.int32]:
    return np.clip(np.rint(np.asarray(light) / 100.0 * LAYERS - 0.5), 0, LAYERS - 1).astype(
        np.int32
    )


def _palette(planes: Floats, clean: Floats, references: list[Reference]) -> Floats:
    """-log of the clean pixels' smoothed density over (lightness layer, N2 bin, N1 bin)."""
    u1, u2, light = planes
    bins = [
        np.clip(np.rint(u / half * BINS / 2 + BINS / 2), 0, BINS - 1).astype(np.int64)
        for u, half in zip((u1, u2), HALF_RANGE, strict=True)
    ]
    weight = clean * np.clip(light / 15.0, 0.0, 1.0) + 1e-6
    flat = (_layer_of(light) * BINS + bins[1]) * BINS + bins[0]
    counts = np.bincount(flat.ravel(), weight.ravel(), LAYERS * BINS * BINS)
    table = counts.reshape(LAYERS, BINS, BINS).astype(np.float32)
    total = float(weight.sum())
    for reference in references:
        i = int(_layer_of(reference.lightness))
        at = [_bin(c, half) for c, half in zip(reference.chroma, HALF_RANGE, strict=True)]
        table[i, at[1], at[0]] += 0.01 * total
    table = np.stack([cv2.GaussianBlur(layer, (0, 0), 0.9) for layer in table])
    above = np.concatenate([table[1:], table[-1:]])
    below = np.concatenate([table[:1], table[:-1]])
    mixed = 0.5 * table + 0.25 * (above + below)
    # The root lets rare clean colours count too; the floor bounds the price of an unseen one.
    return np.asarray(-np.log(np.sqrt(mixed / total) + 2e-3), dtype=np.float32)


def cost_volume(
    chroma: Floats, clean: Floats, shift: np.ndarray, references: list[Reference]
) -> Floats:
    """The price of every amount in AMOUNTS at every pixel, (21, h, w); lower is likelier.

    chroma: (4, h, w) from chroma_planes; clean: (h, w) 0..1, one outside the mask;
    shift: the cast in log chroma (2,).
    """
    light = lightness(chroma[3])
    planes = np.stack([chroma[0], chroma[1], light])
    out = np.empty((len(AMOUNTS), *clean.shape), dtype=np.float32)
    points = np.array([r.chroma for r in references], dtype=np.float32)
    shift32 = shift.astype(np.float32)
    _material_cost(planes[0], planes[1], points, shift32, out)
    table = _palette(planes, clean, references)
    _palette_cost(planes[0], planes[1], _layer_of(light), table, shift32, out)
    expected = EXPECTED * np.minimum((AMOUNTS - 1.0) ** 2, 1.0).astype(np.float32)
    out += expected[:, None, None] * (np.float32(1.0) - clean)
    return out


def likely_amount(cost: Floats) -> tuple[Floats, Floats]:
    """Mean and variance of the amount under exp(-cost / SOFTMIN), each (h, w)."""
    p = np.exp((cost.min(axis=0) - cost) / SOFTMIN)
    p /= p.sum(axis=0)
    mean = np.tensordot(AMOUNTS, p, axes=1)
    square = np.tensordot(AMOUNTS**2, p, axes=1)
    return mean.astype(np.float32), np.maximum(square - mean**2, 0.0).astype(np.float32)
