"""Calm: the noise that was pulled up with a colour, taken down to what lies around.

Noise is told from structure in the cosine transform of overlapping blocks (Yu, Sapiro 2011, "DCT image
denoising"): what stays under a threshold there is noise. Of that noise, as much is left as the
surroundings have at that lightness, so that no smooth patch shows.
"""

from typing import Annotated, Any, ClassVar, Literal

import cv2
import numpy as np
from pydantic import Field

from nubilis import kernel_types as of
from nubilis.arrays import Floats
from nubilis.kernels import compiled, constants, f32, kernel
from nubilis.remedy.opponent import OF_LIGHT, TO_PLANES, from_planes, opponent_planes
from nubilis.remedy.remedy import Grain, Ground, Remedy

BLOCK, STEP = 8, 2
STRIP = 32  # rows that one thread sums up
THRESHOLD = 2.8  # times the noise
STAYS = 0.08  # of the noise, in blocks that are otherwise flat
UNSEEN = 0.0015  # of light: noise that would be taken away and nobody would see
Weight = Annotated[float, Field(ge=0.0, le=2.0, allow_inf_nan=False)]
_k, _n = np.mgrid[:BLOCK, :BLOCK]
COSINES: Floats = (
    np.sqrt(np.where(_k == 0, 1.0, 2.0) / BLOCK) * np.cos(np.pi * _k * (2 * _n + 1) / 2 / BLOCK)
).astype(np.float32)


class Calm(Remedy):
    """colour, lightness: of their noise, 1 leaves what the surroundings have, 2 none, 0 all."""

    title: ClassVar[str] = "calm"
    measures_grain: ClassVar[bool] = True
    margin: ClassVar[int] = BLOCK + STEP

    kind: Literal["calm"] = "calm"
    colour: Weight = 1.0
    lightness: Weight = 1.0

    def applied(self, rgb: Floats, mask: Floats, ground: Ground) -> Floats:
        grain = ground.grain_for(self.id)
        if grain is None or not (self.colour or self.lightness):
            return rgb
        taken = taken_away(grain, self.lightness, self.colour)
        # Noise of single pixels averages out in a view that is smaller than the photo.
        noise = np.array(grain.inside, dtype=np.float32) * np.float32(min(ground.scale, 1.0))
        if float((noise * taken).max()) < UNSEEN:
            return rgb
        planes = opponent_planes(rgb, ground.to_device)
        levels = np.array(grain.levels, dtype=np.float32)
        share = mask * np.float32(min(self.amount, 1.0))
        calmed = without_noise(planes, noise, levels, share, ground.view.region[:2])
        out = np.empty_like(rgb)
        back = np.linalg.inv(ground.to_device).astype(np.float32)
        _blend(rgb.shape[1], rgb, share, planes, calmed, levels, taken, back, TO_PLANES, out)
        return out


def taken_away(grain: Grain, lightness: float, colour: float) -> Floats:
    """Of the noise of lightness and of both colours (3, n), at the levels of a grain."""
    inside, around = (np.array(v, dtype=np.float64) for v in (grain.inside, grain.around))
    left = np.minimum(around / np.maximum(inside, 1e-6), 1.0)
    weight = np.array([[lightness], [colour], [colour]])
    # From all of it over what the surroundings have to nothing.
    left = np.where(weight <= 1.0, 1.0 + weight * (left - 1.0), left * (2.0 - weight))
    # What cannot be told from the photo stays anyhow, and counts.
    left = np.maximum(left - STAYS, 0.0) / (1.0 - STAYS)
    return np.asarray(1.0 - left, dtype=np.float32)


def without_noise(
    planes: Floats, noise: Floats, levels: Floats, share: Floats, corner: tuple[int, int] = (0, 0)
) -> Floats:
    """Opponent planes (3, h, w) without their noise: (3, n), at n levels of light.

    share: where it is wanted, (h, w); elsewhere it need not be right. corner: of the region in its picture,
    to whose grid the blocks keep.
    """
    h, w = planes.shape[1:]
    left, top = (BLOCK - STEP + c % STEP for c in corner)
    tall, wide = (-(-(n + before) // STEP) * STEP for n, before in ((h, top), (w, left)))
    right, below = wide + BLOCK - left - w, tall + BLOCK - top - h
    padded = np.stack(
        [cv2.copyMakeBorder(p, top, below, left, right, cv2.BORDER_REFLECT) for p in planes]
    )
    light = _blocks(padded[0]) * np.float32(OF_LIGHT)
    found = [np.interp(light, levels, row) for row in noise * np.float32(THRESHOLD)]
    wanted = cv2.copyMakeBorder(share, top, below, left, right, cv2.BORDER_CONSTANT, value=0.0)
    # Of a block without anything wanted nothing is made.
    limits = np.where(_blocks(wanted) > 0.0, np.array(found), -1.0).astype(np.float32)
    # Columns by their remainder, so that those of neighbouring blocks lie side by side.
    parted = np.ascontiguousarray(np.stack([padded[..., r::STEP] for r in range(STEP)], axis=1))
    out = np.zeros_like(parted)
    _shrink(-(-parted.shape[2] // STRIP), parted, limits, COSINES, out)
    whole = np.moveaxis(out, 1, 3).reshape(padded.shape)
    return np.ascontiguousarray(whole[:, top : top + h, left : left + w])


def _blocks(plane: Floats) -> Floats:
    """The means of all blocks."""
    mean = cv2.boxFilter(plane, -1, (BLOCK, BLOCK), anchor=(0, 0), borderType=cv2.BORDER_REFLECT)
    return np.ascontiguousarray(mean[: 1 - BLOCK : STEP, : 1 - BLOCK : STEP])


@compiled
def _sum(c: Any, lines: Any, out: Any) -> None:
    """out = c0 line0 + c1 line1 ..., eight of them."""
    a0, a1, a2, a3, a4, a5, a6, a7 = lines
    c0, c1, c2, c3, c4, c5, c6, c7 = c[0], c[1], c[2], c[3], c[4], c[5], c[6], c[7]
    for k in range(out.shape[0]):
        out[k] = (
            c0 * a0[k] + c1 * a1[k] + c2 * a2[k] + c3 * a3[k]
            + c4 * a4[k] + c5 * a5[k] + c6 * a6[k] + c7 * a7[k]
        )  # fmt: skip


@compiled
def _eight(v: Any) -> Any:
    return v[0], v[1], v[2], v[3], v[4], v[5], v[6], v[7]


@compiled
def _columns(down: Any, n: Any) -> Any:
    """The eight columns of every block of a row, each along the row; down: (STEP, w / STEP)."""
    return (
        down[0, 0:n], down[1, 0:n], down[0, 1 : n + 1], down[1, 1 : n + 1],
        down[0, 2 : n + 2], down[1, 2 : n + 2], down[0, 3 : n + 3], down[1, 3 : n + 3],
    )  # fmt: skip


@compiled
def _shrink_row(rows: Any, limit: Any, cosines: Any, waves: Any, total: Any, weight: Any) -> None:
    """One row of blocks over `rows` (STEP, BLOCK, w / STEP), added to total and weight (the same). Loops run
    along the row, so that eight blocks are worked on at once. waves: (BLOCK, BLOCK, blocks), to work in."""
    count, line = limit.shape[0], rows.shape[2]
    down = np.empty((BLOCK, STEP, line), dtype=np.float32)
    says = np.ones(count, dtype=np.float32)
    part = np.empty(line, dtype=np.float32)
    for v in range(BLOCK):
        for r in range(STEP):
            _sum(cosines[v], _eight(rows[r]), down[v, r])
        for u in range(BLOCK):
            wave = waves[v, u]
            _sum(cosines[u], _columns(down[v], count), wave)
            if u + v > 0:
                for k in range(count):
                    strong = abs(wave[k]) >= limit[k]
                    wave[k] = wave[k] if strong else f32(0.0)
                    says[k] += f32(1.0) if strong else f32(0.0)
    for k in range(count):
        # Blocks that need few waves say more (Dabov et al. 2007, eq. 10).
        says[k] = f32(1.0) / says[k] if limit[k] >= f32(0.0) else f32(0.0)
    down[:] = f32(0.0)
    for v in range(BLOCK):
        for j in range(BLOCK):
            _sum(cosines[:, j], _eight(waves[v]), part[:count])
            column = down[v, j % STEP, j // STEP :]
            for k in range(count):
                column[k] += says[k] * part[k]
    for r in range(STEP):
        for i in range(BLOCK):
            back = down[:, r]
            _sum(cosines[:, i], _eight(back), part)
            sums, weights = total[r, i], weight[r, i]
            for k in range(line):
                sums[k] += part[k]
            for ahead in range(BLOCK // STEP):
                over = weights[ahead:]
                for k in range(count):
                    over[k] += says[k]


@kernel(of.stack, of.planes, of.plane, of.stack, least=1)
def _shrink(strips: Any, parted: Any, limits: Any, cosines: Any, out: Any) -> None:
    """parted: (3, STEP, h, w / STEP); limits: of every block, (3, rows, columns), below 0 where it is not
    wanted. Each thread sums up the rows of a strip, from all the blocks that reach into it."""
    rows, count = limits.shape[1:]
    h, line = parted.shape[2:]
    for strip in range(*strips):
        y0, y1 = strip * STRIP, min(strip * STRIP + STRIP, h)
        # Above the strip is room for the blocks that hang over.
        total = np.empty((STEP, STRIP + 2 * BLOCK, line), dtype=np.float32)
        weight = np.empty_like(total)
        waves = np.empty((BLOCK, BLOCK, count), dtype=np.float32)
        first = max((y0 - BLOCK) // STEP + 1, 0)
        last = min((y1 - 1) // STEP + 1, rows)
        for plane in range(3):
            total[:] = f32(0.0)
            weight[:] = f32(0.0)
            for row in range(first, last):
                limit = limits[plane, row]
                if limit.max() >= f32(0.0):
                    y = row * STEP
                    to = y - y0 + BLOCK
                    _shrink_row(
                        parted[plane, :, y : y + BLOCK], limit, cosines, waves,
                        total[:, to : to + BLOCK], weight[:, to : to + BLOCK],
                    )  # fmt: skip
            for r in range(STEP):
                for y in range(y0, y1):
                    sums, weights = total[r, y - y0 + BLOCK], weight[r, y - y0 + BLOCK]
                    for k in range(line):
                        out[plane, r, y, k] = sums[k] / max(weights[k], f32(1e-9))


@kernel(of.planes, of.plane, of.planes, of.planes, of.line, of.plane, of.plane, of.plane, of.planes)
def _blend(
    rows: Any,
    rgb: Any,
    share: Any,
    planes: Any,
    calmed: Any,
    levels: Any,
    taken: Any,
    back: Any,
    o: Any,
    out: Any,
) -> None:
    back, o = constants(back), constants(o)
    last = levels.shape[0] - 1
    for y in range(*rows):
        for x in range(rgb.shape[2]):
            w = share[y, x]
            r, g, b = rgb[0, y, x], rgb[1, y, x], rgb[2, y, x]
            if w > f32(0.0):
                bright = calmed[0, y, x] * f32(OF_LIGHT)
                k = 0
                while k < last - 1 and levels[k + 1] < bright:
                    k += 1
                of_0, of_1, of_2 = taken[0, 0], taken[1, 0], taken[2, 0]
                if last > 0:
                    t = (bright - levels[k]) / max(levels[k + 1] - levels[k], f32(1e-6))
                    t = min(max(t, f32(0.0)), f32(1.0))
                    of_0 = taken[0, k] + t * (taken[0, k + 1] - taken[0, k])
                    of_1 = taken[1, k] + t * (taken[1, k + 1] - taken[1, k])
                    of_2 = taken[2, k] + t * (taken[2, k + 1] - taken[2, k])
                p0, p1, p2 = planes[0, y, x], planes[1, y, x], planes[2, y, x]
                p0 += w * of_0 * (calmed[0, y, x] - p0)
                p1 += w * of_1 * (calmed[1, y, x] - p1)
                p2 += w * of_2 * (calmed[2, y, x] - p2)
                r, g, b = from_planes(back, o, p0, p1, p2)
            out[0, y, x], out[1, y, x], out[2, y, x] = r, g, b
