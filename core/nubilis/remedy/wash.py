"""Wash: strokes of its own, each towards its tone, or lighter, or darker, in thin layers that build up.

A stroke of strength s leaves 1 - s of the relative chroma that it finds and puts s of its tone's there, so
that n of one tone leave (1 - s)^n and never overshoot it. What strokes come to at a place does not depend on
the photo: they are drawn once, as layers, and laid on whatever is there.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Annotated, Any, ClassVar, Literal, Self

import numpy as np
from pydantic import Field, model_validator

from nubilis import kernel_types as of
from nubilis.arrays import Floats
from nubilis.kernels import constants_of_6, exp2, f32, kernel
from nubilis.mask.brush import Stroke, bounded, drawn_alone, reaches, reins_of
from nubilis.mask.edges import Trace
from nubilis.mask.move import Move
from nubilis.mask.sight import Look
from nubilis.photo.pyramid import View
from nubilis.recipe.model import Identifier, LinearRgb, Share
from nubilis.remedy.oklab_planes import to_oklab
from nubilis.remedy.remedy import Drawing, Ground, Remedy
from nubilis.remedy.tint import (
    BLACK,
    coloured,
    luminance_of_rgb,
    matrices,
    relative,
)
from nubilis.remedy.zones import Zones, shares_of

Reach = Literal["all", "shadows", "mids", "lights"]
REACHES: tuple[Reach, ...] = ("all", "shadows", "mids", "lights")
THIN = 0.1
KEPT_EVERY = 16  # strokes, after which what is drawn so far is kept
# Layers: share of what was there, tone (2); where any stroke has stops, those for each reach (4).
LEFT, TONE, STOPS = 0, 1, 3
JOINTS = Zones.model_fields["low"].default, Zones.model_fields["high"].default


class WashStroke(Stroke):
    """opacity: its strength. tone: the colour that it goes towards, linear Rec. 2020; or stops: how much
    lighter or darker it makes; reach: of which tones, for those."""

    id: Identifier
    opacity: Share = THIN
    tone: LinearRgb | None = None
    stops: Annotated[float, Field(ge=-3.0, le=3.0, allow_inf_nan=False)] = 0.0
    reach: Reach = "all"

    @model_validator(mode="after")
    def _one_purpose(self) -> "WashStroke":
        if self.tone is not None and self.stops:
            raise ValueError("a stroke goes towards a tone or makes lighter or darker, not both")
        return self


@dataclass(frozen=True)
class Layers:
    """What strokes come to, drawn on top of those before them."""

    strokes: tuple[WashStroke, ...]

    @property
    def looks(self) -> tuple[Look, ...]:
        return reins_of(self.strokes)

    def planes(
        self, rgb: Callable[[], Floats], view: View, traces: Sequence[Trace],
        drawn: Callable[[Drawing], Floats],
    ) -> Floats:  # fmt: skip
        """float32 (3 or 7, h, w)."""
        count = STOPS + (len(REACHES) if any(s.stops for s in self.strokes) else 0)
        whole = (len(self.strokes) - 1) // KEPT_EVERY * KEPT_EVERY
        if whole > 0:
            kept = drawn(Layers(self.strokes[:whole]))
            out = np.zeros((count, *view.shape), dtype=np.float32)
            out[: len(kept)] = kept
        else:
            out = np.zeros((count, *view.shape), dtype=np.float32)
            out[LEFT] = 1.0
        earlier = len(reins_of(self.strokes[:whole]))
        reins = iter(traces[earlier:])
        for stroke in self.strokes[whole:]:
            trace = next(reins) if stroke.edges else None
            if found := drawn_alone(stroke, view, trace, rgb() if stroke.edges else None):
                here, pen = found
                _lay(stroke, pen, out[:, here[0], here[1]])
        return out


def _lay(stroke: WashStroke, cover: Floats, out: Floats) -> None:
    """One stroke over the layers where it lies."""
    if stroke.erase:
        _take_away(cover.shape[0], cover, out)
    elif stroke.tone is not None:
        a, b = relative(stroke.tone)
        _lay_tone(cover.shape[0], cover, f32(a), f32(b), out)
    elif stroke.stops:
        out[STOPS + REACHES.index(stroke.reach)] += cover * np.float32(stroke.stops)


@kernel(of.plane, of.real, of.real, of.part_of_planes)
def _lay_tone(rows: Any, cover: Any, a: Any, b: Any, out: Any) -> None:
    for y in range(*rows):
        for x in range(cover.shape[1]):
            c = cover[y, x]
            out[LEFT, y, x] *= f32(1.0) - c
            out[TONE, y, x] += c * (a - out[TONE, y, x])
            out[TONE + 1, y, x] += c * (b - out[TONE + 1, y, x])


@kernel(of.plane, of.part_of_planes)
def _take_away(rows: Any, cover: Any, out: Any) -> None:
    for y in range(*rows):
        for x in range(cover.shape[1]):
            keep = f32(1.0) - cover[y, x]
            out[LEFT, y, x] = f32(1.0) - (f32(1.0) - out[LEFT, y, x]) * keep
            for layer in range(TONE, out.shape[0]):
                out[layer, y, x] *= keep


class Wash(Remedy):
    """Painted by hand inside the mask."""

    title: ClassVar[str] = "wash"

    kind: Literal["wash"] = "wash"
    strokes: Annotated[tuple[WashStroke, ...], Field(max_length=2000)] = ()

    @model_validator(mode="after")
    def _told_apart(self) -> "Wash":
        if len({s.id for s in self.strokes}) < len(self.strokes):
            raise ValueError("two strokes have the same id")
        bounded(self.strokes)
        return self

    def applied(self, rgb: Floats, mask: Floats, ground: Ground) -> Floats:
        near = tuple(s for s in self.strokes if reaches(s, ground.view))
        layers = ground.drawn(Layers(near)) if near else None
        if layers is None:
            return rgb
        out = np.empty_like(rgb)
        joints = np.array(JOINTS, dtype=np.float32)
        share = mask * np.float32(min(self.amount, 1.0))
        m = matrices(ground.to_device)
        _wash(rgb.shape[1], rgb, share, layers, joints, m, out)
        return out

    def abroad(self) -> Self:
        """Strokes are of places, and stay behind."""
        return self.model_copy(update={"strokes": ()})

    def moved(self, move: Move) -> Self:
        return self.model_copy(update={"strokes": tuple(s.moved(move) for s in self.strokes)})


@kernel(of.planes, of.plane, of.planes, of.line, of.planes, of.planes)
def _wash(rows: Any, rgb: Any, share: Any, layers: Any, joints: Any, m: Any, out: Any) -> None:
    m = constants_of_6(m)
    low_joint, high_joint = joints[0], joints[1]
    per = f32(1.0) / (high_joint - low_joint)
    lights = layers.shape[0] > STOPS
    for y in range(*rows):
        for x in range(rgb.shape[2]):
            w = share[y, x]
            r, g, b = rgb[0, y, x], rgb[1, y, x], rgb[2, y, x]
            left = layers[0, y, x]
            every = dark = mid = bright = f32(0.0)
            if lights:
                every, dark = layers[3, y, x], layers[4, y, x]
                mid, bright = layers[5, y, x], layers[6, y, x]
            touched = f32(1.0) - left + abs(every) + abs(dark) + abs(mid) + abs(bright)
            if w * touched > f32(0.0):
                light, a, c = to_oklab(m, r, g, b)
                to_light = f32(1.0) / max(light, f32(BLACK))
                a, c = a * to_light, c * to_light
                na = a + w * (left * a + layers[1, y, x] - a)
                nc = c + w * (left * c + layers[2, y, x] - c)
                shadow, middle, lit = shares_of(light, low_joint, high_joint, per)
                step = every + shadow * dark + middle * mid + lit * bright
                y_new = luminance_of_rgb(m, r, g, b) * exp2(w * step)
                r, g, b = coloured(m, light, na, nc, y_new)
            out[0, y, x], out[1, y, x], out[2, y, x] = r, g, b
