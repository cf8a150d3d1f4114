"""Cutting a region out of a small picture, from places that are surely or probably in it."""

import cv2
import numpy as np
import numpy.typing as npt

from nubilis.arrays import Floats
from nubilis.colour.oklab import linear_rgb_to_oklab

CHROMA = 3.0  # OKLab a and b against L
OUT, IN, MAYBE_OUT, MAYBE_IN = cv2.GC_BGD, cv2.GC_FGD, cv2.GC_PR_BGD, cv2.GC_PR_FGD


def cut_out(rgb: Floats, said: npt.NDArray[np.uint8], rounds: int = 1) -> Floats:
    """0 or 1, float32 (h, w). rgb: (3, h, w) linear; said: OUT, IN, MAYBE_OUT or MAYBE_IN; rounds: of
    learning the colours anew, which helps where little was said.

    Source: Rother, Kolmogorov, Blake (2004), "GrabCut".
    """
    marks = said.copy()
    inside, outside = (np.isin(marks, kinds) for kinds in ((IN, MAYBE_IN), (OUT, MAYBE_OUT)))
    if inside.any() and outside.any():
        codes = _opponents(rgb)
        models = np.zeros((1, 65)), np.zeros((1, 65))
        cv2.setRNGSeed(1)  # the same picture is always cut the same way
        cv2.grabCut(codes, marks, None, *models, rounds, cv2.GC_INIT_WITH_MASK)
    return np.isin(marks, (IN, MAYBE_IN)).astype(np.float32)


def _opponents(rgb: Floats) -> npt.NDArray[np.uint8]:
    """OKLab as codes (h, w, 3), hue drawn out: a face before a grey wall differs by little else."""
    lab = linear_rgb_to_oklab(np.moveaxis(np.maximum(rgb, 0.0), 0, 2))
    lab[..., 1:] = 0.5 + CHROMA * lab[..., 1:]
    return np.ascontiguousarray(np.clip(lab * 255.0 + 0.5, 0.0, 255.0).astype(np.uint8))
