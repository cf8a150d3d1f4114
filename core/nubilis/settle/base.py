"""Settings of light and tone; the base: how the whole photo is set before any cast is looked at."""

from typing import Annotated

from pydantic import Field

from nubilis.colour.temperature import COLDEST, MOST_TINT, NEUTRAL_KELVIN, WARMEST
from nubilis.recipe.model import Model

Signed = Annotated[float, Field(ge=-1.0, le=1.0, allow_inf_nan=False)]


class Settings(Model):
    """temperature: of the light that fell, in kelvin; tint: how far above (green) or below (magenta) the
    black body it lay, in thousandths of Duv (CIE 1960). exposure: in stops. black, white: levels of
    cube-root luminance that become 0 and 1; pivot: the one that contrast holds. The rest: -1..1, resting at
    0."""

    temperature: Annotated[float, Field(ge=WARMEST, le=COLDEST, allow_inf_nan=False)] = (
        NEUTRAL_KELVIN
    )
    tint: Annotated[float, Field(ge=-MOST_TINT, le=MOST_TINT, allow_inf_nan=False)] = 0.0
    exposure: Annotated[float, Field(ge=-5.0, le=5.0, allow_inf_nan=False)] = 0.0
    contrast: Signed = 0.0
    pivot: Annotated[float, Field(ge=0.15, le=0.85, allow_inf_nan=False)] = 0.5
    black: Annotated[float, Field(ge=-0.1, le=0.4, allow_inf_nan=False)] = 0.0
    white: Annotated[float, Field(ge=0.6, le=1.3, allow_inf_nan=False)] = 1.0
    highlights: Signed = 0.0
    shadows: Signed = 0.0
    saturation: Signed = 0.0

    @property
    def rest(self) -> bool:
        """Whether they leave everything as it is."""
        names = [n for n in Settings.model_fields if n != "pivot"]
        return all(getattr(self, n) == Settings.model_fields[n].default for n in names)


class Base(Settings):
    """Switched off it does nothing."""

    on: bool = True

    @property
    def active(self) -> bool:
        return self.on and not self.rest


RESTING = Base()
