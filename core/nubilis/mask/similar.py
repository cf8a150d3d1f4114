"""Similar: what looks like the places clicked and hangs together with them."""

from typing import Annotated, ClassVar, Literal, Self

import cv2
import numpy as np
from pydantic import Field

from nubilis.colour.cielab import lab_planes
from nubilis.mask.edges import Trace, traced
from nubilis.mask.found import FoundPart
from nubilis.mask.move import Move
from nubilis.mask.sight import Sight
from nubilis.mask.walk import FAR, worst_on_the_way
from nubilis.photo.pyramid import pixel_at
from nubilis.recipe.model import Place, Share

EDGE = 448
SHADING = 0.6  # weight of lightness: a fold's shading is the same cloth


class Similar(FoundPart):
    """seeds: the places; tolerance: how far colours may lie from theirs, CIELAB with lightness at SHADING;
    fade: share of the tolerance over which it ends, half of it beyond."""

    title: ClassVar[str] = "similar colour"

    kind: Literal["similar"] = "similar"
    seeds: Annotated[tuple[Place, ...], Field(min_length=1, max_length=50)]
    tolerance: Annotated[float, Field(ge=0.5, le=100.0, allow_inf_nan=False)] = 14.0
    fade: Share = 0.5

    def moved(self, move: Move) -> Self:
        return self.model_copy(update={"seeds": move.places(self.seeds)})

    def trace(self, sight: Sight) -> Trace:
        view = sight.fit(EDGE)
        rgb = sight.read(view)
        lab = np.ascontiguousarray(np.moveaxis(lab_planes(rgb), 0, 2))
        # Grain would make islands, and each click another colour.
        lab = np.asarray(cv2.bilateralFilter(lab, 5, 6.0, 2.0))
        lab[..., 0] *= SHADING
        cost = np.full(view.shape, FAR, dtype=np.float32)
        start = np.full(view.shape, FAR, dtype=np.float32)
        for seed in self.seeds:
            x, y = pixel_at(seed, view.shape)
            np.minimum(cost, np.linalg.norm(lab - lab[y, x], axis=2), out=cost)
            start[y, x] = 0.0
        off = worst_on_the_way(cost, start)
        ends = self.tolerance * (1.0 + self.fade / 2.0)
        t = np.clip((ends - off) / max(self.tolerance * self.fade, 1e-3), 0.0, 1.0)
        return traced(rgb, (t * t * (3.0 - 2.0 * t)).astype(np.float32), view)
