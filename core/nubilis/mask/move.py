"""Where what was drawn on one photo lies on another of the same things."""

import math
from dataclasses import dataclass

from nubilis.recipe.model import Place

FARTHEST = -1.0, 2.0  # what a recipe's places may be


@dataclass(frozen=True)
class Move:
    """Turned, made larger or smaller, and shifted: x' = a x - b y + dx, y' = b x + a y + dy, fractions of the
    long edge."""

    a: float = 1.0
    b: float = 0.0
    dx: float = 0.0
    dy: float = 0.0

    @property
    def scale(self) -> float:
        return math.hypot(self.a, self.b)

    @property
    def turn(self) -> float:
        """Clockwise, degrees."""
        return math.degrees(math.atan2(self.b, self.a))

    def place(self, at: Place) -> Place:
        x = self.a * at[0] - self.b * at[1] + self.dx
        y = self.b * at[0] + self.a * at[1] + self.dy
        low, high = FARTHEST
        return min(max(x, low), high), min(max(y, low), high)

    def places(self, at: tuple[Place, ...]) -> tuple[Place, ...]:
        return tuple(self.place(p) for p in at)

    def size(self, length: float, most: float) -> float:
        return min(length * self.scale, most)
