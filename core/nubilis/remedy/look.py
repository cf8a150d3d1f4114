"""Look: all colours through a table that was made elsewhere."""

from typing import Annotated, ClassVar, Literal

import numpy as np
from pydantic import Field

from nubilis.arrays import Floats
from nubilis.look.cube import Cube
from nubilis.look.through import through
from nubilis.recipe.asset import TableFile
from nubilis.remedy.remedy import Ground, Remedy


class Look(Remedy):
    """table: a .cube file that speaks of sRGB as displays code it; amount: its strength, past 1 more of the
    same."""

    title: ClassVar[str] = "look"

    kind: Literal["look"] = "look"
    id: Annotated[str, Field(pattern=r"^look$")] = "look"
    table: TableFile

    def applied(self, rgb: Floats, mask: Floats, ground: Ground) -> Floats:
        return self.seen(rgb, mask, ground.table(self.table.sha256))

    def seen(self, rgb: Floats, mask: Floats, cube: Cube) -> Floats:
        """A picture (3, h, w) in linear Rec. 2020 with the look, as far as a mask (h, w) says."""
        return through(cube, rgb, mask * np.float32(self.amount))
