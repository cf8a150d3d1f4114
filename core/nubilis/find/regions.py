"""Casts in the field that are worth showing: one for every direction in which light was found to turn.

The same light falls on many separate surfaces, so a cast is gathered by its direction and not by whether
its places touch.
"""

import math
from dataclasses import dataclass
from typing import Any

import cv2
import numpy as np
import numpy.typing as npt

from nubilis.arrays import Floats
from nubilis.find.colours import log_shift, scaled
from nubilis.find.field import Field
from nubilis.find.palette import DIRECTIONS

SEED, GROW = 0.18, 0.09  # evidence that a cast needs somewhere, and everywhere
OF_STRONGEST = 0.35  # of the 99th percentile: where a region of a strong field ends
OF_GUIDED = 0.25  # the same where the editor has said that there is one, and which way or where
SMALLEST_SPECK = 0.002  # of the photo: smaller pieces of a region are left out
SMALLEST = 0.008  # of the photo
WIDTH = 2  # steps of 15 degrees on either side that count as the same direction
LEAST_SHARE = 0.12  # of all the evidence, that a further direction must have
MOST = 5
# Logistic weights of the field's 97th percentile, the region's share of the photo, the cosine between
# shift and smooth chroma, and a constant; fitted on made casts and untouched photographs (docs/finding.md).
WEIGHTS = (1.90, 9.93, 4.56, -7.08)
FACES_SAY = 0.4  # logits, of a face that stands out and goes the same way
LEAST_CONFIDENCE = 0.3
AGREEING = 0.3  # cosine: the smooth field's direction is taken when it does not contradict


@dataclass(frozen=True, eq=False)
class Region:
    """inside: bool (h, w) at the finder's size; shift: log cone chroma (2,) of amount 1;
    amount: (h, w) 0..1.2, how much of the shift each place carries; confidence 0..1."""

    inside: npt.NDArray[np.bool_]
    shift: tuple[float, float]
    amount: Floats
    confidence: float


def regions(field: Field) -> list[Region]:
    """The most confident first, also those that are not convincing; none where there is no evidence."""
    strongest = float(np.quantile(field.proof, 0.99))
    if strongest < SEED:
        return []
    convincing = field.proof > max(GROW, OF_STRONGEST * strongest)
    step = np.round(np.arctan2(field.shift[1], field.shift[0]) / (2.0 * np.pi) * DIRECTIONS)
    step = step.astype(np.int64) % DIRECTIONS
    left = field.taint * convincing
    total = max(float(left.sum()), 1e-9)
    found = []
    for _ in range(MOST):
        single = np.bincount(step.ravel(), left.ravel(), DIRECTIONS)
        votes = np.sum([np.roll(single, turn) for turn in range(-WIDTH, WIDTH + 1)], axis=0)
        if float(votes.max()) < LEAST_SHARE * total:
            break
        off = (step - int(votes.argmax()) + DIRECTIONS // 2) % DIRECTIONS - DIRECTIONS // 2
        same = np.abs(off) <= WIDTH
        inside = _without_specks(convincing & same & (left > 0.0))
        left = left * ~same
        if inside.mean() >= SMALLEST:
            found.append(_region(field, inside))
    return sorted(found, key=lambda r: -r.confidence)


def guided_region(field: Field) -> Region | None:
    """The cast that the editor's words speak of; None where nothing supports them."""
    strongest = float(np.quantile(field.taint, 0.99))
    inside = _without_specks(field.taint > max(OF_GUIDED * strongest, 1e-4))
    return _region(field, inside) if inside.any() else None


def _without_specks(inside: npt.NDArray[np.bool_]) -> npt.NDArray[np.bool_]:
    closed = cv2.morphologyEx(inside.astype(np.uint8), cv2.MORPH_CLOSE, np.ones((3, 3), np.uint8))
    count, labels, stats, _ = cv2.connectedComponentsWithStats(closed)
    large = stats[:, cv2.CC_STAT_AREA] >= SMALLEST_SPECK * inside.size
    large[0] = False
    return np.asarray(large[labels]) if count else inside


def _region(field: Field, inside: npt.NDArray[np.bool_]) -> Region:
    weight = field.nearby * inside
    total = max(float(weight.sum()), 1e-9)
    k = (field.shift * weight).sum(axis=(1, 2)) / total
    way = (field.smooth * weight).sum(axis=(1, 2)) / total
    agreement = float(way @ k) / max(float(np.hypot(*way) * np.hypot(*k)), 1e-12)
    if agreement > AGREEING:
        k = way / np.hypot(*way) * np.hypot(*k)
    shift = log_shift(k)
    full = max(float(np.quantile(field.taint[inside], 0.8)), 1e-6)
    amount = np.clip(field.taint / np.float32(full), 0.0, 1.2).astype(np.float32)
    confidence = _logistic(
        field.strength, float(inside.mean()), agreement, _faces_say(field, inside, k)
    )
    return Region(inside, (float(shift[0]), float(shift[1])), amount, confidence)


def _faces_say(field: Field, inside: npt.NDArray[np.bool_], way: npt.NDArray[Any]) -> float:
    """How far a face in the region bears its direction out, 0..1."""
    said = 0.0
    for face in field.faces:
        told = scaled(face.probe.shift)
        cosine = float(told @ way) / max(float(np.hypot(*told) * np.hypot(*way)), 1e-12)
        there = float((face.tainted * inside).sum() / max(float(face.tainted.sum()), 1e-6))
        said = max(said, face.weight * there * float(np.clip((cosine - 0.5) / 0.35, 0.0, 1.0)))
    return said


def _logistic(strength: float, area: float, agreement: float, faces: float) -> float:
    a, b, c, d = WEIGHTS
    told = a * strength + b * area + c * agreement + d + FACES_SAY * faces
    return 1.0 / (1.0 + math.exp(-told))
