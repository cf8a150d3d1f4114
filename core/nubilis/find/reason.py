"""Why a finding is one, as a plain sentence."""

import numpy as np
import numpy.typing as npt

from nubilis.arrays import Floats
from nubilis.find.cause import Guess

DARKER = 8.0  # L* between a region and the rest that is worth a word
AT_ONE_SIDE = 0.42  # share of the frame from where on a place lies at its side
_SOURCES = {
    "spill": "A strongly {towards} surface beside them would throw this colour.",
    "foliage": "Leaves, or a green surface, would do this.",
    "water": "It is dappled, as light from moving water is.",
    "flash": "A lamp of another colour than the rest, such as a flash, would do this.",
    "mixed-light": "A second lamp, or the sky, would do this.",
    "gel": "Only a coloured lamp makes this hue.",
}


def reason(
    towards: str,
    severity: float,
    why: Guess,
    light: Floats,
    inside: npt.NDArray[np.bool_],
    reference: npt.NDArray[np.bool_] | None,
) -> str:
    """light: L* (h, w); inside: the region; reference: where the same colour stands untainted."""
    surfaces = f"{_kind(light, inside)} {where(inside)} turn {severity:.1f} towards {towards}"
    if reference is not None:
        surfaces += f", while the same colour stands without it {where(reference)}"
    source = _SOURCES.get(why.cause, "")
    return f"{surfaces}. {source}".strip().format(towards=towards)


def _kind(light: Floats, inside: npt.NDArray[np.bool_]) -> str:
    rest = light[~inside]
    gap = float(light[inside].mean() - rest.mean()) if rest.size else 0.0
    if gap < -DARKER:
        return "The darker surfaces"
    return "The lighter surfaces" if gap > DARKER else "Surfaces"


def where(inside: npt.NDArray[np.bool_]) -> str:
    """The part of the frame in which a place or region lies, in words."""
    ys, xs = np.nonzero(inside)
    x, y = xs.mean() / inside.shape[1], ys.mean() / inside.shape[0]
    across = "left" if x < AT_ONE_SIDE else "right" if x > 1.0 - AT_ONE_SIDE else ""
    down = "upper" if y < AT_ONE_SIDE else "lower" if y > 1.0 - AT_ONE_SIDE else ""
    if across and down:
        return f"at the {down} {across}"
    if across:
        return f"on the {across}"
    return f"in the {down} part" if down else "in the middle"
