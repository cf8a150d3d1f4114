"""How the whole photo stands when its casts are looked at."""

from dataclasses import dataclass

from nubilis.arrays import Floats
from nubilis.settle.apply import settled
from nubilis.settle.base import RESTING, Base


@dataclass(frozen=True)
class Settled:
    """All that is done to the whole photo before its casts: today its base. Part of the key of everything
    that is worked out on the settled photo."""

    base: Base = RESTING

    @property
    def active(self) -> bool:
        return self.base.active

    def applied(self, rgb_linear: Floats) -> Floats:
        """The picture in this state, float32 (3, h, w) linear Rec. 2020; itself when at rest."""
        return settled(rgb_linear, self.base) if self.active else rgb_linear


AS_IT_CAME = Settled()
