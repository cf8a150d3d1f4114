"""The registry of remedies: a new kind is one file with its parameters and one name here."""

from typing import Annotated

from pydantic import Field

from nubilis.remedy.neutralise import Neutralise

AnyRemedy = Annotated[Neutralise, Field()]
