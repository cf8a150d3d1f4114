"""Colour key: what lies within ranges of hue, saturation and luminance."""

import math
from collections.abc import Sequence
from typing import Annotated, Any, ClassVar, Literal

import numpy as np
import numpy.typing as npt
from pydantic import Field, model_validator

from nubilis import kernel_types as of
from nubilis.arrays import Floats
from nubilis.colour.oklab import (
    OKCONES_TO_OKLAB,
    REC2020_TO_OKCONES,
    linear_rgb_to_oklab,
    oklab_to_oklch,
)
from nubilis.kernels import cbrt, compiled, constants, f32, kernel, smoothstep
from nubilis.mask.part import NOTHING, Given, Part
from nubilis.photo.pyramid import View
from nubilis.recipe.model import LinearRgb, Model

FULL_CHROMA = 0.33  # OKLCh chroma called saturation 100; about the most that sRGB holds
_CONES = REC2020_TO_OKCONES.astype(np.float32)
_MIX = OKCONES_TO_OKLAB.astype(np.float32)
MOST_COLOURS = 50
HOLE_WEIGHTS = np.array([0.5, 1.0, 1.0])  # of OKLab: the shade of a colour is the same colour
WIDEST, NARROWEST = 0.05, 0.004  # OKLab: what one sample leaves out; an eye tells 0.02 apart
Colours = Annotated[tuple[LinearRgb, ...], Field(max_length=MOST_COLOURS)]
_Finite = Annotated[float, Field(ge=-360.0, le=720.0, allow_inf_nan=False)]
_Width = Annotated[float, Field(ge=0.0, le=360.0, allow_inf_nan=False)]


class Range(Model):
    """core: full effect from low to high; fade: widths below and above over which it falls to nothing.

    Hue in degrees of OKLCh, where a core may pass 360 (350 to 380 is red); saturation and luminance
    0..100, of OKLCh chroma 0.33 and OKLab lightness 1.
    """

    on: bool = True
    core: tuple[_Finite, _Finite]
    fade: tuple[_Width, _Width]

    @model_validator(mode="after")
    def _ordered(self) -> "Range":
        if self.core[1] < self.core[0]:
            raise ValueError("a core's low end must not lie above its high end")
        return self

    def numbers(self) -> list[float]:
        return [*self.core, *self.fade, float(self.on)]


class ColourKey(Part):
    """Calculated from each photo's own colours. taken, left_out: colours, linear Rec. 2020 as they were
    seen, that it was made from and that are cut out of it with what is near them."""

    title: ClassVar[str] = "colour key"

    kind: Literal["colour-key"] = "colour-key"
    hue: Range
    saturation: Range
    luminance: Range
    taken: Colours = ()
    left_out: Colours = ()

    def coverage(self, rgb_linear: Floats, view: View, given: Given = NOTHING) -> Floats:
        out = np.empty(rgb_linear.shape[1:], dtype=np.float32)
        ranges = [r.numbers() for r in (self.hue, self.saturation, self.luminance)]
        _key(len(out), rgb_linear, np.array(ranges, dtype=np.float32), _CONES, _MIX, out)
        if self.left_out:
            _leave_out(len(out), rgb_linear, self._holes(), _CONES, _MIX, out)
        return out

    def _holes(self) -> Floats:
        """(n, 4): OKLab, and how far from it nothing is left, which is never as far as a taken colour."""
        holes = linear_rgb_to_oklab(np.array(self.left_out)) * HOLE_WEIGHTS
        wide = np.full(len(holes), WIDEST)
        for colour in self.taken:
            near = np.linalg.norm(
                holes - linear_rgb_to_oklab(np.array(colour)) * HOLE_WEIGHTS, axis=1
            )
            wide = np.minimum(wide, np.maximum(near / 2.5, NARROWEST))
        return np.column_stack([holes, wide]).astype(np.float32)


def key_with(
    key: ColourKey | None, colours: Sequence[LinearRgb], name: str, spacious: float = 1.0
) -> ColourKey:
    """A key round the colours that one was made from, and further ones."""
    taken = (*(key.taken if key else ()), *colours)[-MOST_COLOURS:]
    made = key_around(taken, name, spacious)
    if key is None:
        return made.model_copy(update={"taken": taken})
    ranges = {n: getattr(made, n) for n in ("hue", "saturation", "luminance")}
    return key.model_copy(update={**ranges, "taken": taken})


def key_without(key: ColourKey, colours: Sequence[LinearRgb]) -> ColourKey:
    """A key that leaves colours out."""
    return key.model_copy(update={"left_out": (*key.left_out, *colours)[-MOST_COLOURS:]})


def key_around(colours: Sequence[Sequence[float]], name: str, spacious: float = 1.0) -> ColourKey:
    """A key that takes in the given colours, linear Rec. 2020 (3,) each, with some room, which
    `spacious` multiplies.

    Hue counts less the greyer the colours are: among greys it is left out.
    """
    lch = oklab_to_oklch(linear_rgb_to_oklab(np.asarray(colours, dtype=np.float64)))
    chroma = lch[:, 1] * 100.0 / FULL_CHROMA
    weights = np.exp(1j * np.radians(lch[:, 2])) * chroma
    middle = float(np.degrees(np.angle(weights.sum()))) % 360.0
    off = (lch[:, 2] - middle + 180.0) % 360.0 - 180.0
    room = spacious * float(np.clip(300.0 / max(float(chroma.mean()), 1e-3), 12.0, 60.0))
    room = min(room, 120.0)
    hue = Range(
        on=bool(chroma.mean() > 2.0),
        core=(middle + float(off.min()) - room / 2, middle + float(off.max()) + room / 2),
        fade=(room, room),
    )
    return ColourKey(
        id=name,
        hue=hue,
        saturation=_roomy(chroma, 6.0 * spacious),
        luminance=_roomy(lch[:, 0] * 100.0, 12.0 * spacious),
    )


def _roomy(values: npt.NDArray[Any], room: float) -> Range:
    low, high = float(values.min()) - room, float(values.max()) + room
    return Range(core=(max(low, 0.0), min(high, 100.0)), fade=(room, room))


@compiled
def _within(v: Any, low: Any, high: Any, below: Any, above: Any) -> Any:
    if v < low:
        return smoothstep(f32(1.0) - (low - v) / max(below, f32(1e-4)))
    if v > high:
        return smoothstep(f32(1.0) - (v - high) / max(above, f32(1e-4)))
    return f32(1.0)


@compiled
def _angle(y: Any, x: Any) -> Any:
    """atan2 in degrees 0..360, within 0.01. Source: Abramowitz, Stegun (1964), eq. 4.4.49."""
    ax, ay = abs(x), abs(y)
    z = min(ax, ay) / max(ax, ay, f32(1e-12))
    s = z * z
    p = f32(0.0208351) * s - f32(0.0851330)
    p = p * s + f32(0.1801410)
    p = p * s - f32(0.3302995)
    p = p * s + f32(0.9998660)
    a = p * z * f32(180.0 / math.pi)
    if ay > ax:
        a = f32(90.0) - a
    if x < f32(0.0):
        a = f32(180.0) - a
    return f32(360.0) - a if y < f32(0.0) else a


@compiled
def _range(ranges: Any, which: Any) -> Any:
    """Core's ends, fades below and above, and whether it counts."""
    r = ranges[which]
    return r[0], r[1], r[2], r[3], r[4] > f32(0.5)


@kernel(of.planes, of.plane, of.plane, of.plane, of.plane)
def _key(rows: Any, rgb: Any, ranges: Any, m: Any, mix: Any, out: Any) -> None:
    m, mix = constants(m), constants(mix)
    hue_low, hue_high, hue_below, hue_above, by_hue = _range(ranges, 0)
    pale, vivid, pale_below, vivid_above, by_chroma = _range(ranges, 1)
    dark, bright, dark_below, bright_above, by_light = _range(ranges, 2)
    centre = (hue_low + hue_high) * f32(0.5)
    half = min((hue_high - hue_low) * f32(0.5), f32(180.0))
    for y in range(*rows):
        for x in range(out.shape[1]):
            r, g, b = rgb[0, y, x], rgb[1, y, x], rgb[2, y, x]
            l = cbrt(m[0][0] * r + m[0][1] * g + m[0][2] * b)
            n = cbrt(m[1][0] * r + m[1][1] * g + m[1][2] * b)
            s = cbrt(m[2][0] * r + m[2][1] * g + m[2][2] * b)
            a = mix[1][0] * l + mix[1][1] * n + mix[1][2] * s
            c = mix[2][0] * l + mix[2][1] * n + mix[2][2] * s
            key = f32(1.0)
            if by_hue:
                off = _angle(c, a) - centre
                off -= f32(360.0) * np.floor(off / f32(360.0) + f32(0.5))
                key *= _within(off, -half, half, hue_below, hue_above)
            if by_chroma:
                chroma = np.sqrt(a * a + c * c) * f32(100.0 / FULL_CHROMA)
                key *= _within(chroma, pale, vivid, pale_below, vivid_above)
            if by_light:
                light = (mix[0][0] * l + mix[0][1] * n + mix[0][2] * s) * f32(100.0)
                key *= _within(light, dark, bright, dark_below, bright_above)
            out[y, x] = key


@kernel(of.planes, of.plane, of.plane, of.plane, of.plane)
def _leave_out(rows: Any, rgb: Any, holes: Any, m: Any, mix: Any, out: Any) -> None:
    m, mix = constants(m), constants(mix)
    for y in range(*rows):
        for x in range(out.shape[1]):
            if out[y, x] == f32(0.0):
                continue
            r, g, b = rgb[0, y, x], rgb[1, y, x], rgb[2, y, x]
            l = cbrt(m[0][0] * r + m[0][1] * g + m[0][2] * b)
            n = cbrt(m[1][0] * r + m[1][1] * g + m[1][2] * b)
            s = cbrt(m[2][0] * r + m[2][1] * g + m[2][2] * b)
            left = out[y, x]
            for i in range(holes.shape[0]):
                off = f32(0.0)
                for j in range(3):
                    v = mix[j][0] * l + mix[j][1] * n + mix[j][2] * s
                    d = v * (f32(0.5) if j == 0 else f32(1.0)) - holes[i, j]
                    off += d * d
                left *= smoothstep(np.sqrt(off) / holes[i, 3] - f32(1.0))
            out[y, x] = left
