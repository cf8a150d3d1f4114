"""Where would taking a cast off yield colours that occur elsewhere in the photo?

A cast makes shifted copies of colours that exist elsewhere; a coloured object does not. For every shift
out of a small set, each place is asked how much likelier its neighbourhood's colours become when the shift
is taken off, judged by the palette of the rest of the photo without that neighbourhood.
"""

from collections.abc import Sequence
from typing import Any

import cv2
import numpy as np
import numpy.typing as npt

from nubilis import kernel_types as of
from nubilis.arrays import Floats
from nubilis.cast.field import box_mean
from nubilis.find.colours import Reduced
from nubilis.kernels import between, f32, kernel

DIRECTIONS = 24
SIZES = (0.06, 0.12, 0.2, 0.3, 0.42, 0.55)
TILES = (6, 4)  # across, down
BINS, HALF_RANGE, LAYERS = 64, 1.3, 3
FLOOR = 3e-3  # of the root of density: the price of a colour that was never seen
REACH = 0.02  # of the long edge: the neighbourhood that votes together
MOST = 1.5
SIZE_PRICE = 0.35
# Overlap of the colours around each tile, up to which two photos show other views, and from where on the
# same; scenes of one shoot reach .36, frames of a series .83.
ANOTHER, SAME = 0.5, 0.7
OTHERS = 2.0  # weight of the other photos' palette against this photo's own

_angles = 2.0 * np.pi * np.arange(DIRECTIONS) / DIRECTIONS
WAYS: npt.NDArray[np.float64] = np.stack([np.cos(_angles), np.sin(_angles)], axis=1)
# All shifts (144, 2), direction by direction.
SHIFTS: Floats = (WAYS[:, None] * np.array(SIZES)[None, :, None]).reshape(-1, 2).astype(np.float32)


def _bin(v: npt.NDArray[Any]) -> npt.NDArray[np.int32]:
    return np.clip(np.rint(v / HALF_RANGE * BINS / 2 + BINS / 2), 0, BINS - 1).astype(np.int32)


def _layer(s: Reduced) -> npt.NDArray[np.int32]:
    return np.asarray(
        np.clip(np.rint(s.light / 100.0 * LAYERS - 0.5), 0, LAYERS - 1), dtype=np.int32
    )


def _tiles(shape: tuple[int, int]) -> npt.NDArray[np.int32]:
    """The number of each place's tile, (h, w)."""
    h, w = shape
    columns = np.minimum(np.arange(w) * TILES[0] // w, TILES[0] - 1)
    rows = np.minimum(np.arange(h) * TILES[1] // h, TILES[1] - 1)
    return np.asarray(rows[:, None] * TILES[0] + columns[None], dtype=np.int32)


def _counts(s: Reduced, tile: npt.NDArray[np.int32], tiles: int) -> Floats:
    """Colours of each tile, (tiles, LAYERS, BINS, BINS)."""
    flat = ((tile * LAYERS + _layer(s)) * BINS + _bin(s.u[1])) * BINS + _bin(s.u[0])
    weight = np.clip(s.light / 15.0, 0.02, 1.0)
    counts = np.bincount(flat.ravel(), weight.ravel(), tiles * LAYERS * BINS * BINS)
    return counts.reshape(tiles, LAYERS, BINS, BINS).astype(np.float32)


def _tiled(s: Reduced) -> Floats:
    """Colours of each tile of a photo, (down, across, LAYERS, BINS, BINS)."""
    across, down = TILES
    return _counts(s, _tiles(s.shape), across * down).reshape(down, across, LAYERS, BINS, BINS)


def _sameness(own: Floats, other: Floats) -> float:
    """1 for a photo of the same view as this one, as in a series, 0 for another: by how much of the colours
    around each tile are there, too."""

    def around(tiles: Floats) -> Floats:
        coarse = tiles.reshape(*tiles.shape[:3], BINS // 4, 4, BINS // 4, 4).sum(axis=(4, 6))
        padded = np.pad(coarse, ((1, 1), (1, 1), (0, 0), (0, 0), (0, 0)))
        down, across = tiles.shape[:2]
        near = np.sum(
            [padded[y : y + down, x : x + across] for y in range(3) for x in range(3)], axis=0
        )
        return np.asarray(near / np.maximum(near.sum(axis=(2, 3, 4), keepdims=True), 1e-6))

    shared = float(np.minimum(around(own), around(other)).sum(axis=(2, 3, 4)).mean())
    return min(max((shared - ANOTHER) / (SAME - ANOTHER), 0.0), 1.0)


def _palettes(s: Reduced, others: Sequence[Reduced], judged: Sequence[Reduced]) -> Floats:
    """Log root density over (tile, layer, bin of u2, bin of u1), each without its tile's surroundings. Nor do
    those of other photos of the same view count that nobody has judged: the same cast on the same surface
    bears itself out."""
    across, down = TILES
    own = _tiled(s)
    most = float(own.sum()) * OTHERS / max(len(others) + len(judged), 1)
    theirs, doubtful = np.zeros_like(own), own.copy()
    for i, other in enumerate(map(_tiled, (*judged, *others))):
        scaled = other * np.float32(most / max(float(other.sum()), 1e-6))
        theirs += scaled
        if i >= len(judged):
            doubtful += scaled * np.float32(_sameness(own, other))
    total = (own + theirs).sum(axis=(0, 1))
    padded = np.pad(doubtful, ((1, 1), (1, 1), (0, 0), (0, 0), (0, 0)))
    rest = np.empty_like(own)
    for y in range(down):
        for x in range(across):
            rest[y, x] = np.maximum(total - padded[y : y + 3, x : x + 3].sum(axis=(0, 1)), 0.0)
    rest = rest.reshape(-1, LAYERS, BINS, BINS)
    # The darkest and the lightest layer have one neighbour, which counts twice, and not each other.
    around = np.pad(rest, ((0, 0), (1, 1), (0, 0), (0, 0)), mode="reflect")
    mixed = 0.5 * rest + 0.25 * (around[:, :-2] + around[:, 2:])
    smooth = np.stack([cv2.GaussianBlur(p, (0, 0), 1.0) for p in mixed.reshape(-1, BINS, BINS)])
    smooth = smooth.reshape(mixed.shape)
    smooth /= smooth.sum(axis=(1, 2, 3), keepdims=True) + 1e-6
    return np.asarray(np.log(np.sqrt(smooth) + FLOOR), dtype=np.float32)


@kernel(of.planes, of.plane, of.whole_plane, of.line, of.plane, of.planes, of.planes, least=1)
def _gains(
    ways: Any, u: Any, weight: Any, base: Any, table: Any, shifts: Any, gain: Any, paler: Any
) -> None:
    """Per shift and pixel, weighted: how much likelier without it, and how much less chromatic."""
    scale, mid, top = f32(BINS / 2.0 / HALF_RANGE), f32(BINS / 2.0 + 0.5), f32(BINS - 1)
    for i in range(*ways):
        k1, k2 = shifts[i, 0], shifts[i, 1]
        for y in range(weight.shape[0]):
            for x in range(weight.shape[1]):
                v1, v2 = u[0, y, x] - k1, u[1, y, x] - k2
                b1 = np.int32(between(u[0, y, x] * scale + mid, top))
                b2 = np.int32(between(u[1, y, x] * scale + mid, top))
                c1 = np.int32(between(v1 * scale + mid, top))
                c2 = np.int32(between(v2 * scale + mid, top))
                start = base[y, x]
                s = table[start + c2 * BINS + c1] - table[start + b2 * BINS + b1]
                gain[i, y, x] = weight[y, x] * min(max(s, f32(-MOST)), f32(MOST))
                before = np.sqrt(u[0, y, x] * u[0, y, x] + u[1, y, x] * u[1, y, x])
                paler[i, y, x] = weight[y, x] * (before - np.sqrt(v1 * v1 + v2 * v2))


def evidence(s: Reduced, others: Sequence[Reduced] = (), judged: Sequence[Reduced] = ()) -> Floats:
    """For every shift in SHIFTS at every place, (144, h, w): how much speaks for it, less its price.

    others: further photos of the same surfaces, whose colours count as occurring elsewhere; judged: more of
    them, free of casts, so that theirs count at the same place too.
    """
    h, w = s.shape
    tile = _tiles(s.shape)
    table = _palettes(s, others, judged).ravel()
    base = (tile * LAYERS + _layer(s)) * np.int32(BINS * BINS)
    weight = np.clip(s.light / 20.0, 0.05, 1.0).astype(np.float32)
    gain = np.empty((len(SHIFTS), h, w), dtype=np.float32)
    paler = np.empty_like(gain)
    _gains(SHIFTS.shape[0], s.u, weight, base, table, SHIFTS, gain, paler)
    r = max(2, int(REACH * max(h, w)))
    share = box_mean(weight, r)
    for i, shift in enumerate(SHIFTS):
        size = np.float32(np.hypot(*shift))
        # The tainted side of a difference is the one that taking it off makes paler.
        side = np.clip(0.5 + box_mean(paler[i], r) / share / size, 0.0, 1.0)
        gain[i] = box_mean(gain[i], r) / share * side - np.float32(SIZE_PRICE) * size
    return gain
