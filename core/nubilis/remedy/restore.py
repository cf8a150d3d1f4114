"""Restore: back to the photo as it came, or as it was before its look; all of it or its colour only."""

from typing import ClassVar, Literal

import numpy as np

from nubilis.arrays import Floats
from nubilis.cast.chroma import luminance_plane
from nubilis.remedy.mix import mixed
from nubilis.remedy.remedy import Ground, Remedy


class Restore(Remedy):
    """to: as it came, or before the photo's look, where one acts before this cast; colour_only: luminance is
    as the earlier remedies made it. amount counts up to 1."""

    title: ClassVar[str] = "restore"

    kind: Literal["restore"] = "restore"
    to: Literal["came", "before-look"] = "came"
    colour_only: bool = False

    def applied(self, rgb: Floats, mask: Floats, ground: Ground) -> Floats:
        back = ground.came if self.to == "came" else ground.before_look()
        if back is None:
            return rgb
        if self.colour_only:
            now, then = luminance_plane(rgb), luminance_plane(back)
            gain = np.maximum(now, np.float32(0.0)) / np.maximum(then, np.float32(1e-5))
            back = np.asarray(back * gain, dtype=np.float32)
        return mixed(rgb, back, mask * np.float32(min(self.amount, 1.0)))
