"""Scenes relit at random: rendered white light of several lamps, on which paints and colours are laid.

`bench/relit/` holds, per scene, what a path tracer left of a made-up room: how much light of each lamp
reaches each pixel, and which surface it is. Light adds, so the same room under a neutral lamp is the exact
truth of the room under a coloured one.
"""

import colorsys
import json
import zlib
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import cv2
import numpy as np
import numpy.typing as npt

from bench.clicks import Clicked, clicked
from bench.scenes import ROOT, TAINTED, KnownTruth, lab_of
from nubilis.arrays import Floats
from nubilis.colour.difference import difference_plane
from nubilis.colour.profile import srgb
from nubilis.engine.engine import Engine
from nubilis.photo.picture import Photo
from nubilis.planning import Point

FOLDER = ROOT / "bench/relit"
LUMINANCE = np.array([0.2126, 0.7152, 0.0722])
BRIGHTEST = 2.5  # of a lamp's 97th percentile; what a code value of 255 stands for
LIGHTS = 5
APART = 60.0  # degrees; casts that are more alike are one to an editor
SKIN = "f1d6c4 e6bd9e e3ad8f c99d70 bd865a 93603f 6a4230 4b2f24"
HAIR = "4b2c1c 8d4a1f 1f1a18 c79a4a d07a2a a8a49c 3a2a20 e0c890"
LEAF = "4f8a35 3f7a2c 66a041 86a650 3a6b2a a09a3a"
FIXED = {
    "skin": SKIN,
    "hair": HAIR,
    "leaf": LEAF,
    "white": "ebe8e0",
    "dark": "262626",
    "lips": "a8453d",
}
SATURATIONS = {"grey": (0.0, 0.08), "dull": (0.05, 0.35), "vivid": (0.35, 0.95)}
Numbers = npt.NDArray[np.float64]


@dataclass(frozen=True, eq=False)
class Relit(KnownTruth):
    """truth: without the cast that is clicked on; neutral: without any; one cast makes them the same."""

    name: str
    photo: Photo
    truth: Photo
    neutral: Photo
    surfaces: npt.NDArray[np.int32]
    seed: int

    @property
    def for_test(self) -> bool:
        return zlib.crc32(self.name.split()[0].encode()) % 2 == 0

    @cached_property
    def error_of_others(self) -> Floats:
        """CIEDE2000 that stays when the clicked cast is gone, (h, w)."""
        return difference_plane(self.lab_truth, lab_of(self.neutral))

    @property
    def taints(self) -> npt.NDArray[np.bool_]:
        """Where any cast lies: what is masked, since an editor does not tell them apart."""
        return np.asarray(self.tainted | (self.error_of_others > TAINTED))

    @cached_property
    def clicks(self) -> Clicked:
        return clicked(self.photo, self.truth, self.surfaces, np.random.default_rng(self.seed))

    def pairs(self, engine: Engine, at_least: int = 1) -> tuple[list[Point], list[Point]]:
        """At most `at_least`, each on another surface."""
        return self.clicks.tainted[:at_least], self.clicks.reference[:at_least]


def relit_scenes(casts: int) -> Iterator[Relit]:
    """One picture of every room that gives a fair one, with so many casts."""
    for path in sorted(FOLDER.glob("*.webp")):
        room = Room(path.stem)
        for attempt in range(12):
            seed = 100 * int(path.stem) + 20 * casts + attempt
            scene = room.relit(casts, seed)
            if _fair(scene):
                yield scene
                break


def _fair(scene: Relit) -> bool:
    bad = scene.tainted
    if not 0.04 < bad.mean() < 0.7 or scene.error_before[bad].mean() < 5.0:
        return False
    other = scene.error_of_others
    if other.any() and not 0.03 < (other > TAINTED).mean() < 0.6:
        return False
    return bool(scene.clicks.tainted)


@dataclass(frozen=True)
class Room:
    """One rendered room. Its picture holds, over each other, the square roots of five lights (key, fill and
    three that may be coloured) and two textures."""

    name: str

    @cached_property
    def facts(self) -> dict[str, Any]:
        return dict(json.loads((FOLDER / "rooms.json").read_text())[self.name])

    @cached_property
    def surfaces(self) -> npt.NDArray[np.int32]:
        return np.asarray(cv2.imread(str(FOLDER / f"{self.name}.png"), 0), dtype=np.int32)

    @cached_property
    def planes(self) -> Floats:
        codes = cv2.imread(str(FOLDER / f"{self.name}.webp"), 0)
        assert codes is not None
        return np.asarray(codes, dtype=np.float32).reshape(-1, *self.surfaces.shape) / 255.0

    def relit(self, casts: int, seed: int) -> Relit:
        rng = np.random.default_rng(seed)
        paints, second = _paints(self.facts["kinds"], rng)
        albedo = self._albedo(paints, second, rng)
        light = self.planes[:LIGHTS] ** 2 * BRIGHTEST
        tint = _coloured(rng, rng.uniform(0.0, 0.12))
        white = rng.uniform(0.3, 1.0) * light[0] + rng.uniform(0.08, 0.45) * light[1]
        lamps = rng.permutation(np.arange(2, LIGHTS))[:casts]
        strengths = rng.uniform(0.25, 1.2, casts)
        colours = [self._colour(i, paints, rng) for i in lamps]
        if casts == 2 and _apart(*colours) < APART:
            # Then they oppose each other, as lamp and sky do.
            colours[1] = _level(1.0 / np.clip(colours[0], 0.2, 5.0) ** rng.uniform(0.6, 1.4))
        falls = [white, *(s * light[i] for i, s in zip(lamps, strengths, strict=True))]

        def under(shown: list[Numbers]) -> Numbers:
            lit = (f[..., None] * c for f, c in zip(falls, [tint, *shown], strict=True))
            return np.asarray(albedo * sum(lit))

        seen = [under(colours), under([tint, *colours[1:]]), under([tint] * casts)]
        tainted, truth, neutral = _developed(seen, rng)
        paint = np.unique(np.round(paints * 1000).astype(int), axis=0, return_inverse=True)[1]
        surfaces = paint.ravel()[self.surfaces].astype(np.int32)
        name = f"{self.name} {'one cast' if casts == 1 else 'two casts'}"
        return Relit(name, tainted, truth, neutral, surfaces, seed)

    def _colour(self, lamp: int, paints: Numbers, rng: np.random.Generator) -> Numbers:
        """Of a lamp: any; what bounces off a surface has that surface's."""
        if self.facts["lights"][lamp] == "source":
            return _level(np.clip(_level(paints[self.facts["source"]]), 0.02, 6.0))
        return _coloured(rng, rng.uniform(0.25, 1.1))

    def _albedo(self, paints: Numbers, second: Numbers, rng: np.random.Generator) -> Numbers:
        cloudy, wavy = (self.planes[LIGHTS + i] * 2.0 - 1.0 for i in range(2))
        fine = cv2.GaussianBlur(rng.standard_normal(cloudy.shape), (0, 0), 0.8)
        out = paints[self.surfaces]
        for i in np.unique(self.surfaces):
            here = self.surfaces == i
            kind = rng.choice(["plain", "mottled", "stripes", "mixed"], p=[0.5, 0.25, 0.15, 0.1])
            if kind == "mottled":
                texture = cloudy if rng.random() < 0.5 else fine * 2.0
                out[here] *= np.clip(1.0 + rng.uniform(0.03, 0.3) * texture[here], 0.3, 2.0)[
                    :, None
                ]
            elif kind != "plain" and self._kind(i) not in FIXED:
                striped = wavy[here] > rng.uniform(-0.5, 0.5)
                share = striped if kind == "stripes" else np.clip(cloudy[here] + 0.5, 0.0, 1.0)
                out[here] += share[:, None] * (second[i] - paints[i])
        return np.clip(out, 0.008, 0.95)

    def _kind(self, surface: int) -> str:
        return str(self.facts["kinds"][surface - 1]) if surface else "wall"


def _linear(code: Numbers) -> Numbers:
    return np.where(code <= 0.04045, code / 12.92, ((code + 0.055) / 1.055) ** 2.4)


def _hex(colour: str) -> Numbers:
    return _linear(np.array([int(colour[i : i + 2], 16) for i in (0, 2, 4)]) / 255.0)


def _level(colour: Numbers) -> Numbers:
    """The colour at a luminance of 1."""
    return np.asarray(colour / max(float(colour @ LUMINANCE), 0.02))


def _apart(one: Numbers, two: Numbers) -> float:
    """Degrees between the directions in which two lamps colour."""
    first, second = (np.log(c) - np.log(c).mean() for c in (one, two))
    size = float(np.linalg.norm(first) * np.linalg.norm(second))
    return float(np.degrees(np.arccos(np.clip(first @ second / max(size, 1e-9), -1.0, 1.0))))


def _coloured(rng: np.random.Generator, strength: float) -> Numbers:
    turn = rng.uniform(0.0, 2.0 * np.pi) + np.array([0.0, -2.094, 2.094])
    return _level(np.exp(strength * np.cos(turn)))


def _paint(rng: np.random.Generator, shares: Numbers) -> Numbers:
    low, high = SATURATIONS[str(rng.choice(list(SATURATIONS), p=shares))]
    hsv = rng.uniform(), rng.uniform(low, high), rng.uniform(0.12, 0.9)
    return _linear(np.array(colorsys.hsv_to_rgb(*hsv)))


def _paints(kinds: list[str], rng: np.random.Generator) -> tuple[Numbers, Numbers]:
    """Linear sRGB of every surface, 0 being the distance, and of its pattern, (n, 3) each. Few paints serve
    many surfaces."""
    shares = rng.dirichlet([3.0, 3.0, 3.0])
    pool = [_paint(rng, shares) for _ in range(rng.integers(3, 10))]
    own = {k: [_hex(str(rng.choice(v.split()))) for _ in range(2)] for k, v in FIXED.items()}
    paints = [_paint(rng, np.array([0.4, 0.6, 0.0]))]
    for kind in kinds:
        choice = own.get(kind, pool)
        paints.append(choice[rng.integers(len(choice))])
        if kind in ("wall", "floor") and rng.random() < 0.7:
            paints[-1] = _paint(rng, np.array([0.45, 0.4, 0.15]))
        if kind == "source":
            paints[-1] = _paint(rng, np.array([0.0, 0.0, 1.0]))
    return np.array(paints), np.array([pool[rng.integers(len(pool))] for _ in paints])


def _developed(pictures: list[Numbers], rng: np.random.Generator) -> list[Photo]:
    """The same exposure, shoulder, noise and JPEG for all."""
    exposure = rng.uniform(0.5, 0.95) / float(np.percentile(pictures[-1] @ LUMINANCE, 97.5))
    shoulder = rng.random() < 0.5
    noise = rng.uniform(0.0, 0.012) * rng.standard_normal(pictures[0].shape)
    quality = int(rng.integers(80, 98)) if rng.random() < 0.5 else None
    return [_photo(p * exposure, shoulder, noise, quality) for p in pictures]


def _photo(light: Numbers, shoulder: bool, noise: Numbers, quality: int | None) -> Photo:
    if shoulder:
        high = 0.75 + 0.25 * (1.0 - np.exp(-np.maximum(light - 0.75, 0.0) / 0.25))
        light = np.where(light > 0.75, high, light)
    light = np.clip(light, 0.0, 1.0)
    code = np.where(
        light <= 0.0031308, 12.92 * light, 1.055 * np.maximum(light, 1e-8) ** (1 / 2.4) - 0.055
    )
    codes = np.clip(np.round((code + noise) * 255.0), 0, 255).astype(np.uint8)
    if quality is not None:
        coded = cv2.imencode(".jpg", codes[..., ::-1], [cv2.IMWRITE_JPEG_QUALITY, quality])[1]
        decoded = cv2.imdecode(coded, cv2.IMREAD_COLOR)
        codes = np.ascontiguousarray(np.asarray(decoded, dtype=np.uint8)[..., ::-1])
    return Photo(codes, srgb())
