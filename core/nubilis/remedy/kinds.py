"""The registry of remedies: a new kind is one file with its parameters and one name here."""

from typing import Annotated

from pydantic import Field

from nubilis.remedy.even_out import EvenOut
from nubilis.remedy.match import Match
from nubilis.remedy.neutralise import Neutralise
from nubilis.remedy.restore import Restore
from nubilis.remedy.shift import Shift

AnyRemedy = Annotated[Neutralise | Match | Shift | EvenOut | Restore, Field(discriminator="kind")]
