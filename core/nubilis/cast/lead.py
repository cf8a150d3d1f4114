"""Which way a cast goes when no clean place is in the frame: a sample and a made reference say it, and with
them what looks like the sample under more or less of the cast, if that is most of what is masked.
"""

import numpy as np
import numpy.typing as npt

from nubilis.arrays import Floats
from nubilis.cast.chroma import chroma_of
from nubilis.cast.direction import MeasuredPair

WIDTH = 0.06  # log chroma: how far aside the same material may lie
LEAST, MOST = 0.3, 2.5  # of the sample's taint
DIM = 0.02  # luminance below which a chroma says little
SHARE = 0.35  # of the mask that has to look like the sample
OWN = 0.2  # weight of the sample itself, as a share of the mask
ROUNDS = 3


def led_shift(chroma: Floats, mask: Floats, pair: MeasuredPair) -> npt.NDArray[np.float64]:
    """A pair's cast in log chroma (2,), led by the masked places. chroma: (4, h, w) from chroma_planes; mask:
    (h, w) 0..1. It is as long as the sample's own part of it."""
    shift = pair.shift
    size = float(np.hypot(*shift))
    masked = (mask > 0.5) & (chroma[3] > DIM)
    if size < 1e-6 or not masked.any():
        return shift
    away = chroma[:2][:, masked] - chroma_of(pair.reference)[:, None]
    way = shift / size
    for _ in range(ROUNDS):
        along = way @ away
        across = (way[1] * away[0] - way[0] * away[1]) / WIDTH
        alike = np.exp(-0.5 * across**2) * ((along > LEAST * size) & (along < MOST * size))
        if float(alike.sum()) < SHARE * masked.sum():
            return shift
        mean = away @ alike + OWN * masked.sum() * shift
        way = mean / max(float(np.hypot(*mean)), 1e-9)
    return np.asarray(way * float(way @ shift))
