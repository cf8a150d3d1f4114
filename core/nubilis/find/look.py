"""Looking for casts: from a photo, and what the editor has said, to a map and a short list of findings."""

from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt

from nubilis.arrays import Floats
from nubilis.colour.cielab import lab_planes
from nubilis.colour.difference import difference_plane
from nubilis.engine import Engine
from nubilis.find.cause import Box, Cause, guess
from nubilis.find.colours import RED_GREEN, Seen, seen
from nubilis.find.field import Field, Looker, Words
from nubilis.find.regions import LEAST_CONFIDENCE, Region, regions
from nubilis.proof.casts import hue_word
from nubilis.remedy.amount import guide_of, guided
from nubilis.remedy.chroma import luminance_plane
from nubilis.remedy.neutralise import take_off

Place = tuple[float, float]
FLAT = 0.03  # scaled log chroma: spread within a patch that counts as one colour
NEAR_ENOUGH = 0.15  # scaled log chroma: how far a reference may lie from what is expected
LIKE_LIGHT = 15.0  # L*


@dataclass(frozen=True, eq=False)
class Finding:
    """A possible cast. Places and boxes are fractions of the long edge.

    severity: mean CIEDE2000 in the region; cast: mean L*, a*, b* that it adds; area: share of the
    photo; mask: float32 (h, w) 0..1 at the analysis size; shift: log cone chroma (2,).
    """

    id: str
    cause: Cause
    confidence: float
    severity: float
    cast: tuple[float, float, float]
    box: Box
    area: float
    source: Box | None
    tainted: Place
    reference: Place | None
    reason: str
    mask: Floats
    shift: tuple[float, float]


@dataclass(frozen=True, eq=False)
class Look:
    """taint: estimated CIEDE2000, float32 (h, w) at the analysis size, also of casts that are too
    uncertain to be findings, the fainter the less certain."""

    taint: Floats
    findings: tuple[Finding, ...]


def look(engine: Engine, words: Words = Words()) -> Look:
    """Look at the untouched photo."""
    picture = engine.pyramid.analysis
    small = seen(picture)
    field = Looker(small).field(words)
    found: list[Finding] = []
    taint = np.zeros(small.shape, dtype=np.float32)
    lab = lab_planes(small.rgb)
    # Whoever has said where or which way does not ask whether.
    least = 0.0 if words.said else LEAST_CONFIDENCE
    for region in regions(field):
        lab_clean = _lab_without(small, region)
        difference = difference_plane(lab, lab_clean)
        weight = 1.0 if words.said else min(1.0, region.confidence / LEAST_CONFIDENCE)
        np.maximum(taint, np.float32(weight) * difference, out=taint)
        if region.confidence >= least:
            id_ = f"finding-{len(found) + 1}"
            mask = _mask(region, small, picture)
            found.append(_finding(id_, field, region, mask, (lab, lab_clean, difference)))
    return Look(_enlarged(taint, picture), tuple(found))


def _lab_without(small: Seen, region: Region) -> Floats:
    """CIELAB of the small photo without the region's cast."""
    everywhere = np.ones(small.shape, dtype=np.float32)
    return lab_planes(take_off(small.rgb, everywhere, region.amount, region.shift))


def _finding(
    id_: str, field: Field, region: Region, mask: Floats, colours: tuple[Floats, Floats, Floats]
) -> Finding:
    """mask: at the analysis size; colours: CIELAB with and without the cast, and their difference."""
    small, inside = field.seen, region.inside
    lab, lab_clean, difference = colours
    L, a, b = (float(v) for v in (lab - lab_clean)[:, inside].mean(axis=1))
    severity = float(difference[inside].mean())
    why = guess(lab, inside, (a, b))
    tainted = _tainted_patch(field, inside)
    reference = _reference_patch(field, region, tainted)
    return Finding(
        id=id_,
        cause=why.cause,
        confidence=region.confidence,
        severity=severity,
        cast=(L, a, b),
        box=_box(inside),
        area=float(inside.mean()),
        source=why.source,
        tainted=_place(tainted, small),
        reference=None if reference is None else _place(reference, small),
        reason=_reason((a, b), severity, why.cause, why.source is not None, reference is not None),
        mask=mask,
        shift=region.shift,
    )


def _enlarged(v: Floats, picture: Floats) -> Floats:
    h, w = picture.shape[1:]
    return np.asarray(cv2.resize(v, (w, h), interpolation=cv2.INTER_LINEAR))


def _mask(region: Region, small: Seen, picture: Floats) -> Floats:
    """The region, a little wider, its edge laid along the picture's."""
    wide = cv2.dilate(region.inside.astype(np.uint8), np.ones((5, 5), np.uint8)).astype(np.float32)
    guide = guide_of(luminance_plane(picture))
    r = max(2, round(max(picture.shape[1:]) / max(small.shape) * 2))
    soft = guided(guide, _enlarged(wide, picture), r, 1e-3)
    t = np.clip((soft - 0.1) / 0.8, 0.0, 1.0)
    return np.asarray(t * t * (3.0 - 2.0 * t), dtype=np.float32)


def _flatness(small: Seen) -> Floats:
    """1 on patches of one colour, towards 0 on edges and texture."""
    spread = np.zeros(small.shape, dtype=np.float32)
    for u in (*small.u, small.bright):
        mean = cv2.blur(u, (5, 5))
        spread += np.maximum(cv2.blur(u * u, (5, 5)) - mean * mean, 0.0)
    return np.asarray(1.0 / (1.0 + spread / FLAT**2), dtype=np.float32)


def _tainted_patch(field: Field, inside: npt.NDArray[np.bool_]) -> tuple[int, int]:
    """Row and column of the flattest strongly tainted patch."""
    usable = (field.seen.light > 20.0) & (field.seen.light < 97.0)
    score = field.taint * _flatness(field.seen) * inside * (usable + 1e-3)
    y, x = np.unravel_index(int(score.argmax()), score.shape)
    return int(y), int(x)


def _reference_patch(
    field: Field, region: Region, tainted: tuple[int, int]
) -> tuple[int, int] | None:
    """The untainted patch that looks as the tainted one would without its cast."""
    small = field.seen
    calm = np.stack([cv2.blur(u, (5, 5)) for u in small.u])
    light = cv2.blur(small.light, (5, 5))
    k = np.array([region.shift[0] * RED_GREEN, region.shift[1]]) * region.amount[tainted]
    expected = calm[:, tainted[0], tainted[1]] - k
    off = np.hypot(calm[0] - expected[0], calm[1] - expected[1])
    darker = np.abs(light - light[tainted])
    untouched = cv2.dilate(region.inside.astype(np.uint8), np.ones((7, 7), np.uint8)) == 0
    untouched &= field.proof < 0.25 * float(field.proof[region.inside].mean())
    usable = untouched & (darker < LIKE_LIGHT) & (_flatness(small) > 0.4)
    if not usable.any():
        return None
    cost = np.where(usable, off + 0.004 * darker, np.inf)
    y, x = np.unravel_index(int(cost.argmin()), cost.shape)
    return (int(y), int(x)) if off[y, x] < NEAR_ENOUGH else None


def _place(at: tuple[int, int], small: Seen) -> Place:
    long_edge = max(small.shape)
    return (at[1] + 0.5) / long_edge, (at[0] + 0.5) / long_edge


def _box(inside: npt.NDArray[np.bool_]) -> Box:
    ys, xs = np.nonzero(inside)
    long_edge = max(inside.shape)
    ends: Sequence[float] = (xs.min(), ys.min(), xs.max() + 1, ys.max() + 1)
    x0, y0, x1, y1 = (float(v) / long_edge for v in ends)
    return x0, y0, x1, y1


def _reason(
    cast: Place, severity: float, cause: Cause, has_source: bool, has_reference: bool
) -> str:
    towards = hue_word(cast) or "another hue"
    text = f"these surfaces turn {severity:.1f} towards {towards}"
    if has_reference:
        text += ", while the same colour without it occurs elsewhere in the photo"
    if has_source:
        text += f"; a strongly {towards} surface is in the frame"
    elif cause == "mixed-light":
        text += "; a second lamp of another colour would do this"
    return text
