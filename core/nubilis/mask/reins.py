"""Reins: where a stroke that follows edges is let go, found by walking out from its middle line."""

from dataclasses import dataclass

import numpy as np

from nubilis.mask.edges import Trace, calm_guide, traced
from nubilis.mask.sight import Sight, draw_line
from nubilis.mask.walk import FAR, WALL, change_from
from nubilis.recipe.model import Place

RADIUS = 36.0  # pixels that the pen's radius is worked out on
LONGEST = 768  # of the picture that a stroke is worked out on
MIDDLE = 0.3  # of the radius: the pen's middle, whose colours are all meant
HOLD, FALL = 0.04, 0.08  # change of the root of linear light that is let through, and then fades


@dataclass(frozen=True)
class Reins:
    """size: the pen's diameter, fraction of the long edge; points: of its way."""

    size: float
    points: tuple[Place, ...]

    def trace(self, sight: Sight) -> Trace:
        at = np.array(self.points) * sight.long_edge
        radius = self.size * sight.long_edge / 2.0
        low, high = np.floor(at.min(axis=0) - radius), np.ceil(at.max(axis=0) + radius)
        zoom = min(RADIUS / radius, LONGEST / max(float((high - low).max()), 1.0))
        box = int(low[0]), int(low[1]), int(high[0]) + 1, int(high[1]) + 1
        view = sight.around(box, zoom)
        rgb = sight.read(view)
        start = np.full(view.shape, WALL, dtype=np.float32)
        wide = radius * view.long_edge / sight.long_edge
        draw_line(start, self.points, view, 2.0 * wide + 3.0, FAR)
        draw_line(start, self.points, view, 2.0 * MIDDLE * wide, 0.0)
        changed = change_from(calm_guide(rgb), start)
        t = np.clip(1.0 - (changed - HOLD) / FALL, 0.0, 1.0)
        return traced(rgb, (t * t * (3.0 - 2.0 * t)).astype(np.float32), view)
