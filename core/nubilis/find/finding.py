"""A region of the field made into a finding: figures, samples, cause and one sentence of reason."""

import hashlib
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import cv2
import numpy as np
import numpy.typing as npt

from nubilis.arrays import Floats
from nubilis.cast.chroma import luminance_plane
from nubilis.cast.field import guide_of, guided
from nubilis.cast.take_off import take_off
from nubilis.colour.cielab import lab_planes
from nubilis.colour.difference import difference_plane
from nubilis.find.cause import Box, Cause, guess
from nubilis.find.colours import Reduced, scaled
from nubilis.find.field import Field
from nubilis.find.reason import reason
from nubilis.find.regions import Region
from nubilis.proof.casts import hue_word

Place = tuple[float, float]
Line = list[Place]
Sure = Literal["unsure", "possible", "likely"]
FLAT = 0.03  # scaled log chroma: spread within a patch that counts as one colour
RIM = 3  # pixels at the finder's size
DARK, CLIPPING = 25.0, 96.0  # L*
PALE = 18.0  # CIELAB chroma at which a paint is half as good a sample as a neutral
NEAR_ENOUGH = 0.15  # scaled log chroma: how far a reference may lie from what is expected
LIKE_LIGHT = 15.0  # L*
PATCHES = 3
OTHER_MATERIAL, OTHER_PLACE = 12.0, 0.06  # CIELAB without the cast; fraction of the long edge
POSSIBLE, LIKELY = 0.3, 0.7  # confidences from which on these words are used


@dataclass(frozen=True)
class Told:
    """What is said of a possible cast. Places, boxes and lines are fractions of the long edge.

    sure: the confidence in a word; towards: the hue that it adds; severity: mean CIEDE2000 in the
    region; cast: mean L*, a*, b* that it adds; area: share of the photo; outline: closed lines round
    the region; shift: log cone chroma (2,); further: more tainted places on other materials, each with its
    reference; alternative: not what the finder holds for likely, but one of the answers to its question;
    face: the one, from the left, from 1, that bears it out.
    """

    id: str
    cause: Cause
    confidence: float
    sure: Sure
    towards: str
    severity: float
    cast: tuple[float, float, float]
    box: Box
    area: float
    source: Box | None
    tainted: Place
    reference: Place | None
    reason: str
    outline: tuple[Line, ...]
    shift: tuple[float, float]
    further: tuple[tuple[Place, Place], ...] = ()
    alternative: bool = False
    face: int | None = None


@dataclass(frozen=True, eq=False, kw_only=True)
class Finding(Told):
    """A possible cast. mask: float32 (h, w) 0..1 at the analysis size."""

    mask: Floats


@dataclass(frozen=True, eq=False)
class Without:
    """CIELAB (3, h, w) at the finder's size with a region's cast and without it, and CIEDE2000 between."""

    lab: Floats
    clean: Floats
    difference: Floats


def without(small: Reduced, region: Region) -> Without:
    everywhere = np.ones(small.shape, dtype=np.float32)
    lab = lab_planes(small.rgb)
    clean = lab_planes(take_off(small.rgb, everywhere, region.amount, region.shift))
    return Without(lab, clean, difference_plane(lab, clean))


def make_finding(field: Field, region: Region, colours: Without, picture: Floats) -> Finding:
    """picture: the settled photo at the analysis size, (3, h, w) linear Rec. 2020."""
    small, inside = field.small, region.inside
    L, a, b = (float(v) for v in (colours.lab - colours.clean)[:, inside].mean(axis=1))
    box = _box(inside)
    severity = float(colours.difference[inside].mean())
    why = guess(colours.lab, colours.clean, inside)
    (tainted, reference), *further = _patches(field, region, colours.clean)
    towards = hue_word((a, b)) or "another hue"
    places = inside, reference and _spot(reference, small.shape)
    return Finding(
        id=_name(region.shift, box),
        cause=why.cause,
        confidence=region.confidence,
        sure=_in_a_word(region.confidence),
        towards=towards,
        severity=severity,
        cast=(L, a, b),
        box=box,
        area=float(inside.mean()),
        source=why.source,
        tainted=_place(tainted, small),
        reference=None if reference is None else _place(reference, small),
        reason=reason(towards, severity, why, small.light, *places),
        outline=_outline(inside),
        mask=_mask(region, small, picture),
        shift=region.shift,
        further=tuple((_place(t, small), _place(r, small)) for t, r in further if r is not None),
    )


def _patches(
    field: Field, region: Region, clean: Floats
) -> list[tuple[tuple[int, int], tuple[int, int] | None]]:
    """Tainted patches on up to PATCHES materials, the best first, and what they should be, where that stands
    in the photo."""
    inside, paleness = region.inside.copy(), _paleness(clean)
    ys, xs = np.indices(inside.shape)
    found: list[tuple[tuple[int, int], tuple[int, int] | None]] = []
    while len(found) < PATCHES and inside.any():
        y, x = _tainted_patch(field, inside, paleness)
        found.append(((y, x), _reference_patch(field, region, (y, x))))
        unlike = np.sqrt(((clean - clean[:, y, x, None, None]) ** 2).sum(axis=0)) > OTHER_MATERIAL
        inside &= unlike & (np.hypot(ys - y, xs - x) > OTHER_PLACE * max(inside.shape))
    return found


def _name(shift: tuple[float, float], box: Box) -> str:
    """The same whenever the same is found again."""
    told = [round(v, 2) for v in (*shift, *box)]
    return "finding-" + hashlib.sha256(repr(told).encode()).hexdigest()[:8]


def _in_a_word(confidence: float) -> Sure:
    if confidence >= LIKELY:
        return "likely"
    return "possible" if confidence >= POSSIBLE else "unsure"


def enlarged(v: Floats, picture: Floats) -> Floats:
    """A plane at the finder's size stretched over a picture's."""
    h, w = picture.shape[1:]
    return np.asarray(cv2.resize(v, (w, h), interpolation=cv2.INTER_LINEAR))


def _mask(region: Region, small: Reduced, picture: Floats) -> Floats:
    """The region, a little wider, its edge laid along the picture's."""
    wide = cv2.dilate(region.inside.astype(np.uint8), np.ones((5, 5), np.uint8)).astype(np.float32)
    guide = guide_of(luminance_plane(picture))
    r = max(2, round(max(picture.shape[1:]) / max(small.shape) * 2))
    soft = guided(guide, enlarged(wide, picture), r, 1e-3)
    t = np.clip((soft - 0.1) / 0.8, 0.0, 1.0)
    return np.asarray(t * t * (3.0 - 2.0 * t), dtype=np.float32)


def _flatness(small: Reduced) -> Floats:
    """1 on patches of one colour, towards 0 on edges and texture."""
    spread = np.zeros(small.shape, dtype=np.float32)
    for u in (*small.u, small.bright):
        mean = cv2.blur(u, (5, 5))
        spread += np.maximum(cv2.blur(u * u, (5, 5)) - mean * mean, 0.0)
    return np.asarray(1.0 / (1.0 + spread / FLAT**2), dtype=np.float32)


def _paleness(clean: Floats) -> Floats:
    """1 for a neutral, towards 0 for strong colours; clean: CIELAB without the cast."""
    return np.asarray(1.0 / (1.0 + (np.hypot(clean[1], clean[2]) / PALE) ** 2), dtype=np.float32)


def _tainted_patch(
    field: Field, inside: npt.NDArray[np.bool_], paleness: Floats
) -> tuple[int, int]:
    """Row and column of the flattest strongly tainted patch, rather of pale paint: on it a cast shows."""
    light = field.small.light
    # In the dark a cast is mostly noise; near white it is clipped.
    visible = np.clip((light - DARK) / DARK, 0.0, 1.0) * (light < CLIPPING) + 1e-3
    score = field.nearby * _flatness(field.small) * paleness * inside * visible
    y, x = np.unravel_index(int(score.argmax()), score.shape)
    return int(y), int(x)


def _reference_patch(
    field: Field, region: Region, tainted: tuple[int, int]
) -> tuple[int, int] | None:
    """The untainted patch that looks as the tainted one would without its cast."""
    small = field.small
    calm = np.stack([cv2.blur(u, (5, 5)) for u in small.u])
    light = cv2.blur(small.light, (5, 5))
    k = scaled(region.shift) * region.amount[tainted]
    expected = calm[:, tainted[0], tainted[1]] - k
    off = np.hypot(calm[0] - expected[0], calm[1] - expected[1])
    darker = np.abs(light - light[tainted])
    untouched = cv2.dilate(region.inside.astype(np.uint8), np.ones((7, 7), np.uint8)) == 0
    untouched &= field.proof < 0.25 * float(field.proof[region.inside].mean())
    untouched &= _off_the_rim(small.shape)
    usable = untouched & (darker < LIKE_LIGHT) & (_flatness(small) > 0.4)
    if not usable.any():
        return None
    cost = np.where(usable, off + 0.004 * darker, np.inf)
    y, x = np.unravel_index(int(cost.argmin()), cost.shape)
    return (int(y), int(x)) if off[y, x] < NEAR_ENOUGH else None


def _off_the_rim(shape: tuple[int, int]) -> npt.NDArray[np.bool_]:
    """A sample's disc should lie within the photo."""
    within = np.zeros(shape, dtype=bool)
    within[RIM:-RIM, RIM:-RIM] = True
    return within


def _place(at: tuple[int, int], small: Reduced) -> Place:
    long_edge = max(small.shape)
    return (at[1] + 0.5) / long_edge, (at[0] + 0.5) / long_edge


def _spot(at: tuple[int, int], shape: tuple[int, int]) -> npt.NDArray[np.bool_]:
    spot = np.zeros(shape, dtype=bool)
    spot[at] = True
    return spot


def _box(inside: npt.NDArray[np.bool_]) -> Box:
    ys, xs = np.nonzero(inside)
    long_edge = max(inside.shape)
    ends: Sequence[float] = (xs.min(), ys.min(), xs.max() + 1, ys.max() + 1)
    x0, y0, x1, y1 = (float(v) / long_edge for v in ends)
    return x0, y0, x1, y1


def _outline(inside: npt.NDArray[np.bool_]) -> tuple[Line, ...]:
    long_edge = max(inside.shape)
    contours, _ = cv2.findContours(inside.astype(np.uint8), cv2.RETR_CCOMP, cv2.CHAIN_APPROX_SIMPLE)
    rounded = [cv2.approxPolyDP(c, 0.7, True)[:, 0] for c in contours]
    return tuple(
        [(float(x + 0.5) / long_edge, float(y + 0.5) / long_edge) for x, y in c]
        for c in rounded
        if len(c) >= 3
    )
