"""The scenes with exact truth: a tainted photo, the same without its taint, and places in it."""

import json
from dataclasses import dataclass
from functools import cached_property
from pathlib import Path
from typing import Any

import cv2
import numpy as np
import numpy.typing as npt

from nubilis.arrays import Floats
from nubilis.cast.direction import SAME_CAST_DEGREES, MeasuredPair, angle_between
from nubilis.colour.cielab import lab_planes
from nubilis.colour.difference import difference_plane
from nubilis.engine.engine import Engine
from nubilis.photo.picture import Photo
from nubilis.photo.read import read_photo
from nubilis.photo.sampling import decode
from nubilis.planning import Point, sample_at

ROOT = Path(__file__).resolve().parent.parent
TAINTED = 3.0  # ΔE2000 to the truth above which a pixel counts as tainted
LOOSE = 0.02  # of the long edge: how far the loose mask reaches beyond the taint


class KnownTruth:
    """A tainted photo and the same without its taint."""

    photo: Photo
    truth: Photo

    @cached_property
    def lab_truth(self) -> Floats:
        return lab_of(self.truth)

    @cached_property
    def error_before(self) -> Floats:
        """CIEDE2000 of the tainted photo to the truth, (h, w)."""
        return difference_plane(lab_of(self.photo), self.lab_truth)

    @property
    def tainted(self) -> npt.NDArray[np.bool_]:
        return np.asarray(self.error_before > TAINTED)

    @property
    def taints(self) -> npt.NDArray[np.bool_]:
        """What an editor would mask."""
        return self.tainted

    def loose_mask(self) -> Photo:
        """The tainted area, closed, widened and softened: as loosely as one brushes it."""
        area = self.taints.astype(np.uint8)
        r = round(LOOSE * max(area.shape))
        disc = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (2 * r + 1, 2 * r + 1))
        area = cv2.morphologyEx(area, cv2.MORPH_OPEN, np.ones((3, 3), np.uint8))
        wide = cv2.dilate(cv2.morphologyEx(area, cv2.MORPH_CLOSE, disc), disc)
        soft = cv2.GaussianBlur(wide * np.uint8(255), (0, 0), r / 2)
        codes = np.repeat(np.asarray(soft, dtype=np.uint8)[..., None], 3, axis=2)
        return Photo(np.ascontiguousarray(codes), self.photo.profile)


@dataclass(frozen=True)
class Scene(KnownTruth):
    """One rendered photo and what is known about it."""

    name: str

    @cached_property
    def facts(self) -> dict[str, Any]:
        return dict(json.loads((ROOT / "bench/scenes" / self.name / "scene.json").read_text()))

    @cached_property
    def photo(self) -> Photo:  # type: ignore[override]
        return read_photo(ROOT / "demo/photos" / f"{self.name}.png")

    @cached_property
    def truth(self) -> Photo:  # type: ignore[override]
        clean = ROOT / "bench/scenes" / self.name / "clean.png"
        return read_photo(clean) if clean.exists() else self.photo

    def points(self, kind: str) -> list[Point]:
        return [(float(s["x"]), float(s["y"])) for s in self.facts["samples"][kind]]

    def pairs(self, engine: Engine, at_least: int = 1) -> tuple[list[Point], list[Point]]:
        """Tainted and reference places: one pair per cast, then more until `at_least`.

        The first is the best match among the places where the taint is plain to see, at least as strong
        as its mean; each next speaks for a taint whose direction none has yet spoken for, then for a
        surface not yet sampled.
        """
        candidates = list(zip(self.points("tainted"), self.points("reference"), strict=True))
        shifts = [
            MeasuredPair(sample_at(engine, t).rgb, sample_at(engine, r).rgb).shift
            for t, r in candidates
        ]
        strengths = [float(s["deltaE"]) for s in self.facts["samples"]["tainted"]]
        materials = [s["material"] for s in self.facts["samples"]["tainted"]]
        plain = float(self.facts["mean_deltaE2000_tainted"])
        chosen = [next(i for i, strength in enumerate(strengths) if strength >= plain)]
        for i in range(len(candidates)):
            new_way = all(angle_between(shifts[i], shifts[j]) > SAME_CAST_DEGREES for j in chosen)
            if strengths[i] >= 5.0 and new_way:
                chosen.append(i)
        for i in range(len(candidates)):
            if len(chosen) < at_least and materials[i] not in {materials[j] for j in chosen}:
                chosen.append(i)
        return [candidates[i][0] for i in chosen], [candidates[i][1] for i in chosen]


def lab_of(photo: Photo) -> Floats:
    return lab_planes(decode(photo.codes, photo.profile))


def all_scenes() -> list[Scene]:
    return [Scene(p.name) for p in sorted((ROOT / "bench/scenes").iterdir()) if p.is_dir()]


def tainted_scenes() -> list[Scene]:
    return [s for s in all_scenes() if s.facts["cause"] != "none"]
