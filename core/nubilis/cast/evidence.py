"""How strongly is each pixel tainted by a known cast? Evidence from the colours alone.

Two witnesses. The sampled materials: a pixel that lies on the line from a reference along the cast is
that material under that much taint. The palette: an amount is likely when taking it off yields a colour
that occurs elsewhere in the photo, outside the mask. Where a shift another way explains a pixel better than
any amount of this one, it is another cast's, and is left alone.
"""

from dataclasses import dataclass
from typing import Any

import cv2
import numpy as np
import numpy.typing as npt

from nubilis import kernel_types as of
from nubilis.arrays import Floats
from nubilis.kernels import between, compiled, exp2, f32, kernel

STRONGEST = 2.2  # of the strongest pair's cast
AMOUNTS = np.linspace(0.0, STRONGEST, 23).astype(np.float32)
BINS = 72
HALF_RANGE = (0.45, 1.1)  # of log chroma along N1, N2
LAYERS = 6  # of lightness
OTHER_WAYS = np.radians(np.arange(90.0, 271.0, 30.0))  # from this cast's direction
OTHER_AMOUNTS = np.linspace(0.25, 1.25, 5)
LEAST_LIGHT = 15.0  # L* below which colours are too uncertain to tell another cast by
# How many amounts a material may carry, and how far from its line it may lie, in log chroma; of a reference
# that is a place of the photo, and of one that is not.
NEAR, FAR = (1.3, 0.025), (2.1, 0.08)
UNLIKE = 1.1  # amounts beyond it have a price


@dataclass(frozen=True)
class Weights:
    """What speaks how loud; tuned together (bench/RESULTS.md). Prices are in nats of the palette.

    material: price of contradicting a sampled material; root: of the palette's density, so that rare colours
    count too; unseen: the density of a colour that does not occur; blur: of the palette, bins; mixed: share
    of each neighbouring layer of lightness; dark: L* below which a colour says less; expected: price of an
    amount of 0 where the editor masked, as far as any amount is likelier than none by `gain`; high: price of
    amounts beyond UNLIKE, squared; other: price of an amount of 1 on another cast's place, judged from
    `other_margin` on over `other_width`; soft: nats within which amounts are about as likely.
    """

    material: float = 1.0
    root: float = 0.41
    unseen: float = 1.2e-3
    blur: float = 0.6
    mixed: float = 0.175
    dark: float = 23.0
    expected: float = 1.0
    gain: float = 0.36
    high: float = 0.4
    other: float = 0.65
    other_margin: float = -0.18
    other_width: float = 0.1
    soft: float = 0.25


@dataclass(frozen=True)
class Reference:
    """What a tainted sample should be: log chroma (2,) and lightness L* 0..100. placed: it is a place of the
    photo; what is made or comes from elsewhere says which way, and less about how much."""

    chroma: tuple[float, float]
    lightness: float
    placed: bool = True


def lightness(luminance: Floats) -> Floats:
    """L* without the linear toe, enough to sort pixels into layers."""
    return np.asarray(116.0 * np.cbrt(np.maximum(luminance, 1e-5)) - 16.0, dtype=np.float32)


@kernel(of.plane, of.plane, of.plane, of.line, of.real, of.planes)
def _add_material_cost(
    rows: Any, u1: Any, u2: Any, references: Any, shift: Any, price: Any, out: Any
) -> None:
    """references: log chroma, most amount, width in log chroma; price: of contradiction."""
    size = np.sqrt(shift[0] ** 2 + shift[1] ** 2)
    d1 = shift[0] / size
    d2 = shift[1] / size
    for y in range(*rows):
        for x in range(u1.shape[1]):
            nearest = f32(1e9)
            amount = f32(0.0)
            for i in range(references.shape[0]):
                p1 = u1[y, x] - references[i, 0]
                p2 = u2[y, x] - references[i, 1]
                b = (p1 * d1 + p2 * d2) / size
                reach = references[i, 2]
                beyond = size * max(f32(-0.15) - b, b - reach, f32(0.0))
                away = (abs(p1 * d2 - p2 * d1) + beyond) / references[i, 3]
                if away < nearest:
                    nearest = away
                    amount = min(max(b, f32(0.0)), reach + f32(0.1))
            t = nearest
            sure = price * exp2(f32(-0.72134752) * min(t * t, f32(80.0)))
            for j in range(out.shape[0]):
                off = AMOUNTS[j] - amount
                out[j, y, x] += sure * min(off * off / f32(0.09), f32(1.5))


@compiled
def _looked_up(table: Any, layer: Any, v1: Any, v2: Any) -> Any:
    mid = f32(BINS / 2.0)
    top = f32(BINS - 1.0)
    b1 = v1 * f32(BINS / 2.0 / HALF_RANGE[0]) + mid
    b2 = v2 * f32(BINS / 2.0 / HALF_RANGE[1]) + mid
    i1 = int(between(b1, top) + f32(0.5))
    i2 = int(between(b2, top) + f32(0.5))
    return table[layer, i2, i1]


@kernel(of.plane, of.plane, of.whole_plane, of.planes, of.line, of.planes)
def _palette_cost(
    rows: Any, u1: Any, u2: Any, layer: Any, table: Any, shift: Any, out: Any
) -> None:
    for y in range(*rows):
        for x in range(u1.shape[1]):
            for j in range(out.shape[0]):
                v1 = u1[y, x] - AMOUNTS[j] * shift[0]
                v2 = u2[y, x] - AMOUNTS[j] * shift[1]
                out[j, y, x] = _looked_up(table, layer[y, x], v1, v2)


@kernel(of.plane, of.plane, of.whole_plane, of.planes, of.plane, of.plane)
def _least_palette_cost(
    rows: Any, u1: Any, u2: Any, layer: Any, table: Any, shifts: Any, out: Any
) -> None:
    for y in range(*rows):
        for x in range(u1.shape[1]):
            least = f32(1e9)
            for j in range(shifts.shape[0]):
                v1, v2 = u1[y, x] - shifts[j, 0], u2[y, x] - shifts[j, 1]
                least = min(least, _looked_up(table, layer[y, x], v1, v2))
            out[y, x] = least


def _bin(value: float, half_range: float) -> int:
    return int(np.clip(round(value / half_range * BINS / 2 + BINS / 2), 0, BINS - 1))


def _layer_of(light: npt.ArrayLike) -> npt.NDArray[np.int32]:
    return np.clip(np.rint(np.asarray(light) / 100.0 * LAYERS - 0.5), 0, LAYERS - 1).astype(
        np.int32
    )


def _palette(planes: Floats, clean: Floats, references: list[Reference], w: Weights) -> Floats:
    """-log of the clean pixels' smoothed density over (lightness layer, N2 bin, N1 bin)."""
    u1, u2, light = planes
    bins = [
        np.clip(np.rint(u / half * BINS / 2 + BINS / 2), 0, BINS - 1).astype(np.int64)
        for u, half in zip((u1, u2), HALF_RANGE, strict=True)
    ]
    weight = clean * np.clip(light / w.dark, 0.0, 1.0) + 1e-6
    flat = (_layer_of(light) * BINS + bins[1]) * BINS + bins[0]
    counts = np.bincount(flat.ravel(), weight.ravel(), LAYERS * BINS * BINS)
    table = counts.reshape(LAYERS, BINS, BINS).astype(np.float32)
    total = float(weight.sum())
    for reference in references:
        i = int(_layer_of(reference.lightness))
        at = [_bin(c, half) for c, half in zip(reference.chroma, HALF_RANGE, strict=True)]
        table[i, at[1], at[0]] += 0.01 * total
    table = np.stack([cv2.GaussianBlur(layer, (0, 0), w.blur) for layer in table])
    above = np.concatenate([table[1:], table[-1:]])
    below = np.concatenate([table[:1], table[:-1]])
    mixed = (1.0 - 2.0 * w.mixed) * table + w.mixed * (above + below)
    return np.asarray(-np.log((mixed / total) ** w.root + w.unseen), dtype=np.float32)


def cost_volume(
    chroma: Floats,
    clean: Floats,
    shift: np.ndarray,
    references: list[Reference],
    weights: Weights = Weights(),
) -> tuple[Floats, Floats]:
    """The price of every amount in AMOUNTS at every pixel, (n, h, w), lower is likelier; and by how much a
    cast that goes another way explains it better, nats (h, w).

    chroma: (4, h, w) from chroma_planes; clean: (h, w) 0..1, one outside the mask;
    shift: the cast in log chroma (2,).
    """
    w = weights
    light = lightness(chroma[3])
    planes = np.stack([chroma[0], chroma[1], light])
    layer, table = _layer_of(light), _palette(planes, clean, references, w)
    shift32 = shift.astype(np.float32)
    out = np.empty((len(AMOUNTS), *clean.shape), dtype=np.float32)
    _palette_cost(light.shape[0], planes[0], planes[1], layer, table, shift32, out)
    likelier = np.clip((out[0] - out.min(axis=0)) / np.float32(w.gain), 0.0, 1.0)
    points = np.array(
        [(*r.chroma, *(NEAR if r.placed else FAR)) for r in references], dtype=np.float32
    )
    _add_material_cost(light.shape[0], planes[0], planes[1], points, shift32, f32(w.material), out)
    usual = w.expected * np.minimum((AMOUNTS - 1.0) ** 2, 1.0)
    usual += w.high * np.maximum(AMOUNTS - UNLIKE, 0.0) ** 2
    out += usual.astype(np.float32)[:, None, None] * ((np.float32(1.0) - clean) * likelier)
    better = _better_another_way(planes, layer, table, shift, out.min(axis=0))
    logit = (better - np.float32(w.other_margin)) / np.float32(w.other_width)
    others = np.float32(w.other) / (np.float32(1.0) + np.exp(-logit))
    out += np.minimum(AMOUNTS, 1.0)[:, None, None] * others
    return out, np.where(light > LEAST_LIGHT, better, np.float32(0.0))


def _better_another_way(
    planes: Floats, layer: npt.NDArray[np.int32], table: Floats, shift: np.ndarray, own: Floats
) -> Floats:
    """By how much each pixel is better explained by a cast that goes another way, nats (h, w); own: the least
    price of this one's amounts."""
    cos, sin = np.cos(OTHER_WAYS), np.sin(OTHER_WAYS)
    turned = np.stack([cos * shift[0] - sin * shift[1], sin * shift[0] + cos * shift[1]], axis=1)
    shifts = (turned[None] * OTHER_AMOUNTS[:, None, None]).reshape(-1, 2).astype(np.float32)
    least = np.empty_like(own)
    _least_palette_cost(least.shape[0], planes[0], planes[1], layer, table, shifts, least)
    return np.asarray(cv2.GaussianBlur(own - least, (0, 0), 1.5))


@kernel(of.planes, of.plane, of.line, of.plane, of.plane)
def _likely(rows: Any, cost: Any, around: Any, scale: Any, mean: Any, variance: Any) -> None:
    """scale: log2 likelihood of a unit of cost, and cost of a unit of squared distance from `around`."""
    n, w = cost.shape[0], cost.shape[2]
    for y in range(*rows):
        least = np.full(w, f32(1e9), dtype=np.float32)
        whole = np.zeros(w, dtype=np.float32)
        first = np.zeros(w, dtype=np.float32)
        second = np.zeros(w, dtype=np.float32)
        for j in range(n):
            for x in range(w):
                off = AMOUNTS[j] - around[y, x]
                least[x] = min(least[x], cost[j, y, x] + scale[1] * off * off)
        for j in range(n):
            for x in range(w):
                off = AMOUNTS[j] - around[y, x]
                above = cost[j, y, x] + scale[1] * off * off - least[x]
                p = exp2(max(scale[0] * above, f32(-60.0)))
                whole[x] += p
                first[x] += p * AMOUNTS[j]
                second[x] += p * AMOUNTS[j] * AMOUNTS[j]
        for x in range(w):
            m = first[x] / whole[x]
            mean[y, x] = m
            variance[y, x] = max(second[x] / whole[x] - m * m, f32(0.0))


def likely_amount(
    cost: Floats, soft: float, around: Floats | None = None, width: float = 1.0
) -> tuple[Floats, Floats]:
    """Mean and variance of the amount under exp(-cost / soft), each (h, w).

    around: a field that the amounts are expected to follow within `width`, a standard deviation: of several
    likely amounts the one that is like its surroundings counts.
    """
    mean, variance = (np.empty(cost.shape[1:], dtype=np.float32) for _ in range(2))
    price = 0.0 if around is None else soft / (2.0 * width * width)
    scale = np.array([-1.0 / (soft * np.log(2.0)), price], dtype=np.float32)
    _likely(
        len(mean),
        cost,
        np.zeros_like(mean) if around is None else around,
        scale,
        mean,
        variance,
    )
    return mean, variance
