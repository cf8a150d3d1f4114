"""The bursts with exact truth: frames in which a puppet moves, the same without their taint, and where it
is."""

import json
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import cv2
import numpy as np
import numpy.typing as npt

from bench.scenes import ROOT, KnownTruth
from nubilis.arrays import Floats
from nubilis.photo.picture import Photo
from nubilis.photo.read import read_photo
from nubilis.planning import Point

BURSTS = ROOT / "bench/bursts"


@dataclass(frozen=True)
class BurstFrame(KnownTruth):
    """number: from 1."""

    burst: str
    number: int

    @cached_property
    def facts(self) -> dict[str, Any]:
        return dict(json.loads((self._folder / "scene.json").read_text()))

    @cached_property
    def photo(self) -> Photo:  # type: ignore[override]
        return read_photo(ROOT / "demo/photos" / f"{self.burst}-{self.number:02d}.png")

    @cached_property
    def truth(self) -> Photo:  # type: ignore[override]
        return read_photo(self._folder / "clean.webp")

    @cached_property
    def subject(self) -> npt.NDArray[np.bool_]:
        """Where the puppet is, (h, w)."""
        return self._grey("subject.png") > 127

    @cached_property
    def materials(self) -> npt.NDArray[np.str_]:
        """What each pixel is of, (h, w)."""
        names = np.full(256, "", dtype="<U40")
        for number, label in self.facts["labels"].items():
            names[int(number)] = label["name"]
        return names[self._grey("labels.png")]

    def points(self, kind: str) -> list[Point]:
        return [(float(s["x"]), float(s["y"])) for s in self.facts["samples"][kind]]

    def pairs(self, most: int, of_subject: bool) -> tuple[list[Point], list[Point]]:
        """The plainest taint of each material."""
        samples = self.facts["samples"]
        tainted, references = samples["tainted"], samples["reference"]
        order = sorted(range(len(tainted)), key=lambda i: -tainted[i]["deltaE"])
        chosen: dict[str, int] = {}
        for i in order:
            if tainted[i]["subject"] or not of_subject:
                chosen.setdefault(tainted[i]["material"], i)
        numbers = list(chosen.values())[:most]
        return [_at(tainted[i]) for i in numbers], [_at(references[i]) for i in numbers]

    @property
    def _folder(self) -> Any:
        return BURSTS / self.burst / f"frame-{self.number:02d}"

    def _grey(self, name: str) -> npt.NDArray[np.uint8]:
        return np.asarray(cv2.imread(str(self._folder / name), cv2.IMREAD_UNCHANGED), np.uint8)


def _at(sample: dict[str, Any]) -> Point:
    return float(sample["x"]), float(sample["y"])


def burst(name: str) -> list[BurstFrame]:
    count = len(list((BURSTS / name).glob("frame-*")))
    return [BurstFrame(name, i) for i in range(1, count + 1)]


def bursts() -> dict[str, list[BurstFrame]]:
    names = sorted(p.name for p in BURSTS.iterdir() if p.is_dir())
    return {name: burst(name) for name in names}


def as_plane(where: npt.NDArray[np.bool_]) -> Floats:
    return where.astype(np.float32)
