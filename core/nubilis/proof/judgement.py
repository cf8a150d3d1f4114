"""The engine watches its own result: what looks over- or underdone, said calmly, with place and remedy."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

import cv2
import numpy as np
import numpy.typing as npt

from nubilis.arrays import Floats
from nubilis.colour.skin import skin_like
from nubilis.recipe.model import LinearRgb

Act = Literal["less", "soften", "exclude", "leave-out", "own-cast", "more", "even", "sample"]
Place = tuple[float, float]
Offset = tuple[float, float]

BEYOND, BEYOND_LEAST = 0.12, 1.5  # share of the cast past its reference, and CIELAB
HELD = 1.0  # CIEDE2000 that a kept colour may move
SKIN_LEFT, SKIN_SHARE = 0.55, 0.02  # of its chroma; of the mask
CLIPPED = 0.005  # of the mask
NOISIER, NOISE_LEAST = 1.35, 0.25  # times; CIELAB
SMOOTHER, GRAIN_LEAST = 0.6, 0.4  # times what lies around; CIELAB: below it nobody sees a grain
EDGE = 2.0  # CIELAB a pixel at the analysis size
MASK_EDGE = 0.08  # of the mask a pixel: where it has an edge at all
SLOW, CALM, STEP = (
    1.0,
    0.15,
    1.0,
)  # CIELAB: slope a pixel of a smooth tone, its noise, a step that shows
ANOTHER, ANOTHER_SHARE = (
    1.5,
    0.03,
)  # nats by which another cast explains a place better; of the mask
UNDONE, UNDONE_SHARE, UNDONE_LEAST = (
    0.4,
    0.03,
    4.0,
)  # of what looks like a sample; of the mask; CIELAB
ALIKE, ALIKE_L = (0.5, 2.2), 25.0  # of the sample's taint; L* around it
LESS = 0.8  # of the amount, where no better share is known


@dataclass(frozen=True)
class Concern:
    """at: fractions of the long edge; act: what would tame it; amount: with "less", the share of the
    amounts to keep; colour: with "exclude", linear Rec. 2020 as the photo came; pair: with "leave-out",
    its id."""

    kind: Literal[
        "beyond",
        "kept",
        "skin",
        "clipped",
        "noise",
        "smooth",
        "edge",
        "steps",
        "contrary",
        "another",
        "undone",
    ]
    text: str
    at: Place | None
    act: Act
    amount: float | None = None
    colour: LinearRgb | None = None
    pair: str | None = None


@dataclass(frozen=True, eq=False)
class Change:
    """A photo before and after all of its casts, whose planes serve the judgement of each.

    before, after: CIELAB D50 (3, h, w) of a part of the analysis size; clipped: where a channel newly reached
    an end of the gamut, bool (h, w); skin_there: where a colour of skin is skin, (h, w), None for everywhere;
    code: CIELAB of one code value of the photo; origin: column and row at
    which the part begins; long_edge: of the whole, None where the part is all of it.
    """

    before: Floats
    after: Floats
    clipped: npt.NDArray[np.bool_]
    code: float = 0.0
    origin: tuple[int, int] = (0, 0)
    long_edge: int | None = None
    skin_there: Floats | None = None

    def middle(self, weight: npt.NDArray[np.floating]) -> Place:
        """Where there is most of it, fractions of the long edge."""
        calm = cv2.GaussianBlur(np.maximum(weight, 0.0).astype(np.float32), (0, 0), 4.0)
        y, x = np.unravel_index(int(calm.argmax()), calm.shape)
        long_edge = self.long_edge or max(calm.shape)
        left, top = self.origin
        return (left + float(x) + 0.5) / long_edge, (top + float(y) + 0.5) / long_edge

    @cached_property
    def skin(self) -> Floats:
        like = skin_like(self.before)
        return like if self.skin_there is None else like * self.skin_there

    @cached_property
    def chroma(self) -> tuple[Floats, Floats]:
        """Before and after."""
        one, two = (np.asarray(cv2.magnitude(v[1], v[2])) for v in (self.before, self.after))
        return one, two

    @cached_property
    def grain(self) -> tuple[Floats, Floats]:
        """Square of what is finer than a pixel and a half, before and after."""
        return _grain(self.before), _grain(self.after)

    @cached_property
    def flat(self) -> Floats:
        """1 where the photo has no edges, towards 0 on them."""
        slope = slope_of(self.before[0])
        return np.asarray(1.0 / (1.0 + (slope / 2.0) ** 2), dtype=np.float32)

    @cached_property
    def slopes(self) -> tuple[Floats, Floats]:
        """CIELAB a pixel, before and after."""
        return _steps(self.before), _steps(self.after)

    @cached_property
    def ramps(self) -> npt.NDArray[np.bool_]:
        """Where tones change slowly and without grain."""
        calm = cv2.GaussianBlur(self.grain[0], (0, 0), 4.0) < CALM**2
        slope = self.slopes[0]
        return np.asarray((slope > 0.02) & (slope < SLOW) & calm)

    @cached_property
    def new_steps(self) -> Floats:
        """CIELAB a pixel by which a step was made that was not there."""
        made = _steps(self.after - self.before) - self.slopes[0]
        return np.asarray(np.maximum(made, 0.0))


def beyond(number: str, at: Place | None, before: Offset, now: Offset) -> Concern | None:
    """before, now: a*, b* of a sample less those of its reference."""
    size = float(np.hypot(*before))
    past = -float(np.dot(now, before)) / max(size * size, 1e-9)
    if past < BEYOND or float(np.hypot(*now)) < BEYOND_LEAST:
        return None
    text = f"Sample {number} has gone past its reference by {np.hypot(*now):.1f}"
    return Concern("beyond", text, at, "less", amount=1.0 / (1.0 + past))


def undone(
    number: str, sample: Floats, wanted: Floats, change: Change, mask: Floats, act: Act
) -> Concern | None:
    """What looks like a sample and still has more than half of its taint. sample, wanted: CIELAB (3,) before,
    and of the reference."""
    way = (sample - wanted)[1:]
    size = float(np.hypot(*way))
    if size < UNDONE_LEAST:
        return None
    carried, across = _along(change.before, wanted, way)
    left, _ = _along(change.after, wanted, way)
    alike = (carried > ALIKE[0]) & (carried < ALIKE[1]) & (np.abs(across) < max(0.25 * size, 3.0))
    alike &= np.abs(change.before[0] - sample[0]) < ALIKE_L
    like = mask * alike
    still = like * ((left > 0.5 * carried) & (left * size > UNDONE_LEAST))
    share = float(still.sum() / max(float(like.sum()), 1e-6))
    if share < UNDONE or like.sum() < UNDONE_SHARE * mask.sum():
        return None
    text = f"{_part(share)} of what looks like sample {number} still carries the cast"
    return Concern("undone", text, change.middle(still), act)


def _along(lab: Floats, wanted: Floats, way: Floats) -> tuple[Floats, Floats]:
    """How far they lie from the wanted one along the taint, 1 being the sample's; and aside of it, CIELAB."""
    size = np.float32(np.hypot(*way))
    one, two = (np.float32(v) / size for v in way)
    a, b = lab[1] - np.float32(wanted[1]), lab[2] - np.float32(wanted[2])
    return (a * one + b * two) / size, a * two - b * one


def _part(share: float) -> str:
    for least, word in ((0.9, "Nearly all"), (0.65, "Most"), (0.45, "Half")):
        if share > least:
            return word
    return "Two fifths"


def not_kept(number: str, at: Place | None, moved: float, colour: LinearRgb) -> Concern | None:
    if moved < HELD:
        return None
    text = f"Kept colour {number} has moved by {moved:.1f}"
    return Concern("kept", text, at, "exclude", colour=colour)


def contradict(
    number: str, others: Sequence[str], left: float, at: Place | None, pair: str
) -> Concern:
    """number: of a sample; others: of those that it contradicts; left: what the match leaves of it."""
    text = f"Sample {number} contradicts {' and '.join(others)}: the match misses it by {left:.1f}"
    return Concern("contrary", text, at, "leave-out", pair=pair)


def another_cast(better: Floats, mask: Floats) -> Concern | None:
    """A place that turns another way than this cast. better: nats (h, w); both of the whole photo."""
    there = ((better > ANOTHER) & (mask > 0.5)).astype(np.uint8)
    count, labels, stats, _ = cv2.connectedComponentsWithStats(there)
    if count < 2:
        return None
    largest = 1 + int(stats[1:, cv2.CC_STAT_AREA].argmax())
    share = float(stats[largest, cv2.CC_STAT_AREA]) / max(float(mask.sum()), 1.0)
    if share < ANOTHER_SHARE:
        return None
    inside = cv2.distanceTransform((labels == largest).astype(np.uint8), cv2.DIST_L2, 3)
    y, x = np.unravel_index(int(inside.argmax()), inside.shape)
    at = (float(x) + 0.5) / max(mask.shape), (float(y) + 0.5) / max(mask.shape)
    text = f"Another cast may lie here: {100 * share:.0f} % of the mask turns another way, left as it is"
    return Concern("another", text, at, "own-cast")


def judge(change: Change, mask: Floats) -> list[Concern]:
    """What can be seen in the pixels under one cast's mask, (h, w) 0..1."""
    if float(mask.max(initial=0.0)) < 0.05:
        return []
    found = [
        check(change, mask) for check in (_skin, _clipped, _noise, _smooth, _steps_seen, _edge)
    ]
    return [concern for concern in found if concern is not None]


def _skin(change: Change, mask: Floats) -> Concern | None:
    like = change.skin * mask
    if like.sum() < SKIN_SHARE * mask.sum():
        return None
    before, after = change.chroma
    left = float((after * like).sum() / max(float((before * like).sum()), 1e-9))
    if left > SKIN_LEFT:
        return None
    text = f"Skin has lost {100 * (1 - left):.0f} % of its colour"
    return Concern("skin", text, change.middle(like * (before - after)), "less", amount=LESS)


def _clipped(change: Change, mask: Floats) -> Concern | None:
    newly = change.clipped * mask
    share = float(newly.sum() / mask.sum())
    if share < CLIPPED:
        return None
    text = f"{100 * share:.1f} % of the mask has newly reached an end of the gamut"
    return Concern("clipped", text, change.middle(newly), "less", amount=LESS)


def _noise(change: Change, mask: Floats) -> Concern | None:
    """Fine variation where the photo was flat."""
    before, after = change.grain
    flat = mask * change.flat
    was, now = (float(np.sqrt((g * flat).sum() / flat.sum())) for g in (before, after))
    if now < NOISIER * was or now - was < NOISE_LEAST:
        return None
    text = f"Noise has grown by {100 * (now / max(was, 1e-3) - 1):.0f} %"
    return Concern("noise", text, change.middle((after - before) * flat), "less", amount=LESS)


def _smooth(change: Change, mask: Floats) -> Concern | None:
    """A patch without the grain that it had, and that lies around it."""
    before, after = change.grain
    inside, outside = mask * change.flat, (1.0 - mask) * change.flat
    if float(outside.sum()) < 1.0:
        return None
    was, now = (float(np.sqrt((g * inside).sum() / inside.sum())) for g in (before, after))
    around = float(np.sqrt((after * outside).sum() / outside.sum()))
    if around < GRAIN_LEAST or now > SMOOTHER * min(was, around):
        return None
    text = f"Smoother than what lies around: {100 * (1 - now / around):.0f} % less grain"
    return Concern("smooth", text, change.middle((before - after) * inside), "less", amount=LESS)


def _steps_seen(change: Change, mask: Floats) -> Concern | None:
    """Smooth tones without noise, stretched until one code value of the photo shows as a step."""
    if change.code == 0.0:
        return None
    before, after = change.slopes
    ramp = mask * change.ramps
    if ramp.sum() < 0.02 * mask.sum():
        return None
    stretched = float((after * ramp).sum() / (before * ramp).sum())
    if stretched * change.code < STEP:
        return None
    text = f"Smooth tones are stretched {stretched:.1f} times and may show steps"
    return Concern("steps", text, change.middle((after - before) * ramp), "less", amount=LESS)


def _edge(change: Change, mask: Floats) -> Concern | None:
    """Steps that were made where the mask has its edge, on ground that was smooth."""
    rim = slope_of(mask) > MASK_EDGE
    if not rim.any():
        return None
    shows = change.new_steps * rim
    if float(np.quantile(shows[rim], 0.9)) < EDGE:
        return None
    return Concern("edge", "The mask's edge can be seen", change.middle(shows), "soften")


def _grain(lab: Floats) -> Floats:
    total = np.zeros(lab.shape[1:], dtype=np.float32)
    for v in lab:
        fine = v - cv2.GaussianBlur(v, (0, 0), 1.5)
        total += fine * fine
    return total


def _steps(lab: Floats) -> Floats:
    """Steps of colour to the neighbours, per pixel."""
    total = np.zeros(lab.shape[1:], dtype=np.float32)
    for v in lab:
        for way in ((1, 0), (0, 1)):
            step = cv2.Sobel(v, cv2.CV_32F, *way, ksize=3, scale=0.125)
            total += step * step
    return np.sqrt(total)


def slope_of(v: Floats) -> Floats:
    """Steps to the neighbours, per pixel."""
    dx, dy = (cv2.Sobel(v, cv2.CV_32F, *way, ksize=3, scale=0.125) for way in ((1, 0), (0, 1)))
    return np.asarray(cv2.magnitude(dx, dy))
