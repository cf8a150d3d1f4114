"""Cutting a region out of a small picture, from places that are surely or probably in it."""

import cv2
import numpy as np
import numpy.typing as npt

from nubilis.arrays import Floats
from nubilis.mask.edges import guide_planes

ROUNDS = 2
OUT, IN, MAYBE_OUT, MAYBE_IN = cv2.GC_BGD, cv2.GC_FGD, cv2.GC_PR_BGD, cv2.GC_PR_FGD


def cut_out(rgb: Floats, said: npt.NDArray[np.uint8]) -> Floats:
    """0 or 1, float32 (h, w). rgb: (3, h, w) linear; said: OUT, IN, MAYBE_OUT or MAYBE_IN.

    Source: Rother, Kolmogorov, Blake (2004), "GrabCut".
    """
    marks = said.copy()
    inside, outside = (np.isin(marks, kinds) for kinds in ((IN, MAYBE_IN), (OUT, MAYBE_OUT)))
    if inside.any() and outside.any():
        codes = np.moveaxis(guide_planes(rgb) * 255.0 + 0.5, 0, 2).astype(np.uint8)
        models = np.zeros((1, 65)), np.zeros((1, 65))
        cv2.setRNGSeed(1)  # the same picture is always cut the same way
        cv2.grabCut(
            np.ascontiguousarray(codes), marks, None, *models, ROUNDS, cv2.GC_INIT_WITH_MASK
        )
    return np.isin(marks, (IN, MAYBE_IN)).astype(np.float32)
