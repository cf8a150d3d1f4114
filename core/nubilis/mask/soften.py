"""Blurring and widening of masks, as fast for wide radii as for narrow ones."""

import math

import cv2
import numpy as np

from nubilis.arrays import Floats

GRID = 32  # pixels: coarse work is done in cells that are aligned to the whole photo
_WIDE = 6.0  # pixels: from here on discs are laid in coarser cells


def blurred(mask: Floats, sigma: float) -> Floats:
    """Gaussian blur of float32 (h, w), its rim going on; three boxes where it is wide.

    Source: Kovesi (2010), "Fast almost-Gaussian filtering", eqs. 3, 5.
    """
    if sigma < 3.0:
        return np.asarray(cv2.GaussianBlur(mask, (0, 0), sigma, borderType=cv2.BORDER_REPLICATE))
    ideal = math.sqrt(12.0 * sigma**2 / 3.0 + 1.0)
    narrow = int(ideal) - (int(ideal) % 2 == 0)
    count = round((12.0 * sigma**2 - 3.0 * narrow**2 - 12.0 * narrow - 9.0) / (-4.0 * narrow - 4.0))
    for i in range(3):
        size = narrow if i < count else narrow + 2
        mask = np.asarray(cv2.boxFilter(mask, -1, (size, size), borderType=cv2.BORDER_REPLICATE))
    return mask


def room_of_blur(sigma: float) -> float:
    """Pixels around a place that its blurred value depends on."""
    return 4.0 * sigma + 3.0


def grown(mask: Floats, by: float) -> Floats:
    """Grown by a disc of `by` pixels, or shrunk below 0; float32 (h, w), cut at multiples of GRID."""
    if abs(by) < _WIDE:
        return _laid(mask, by)
    cell = min(2 ** int(math.log2(abs(by) / 3.0)), GRID)
    h, w = mask.shape
    more = (0, -h % cell, 0, -w % cell)
    whole = cv2.copyMakeBorder(mask, *more, cv2.BORDER_REPLICATE) if any(more) else mask
    size = whole.shape[1] // cell, whole.shape[0] // cell
    cells = math.trunc(by / cell)
    coarse = _laid(np.asarray(cv2.resize(whole, size, interpolation=cv2.INTER_AREA)), cells)
    wide = np.asarray(cv2.resize(coarse, whole.shape[::-1], interpolation=cv2.INTER_LINEAR))
    moved = np.maximum(mask, wide[:h, :w]) if by > 0.0 else np.minimum(mask, wide[:h, :w])
    return _laid(moved, by - cells * cell)


def _laid(mask: Floats, by: float) -> Floats:
    work = cv2.dilate if by > 0.0 else cv2.erode
    left = abs(by)
    while left > 0.25:
        r = min(left, 6.0)
        mask = np.asarray(work(mask, _disc(r), borderType=cv2.BORDER_REPLICATE))
        left -= r
    return mask


def _disc(radius: float) -> np.ndarray:
    n = math.ceil(radius)
    ys, xs = np.mgrid[-n : n + 1, -n : n + 1]
    return np.asarray(np.hypot(xs, ys) <= radius + 0.25, dtype=np.uint8)
