"""What a treatment does to lips and eyes, which people notice first."""

from collections.abc import Mapping
from dataclasses import dataclass

import cv2
import numpy as np

from nubilis.arrays import Floats
from nubilis.engine.acting import active_casts
from nubilis.engine.engine import Engine
from nubilis.mask.people import Feature
from nubilis.people.areas import area_of
from nubilis.people.people import People
from nubilis.photo.pyramid import Region, View
from nubilis.proof.outcome import Outcome

WATCHED: tuple[Feature, ...] = ("lips", "eyes")
TOUCHED = 8.0  # pixels of a feature that a mask covers, from which on the cast moves it
WELL = 0.65  # at the rim of what is kept, mask and feature are both about a half
SEEN = 1.0  # CIEDE2000: what moves by less is not spoken of


@dataclass(frozen=True)
class FeaturesMoved:
    """cast: whose mask touches them; lips, eyes: mean CIEDE2000 by which all casts together move what it
    masks of them, 0 of what it does not touch."""

    cast: str
    lips: float
    eyes: float


def feature_planes(engine: Engine, people: People) -> dict[Feature, Floats]:
    """Lips and eyes of everybody, 0..1, float32 (h, w) at the analysis size."""
    view, sight = engine.analysis_view, engine.sight()
    planes: dict[Feature, Floats] = {of: np.zeros(view.shape, dtype=np.float32) for of in WATCHED}
    for of, plane in planes.items() if people.faces else ():
        area = area_of(people, sight, of, None)
        x0, y0, x1, y1 = _scaled(area.view, view)
        size = x1 - x0, y1 - y0
        plane[y0:y1, x0:x1] = cv2.resize(area.plane, size, interpolation=cv2.INTER_AREA)
    return planes


def _scaled(fine: View, view: View) -> Region:
    """Where the region of a view lies in another of the whole photo."""
    f = view.long_edge / fine.long_edge
    x0, y0, x1, y1 = (round(v * f) for v in fine.region)
    w, h = view.size
    left, top = min(x0, w - 1), min(y0, h - 1)
    return left, top, min(max(x1, left + 1), w), min(max(y1, top + 1), h)


def features_moved(outcome: Outcome, planes: Mapping[Feature, Floats]) -> tuple[FeaturesMoved, ...]:
    """Of the casts that touch them. planes: see feature_planes."""
    acting = {c.id for c in active_casts(outcome.recipe)}
    found = []
    for cast_id, mask in outcome.masks.items():
        if cast_id in acting:
            lips, eyes = (_moved(planes[of], mask, outcome.moved) for of in WATCHED)
            if max(lips, eyes) >= SEEN:
                found.append(FeaturesMoved(cast_id, lips, eyes))
    return tuple(found)


def _moved(plane: Floats, mask: Floats, difference: Floats) -> float:
    # At the rim of what is kept a mask is soft.
    masked = plane * ((mask > WELL) & (plane > WELL))
    total = float(masked.sum())
    return float((masked * difference).sum()) / total if total >= TOUCHED else 0.0
