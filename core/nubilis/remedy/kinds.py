"""The registry of remedies: a new kind is one file with its parameters and one name here."""

from typing import Annotated

from pydantic import Field

from nubilis.remedy.by_hue import ByHue
from nubilis.remedy.calm import Calm
from nubilis.remedy.channel_mix import ChannelMix
from nubilis.remedy.curves import Curves
from nubilis.remedy.even_out import EvenOut
from nubilis.remedy.glaze import Glaze
from nubilis.remedy.in_plane import InPlane
from nubilis.remedy.match import Match
from nubilis.remedy.neutralise import Neutralise
from nubilis.remedy.recolour import Recolour
from nubilis.remedy.restore import Restore
from nubilis.remedy.shift import Shift
from nubilis.remedy.tone import Tone
from nubilis.remedy.wash import Wash
from nubilis.remedy.zones import Zones

AnyRemedy = Annotated[
    Neutralise
    | Match
    | Shift
    | EvenOut
    | Recolour
    | Wash
    | Glaze
    | Zones
    | Tone
    | Calm
    | ByHue
    | InPlane
    | Curves
    | ChannelMix
    | Restore,
    Field(discriminator="kind"),
]
