"""How much noise lies inside a mask and around it: at full size, on flat patches of like lightness."""

from collections.abc import Callable, Sequence

import cv2
import numpy as np
import numpy.typing as npt

from nubilis.arrays import Floats
from nubilis.photo.pyramid import View
from nubilis.remedy.opponent import OF_LIGHT, opponent_planes
from nubilis.remedy.remedy import Grain

SIDES = (32, 16, 10)  # of a patch, pixels of the photo: smaller ones where no larger one has room
EACH = 4  # patches for a lightness, inside and around
LEVELS = (0.1, 0.3, 0.5, 0.7, 0.9)  # of the masked lightness, quantiles
LIKE = 0.06  # of light, 0..1: what counts as a lightness
INSIDE = 0.9  # of the mask
APART = 0.03  # of light, 0..1 between two levels that are worth telling apart
# Immerkaer (1996), "Fast noise variance estimation": blind to flat colour and to even slopes.
NOISE_ONLY = np.array([[1, -2, 1], [-2, 4, -2], [1, -2, 1]], dtype=np.float32) / 6.0
Patches = list[View]
Seen = Callable[[View], Floats]


def measure_grain(
    size: tuple[int, int],
    to_device: Floats,
    settled: Floats,
    mask: Floats,
    others: Floats,
    now: Seen,
    before: Seen,
) -> Grain | None:
    """size: of the photo; to_device: to its primaries; settled, mask: at the analysis size, linear Rec. 2020
    (3, h, w) and (h, w); others: all masks together; now, before: a region of the photo as it is to be
    measured, and as it stands before its casts, which takes the place of surroundings that are not there.
    None where nothing is masked."""
    if not mask.max() > 0.0:
        return None
    planes = opponent_planes(settled, to_device)
    light = planes[0] * np.float32(OF_LIGHT)
    inside, outside = mask > INSIDE * float(mask.max()), others == 0.0
    for side in SIDES:
        flat = _flatness(planes, size, side)
        levels, found = [], []
        for level in _levels(light[inside]):
            near = np.abs(light - level) < LIKE
            within = _patches(near & inside, flat, size, side)
            if within:
                beside = _patches(near & outside, flat, size, side)
                around = (now, beside) if beside else (before, within)
                levels.append(level)
                found.append([_noise(to_device, *where) for where in ((now, within), around)])
        if levels:
            inside_of, around_of = (tuple(zip(*s, strict=True)) for s in zip(*found, strict=True))
            return Grain(tuple(levels), inside_of, around_of)
    return None


def _levels(light: Floats) -> list[float]:
    """Typical lightnesses, no two alike."""
    levels: list[float] = []
    for level in np.quantile(light, LEVELS):
        if not levels or level - levels[-1] > APART:
            levels.append(float(level))
    return levels


def _flatness(planes: Floats, size: tuple[int, int], side: int) -> Floats:
    """The spread of colour within a patch around each place."""
    wide = max(3, round(side * max(planes.shape[1:]) / max(size)) | 1)
    spread = np.zeros(planes.shape[1:], dtype=np.float32)
    for p in planes:
        mean = cv2.blur(p, (wide, wide))
        spread += np.maximum(cv2.blur(p * p, (wide, wide)) - mean * mean, 0.0)
    return spread


def _patches(
    wanted: npt.NDArray[np.bool_], spread: Floats, size: tuple[int, int], side: int
) -> Patches:
    """The flattest ones, apart from each other."""
    scale = max(size) / max(wanted.shape)
    reach = max(1, round(side / 2 / scale))
    # At the rim of the photo a patch would hang over.
    whole = cv2.erode(
        wanted.astype(np.uint8),
        np.ones((2 * reach + 1, 2 * reach + 1), np.uint8),
        borderType=cv2.BORDER_CONSTANT,
        borderValue=0,
    )
    cost = np.where(whole > 0, spread, np.inf)
    found: Patches = []
    while len(found) < EACH and np.isfinite(cost).any():
        y, x = np.unravel_index(int(cost.argmin()), cost.shape)
        cost[
            max(0, y - 2 * reach) : y + 2 * reach + 1, max(0, x - 2 * reach) : x + 2 * reach + 1
        ] = np.inf
        if view := _around(int((x + 0.5) * scale), int((y + 0.5) * scale), size, side):
            found.append(view)
    return found


def _around(x: int, y: int, size: tuple[int, int], side: int) -> View | None:
    x0, y0 = x - side // 2, y - side // 2
    box = max(x0, 0), max(y0, 0), min(x0 + side, size[0]), min(y0 + side, size[1])
    return View(size, box) if box[2] - box[0] > 8 and box[3] - box[1] > 8 else None


def _noise(to_device: Floats, seen: Seen, patches: Sequence[View]) -> tuple[float, ...]:
    """Standard deviations (3,) in the patch with the least: others have texture, too."""
    found = []
    for view in patches:
        fine = [
            cv2.filter2D(p, -1, NOISE_ONLY)[1:-1, 1:-1]
            for p in opponent_planes(seen(view), to_device)
        ]
        found.append([float(np.median(np.abs(p))) / 0.6745 for p in fine])
    return tuple(float(v) for v in np.min(found, axis=0))
