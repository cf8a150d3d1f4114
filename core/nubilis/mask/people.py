"""People: a person, or a feature, as it was found once; what was found is kept as a picture, so that the mask
stays what it is, whatever finds people later."""

from typing import Annotated, ClassVar, Literal

import numpy as np
from pydantic import Field, model_validator

from nubilis.arrays import Floats
from nubilis.mask.edges import Trace, read_trace, traced
from nubilis.mask.found import within_reach
from nubilis.mask.part import NOTHING, Given, Part
from nubilis.mask.picture import stretched
from nubilis.mask.sight import Look, Sight
from nubilis.photo.pyramid import Region, View, overlap
from nubilis.recipe.asset import Asset
from nubilis.recipe.model import Place, Share

EDGE = 768  # pixels that the photo's edges are followed at
Feature = Literal["person", "face", "skin", "lips", "eyes", "irises", "brows", "teeth"]


class People(Part):
    """of: what of a person; who: which of those found, from the left, counted from 1; of none, all of them;
    asset: a grey PNG, how surely each place belongs to it; corner, extent: what of the photo it covers,
    fractions of the long edge; sure: from which value on something is in it, a little, and fully; edges:
    whether it is drawn to the photo's edges; model: what found it."""

    title: ClassVar[str] = "person"

    kind: Literal["people"] = "people"
    of: Feature
    who: Annotated[int, Field(ge=1, le=100)] | None = None
    asset: Asset
    corner: Place = (0.0, 0.0)
    extent: tuple[Annotated[float, Field(gt=0.0, le=1.0)], Annotated[float, Field(gt=0.0, le=1.0)]]
    sure: tuple[Share, Share] = (0.0, 1.0)
    edges: bool = True
    model: Annotated[str, Field(max_length=200)] = ""

    @model_validator(mode="after")
    def _rising(self) -> "People":
        if self.sure[0] >= self.sure[1]:
            raise ValueError("what is sure begins above what is not")
        return self

    @property
    def looks(self) -> tuple[Look, ...]:
        return (self.bare,) if self.edges else ()

    def trace(self, sight: Sight) -> Trace:
        box = self.reach(sight.size)
        view = sight.around(box, EDGE / max(box[2] - box[0], box[3] - box[1], 1))
        return traced(sight.read(view), self._drawn(view, Given(codes_of=sight.codes_of)), view)

    def coverage(self, rgb_linear: Floats, view: View, given: Given = NOTHING) -> Floats:
        def draw(rgb: Floats, at: View) -> Floats:
            if self.edges:
                return read_trace(given.traces[0], rgb, at)
            return self._drawn(at, given)

        return within_reach(self, rgb_linear, view, draw)

    def reach(self, size: tuple[int, int]) -> Region:
        edge = max(size)
        x0, y0 = (int(v * edge) for v in self.corner)
        x1, y1 = (
            int(np.ceil((a + b) * edge)) for a, b in zip(self.corner, self.extent, strict=True)
        )
        return overlap((x0, y0, x1, y1), (0, 0, *size)) or (0, 0, 0, 0)

    def _drawn(self, view: View, given: Given) -> Floats:
        seen = stretched(given.codes_of(self.asset), view, (self.corner, self.extent))
        low, high = self.sure
        drawn: Floats = (seen - np.float32(low)) / np.float32(high - low)
        return np.clip(drawn, 0.0, 1.0)
