"""Whole: everything, to subtract from or to hold a colour key against."""

from typing import ClassVar, Literal

import numpy as np

from nubilis.arrays import Floats
from nubilis.mask.part import NOTHING, Given, Part
from nubilis.photo.pyramid import View


class Whole(Part):
    """The whole photo."""

    title: ClassVar[str] = "whole photo"

    kind: Literal["whole"] = "whole"

    def coverage(self, rgb_linear: Floats, view: View, given: Given = NOTHING) -> Floats:
        return np.ones(view.shape, dtype=np.float32)
