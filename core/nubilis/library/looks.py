"""Eight looks of our own: each a short recipe of remedies, made into a table when it is laid.

The recipes are what documents them (docs/looks.md); colours go through them one by one, so a table says all.
"""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from nubilis.colour.profile import srgb
from nubilis.errors import TableError
from nubilis.look.cube import Cube, write_cube
from nubilis.look.through import entries_of
from nubilis.remedy.alone import colours_alone
from nubilis.remedy.by_hue import ByHue, HuePoint
from nubilis.remedy.channel_mix import ChannelMix
from nubilis.remedy.curves import Curves
from nubilis.remedy.glaze import Glaze
from nubilis.remedy.remedy import Remedy
from nubilis.remedy.shift import Shift
from nubilis.remedy.tone import Tone
from nubilis.remedy.zones import Zones

SIZE = 33


@dataclass(frozen=True)
class OwnLook:
    """purpose: in a few words; recipe: its remedies in order."""

    name: str
    purpose: str
    recipe: tuple[Remedy, ...]


def _point(hue: float, turn: float = 0.0, saturation: float = 0.0, light: float = 0.0) -> HuePoint:
    return HuePoint(id=f"h{hue:.0f}", hue=hue, turn=turn, saturation=saturation, light=light)


OWN: tuple[OwnLook, ...] = (
    OwnLook(
        "Footlights",
        "warm lights over cool shadows",
        (
            Zones(
                id="z",
                shadows_yellow=-0.025,
                shadows_red=-0.008,
                lights_yellow=0.02,
                lights_red=0.008,
            ),
            Tone(id="t", contrast=0.12),
        ),
    ),
    OwnLook(
        "Velvet drape",
        "deep reds, soft greens, rich dark",
        (
            ByHue(
                id="h",
                points=(
                    _point(25.0, saturation=0.25, light=-0.03),
                    _point(140.0, saturation=-0.25),
                ),
            ),
            Curves(id="c", lightness=((0.25, 0.21), (0.75, 0.77))),
        ),
    ),
    OwnLook(
        "Matinee",
        "bright and airy, little contrast",
        (
            Curves(id="c", lightness=((0.0, 0.06), (0.4, 0.47), (1.0, 1.0))),
            Shift(id="s", saturation=-0.12),
        ),
    ),
    OwnLook(
        "Night wagon",
        "day turned to moonlight",
        (
            Tone(id="t", exposure=-0.7, temperature=5000.0, contrast=0.1),
            Shift(id="s", saturation=-0.35),
        ),
    ),
    OwnLook(
        "Old programme",
        "faded print: lifted blacks, yellowed whites",
        (
            Curves(id="c", lightness=((0.0, 0.14), (0.5, 0.54), (1.0, 0.95))),
            Glaze(id="g", target=(0.55, 0.42, 0.2), amount=0.12),
            Shift(id="s", saturation=-0.2),
        ),
    ),
    OwnLook(
        "Tin thunder",
        "silvery, hard, next to no colour",
        (Shift(id="s", saturation=-0.65), Tone(id="t", contrast=0.35)),
    ),
    OwnLook(
        "Lime tree in October",
        "greens go to gold",
        (
            ByHue(
                id="h",
                points=(_point(125.0, turn=-45.0, saturation=0.1), _point(250.0), _point(30.0)),
                width=34.0,
            ),
        ),
    ),
    OwnLook(
        "Plaster",
        "black and white, skin light",
        (
            ChannelMix(
                id="m", red=(0.6, 0.35, 0.05), green=(0.6, 0.35, 0.05), blue=(0.6, 0.35, 0.05)
            ),
            Curves(id="c", lightness=((0.3, 0.28), (0.7, 0.73))),
        ),
    ),
)


@lru_cache(len(OWN))
def own_table(name: str) -> bytes:
    """The .cube file of a look of our own. Raises TableError."""
    look = next((one for one in OWN if one.name == name), None)
    if look is None:
        raise TableError("there is no look of that name")
    to_device = srgb().encoding_matrix.astype(np.float32)
    entries = entries_of(lambda rgb: colours_alone(look.recipe, rgb, to_device), SIZE)
    return write_cube(Cube(name, 3, entries))
