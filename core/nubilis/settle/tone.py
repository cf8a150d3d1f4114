"""The tone curve: exposure aside, how lightness becomes lightness."""

import numpy as np

from nubilis.arrays import Floats
from nubilis.colour.rgb import Matrix
from nubilis.settle.base import Settings

STEEPEST = 0.8  # each setting changes the slope by this at most, so that no tones swap places
TOP = 2.0  # of cube-root luminance: how far above white the table goes
ENTRIES = 2048
MOST_GAIN = 32.0


def curve(t: Matrix, base: Settings) -> Matrix:
    """Cube-root luminance in, the same out; monotone, with 0 and 1 held but for black and white points."""
    t = np.maximum((np.asarray(t, dtype=np.float64) - base.black) / (base.white - base.black), 0.0)
    low, over = np.minimum(t, 1.0), np.maximum(t - 1.0, 0.0)
    low = _about(base.pivot, low, base.contrast)
    low = low + base.shadows * STEEPEST * low * (1.0 - low) ** 3
    low = low + base.highlights * STEEPEST * low**3 * (1.0 - low)
    return np.asarray(low + over)


def _about(pivot: float, t: Matrix, contrast: float) -> Matrix:
    """More or less contrast, with 0, the pivot and 1 held: about the middle, after a power that puts the
    pivot there."""
    power = np.log(0.5) / np.log(pivot)
    even = np.power(t, power)
    even = even - contrast * STEEPEST * np.sin(2.0 * np.pi * even) / (2.0 * np.pi)
    return np.asarray(np.power(np.maximum(even, 0.0), 1.0 / power))


def gain_table(base: Settings) -> Floats:
    """Luminance's gain over cube-root luminance 0..TOP, float32 (ENTRIES,)."""
    t = np.linspace(0.0, TOP, ENTRIES)
    t[0] = t[1] / 16.0  # the gain at black is that just above it
    return np.minimum((curve(t, base) / t) ** 3, MOST_GAIN).astype(np.float32)
