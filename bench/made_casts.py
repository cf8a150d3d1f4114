"""Casts made on untainted photographs: soft, local, in linear light, with the truth known."""

from collections.abc import Iterator
from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt

from bench.photographs import photographs
from bench.scenes import TAINTED, all_scenes
from nubilis.arrays import Floats
from nubilis.cast.chroma import N1, N2
from nubilis.cast.take_off import take_off
from nubilis.colour.cielab import lab_planes
from nubilis.colour.difference import difference_plane
from nubilis.colour.profile import srgb
from nubilis.engine.engine import Engine
from nubilis.photo.pyramid import View
from nubilis.photo.read import read_photo
from nubilis.photo.sampling import decode, encode

LONG_EDGE = 420
# Log gains of the three cones.
COLOURS = {
    "green": (-0.50, 0.45, -0.45),
    "magenta": (0.45, -0.50, 0.45),
    "blue": (-0.55, -0.10, 0.80),
    "amber": (0.50, 0.03, -0.70),
    "cyan": (-0.70, 0.25, 0.30),
    "yellow-green": (-0.10, 0.33, -0.75),
}
KINDS = ("side", "shadow", "dapple", "subject")
STRENGTHS = (6.0, 9.0, 12.0, 16.0, 20.0)  # ΔE2000 at the core
EACH = 3


@dataclass(frozen=True, eq=False)
class Case:
    """for_test: the photograph's half; shift: the true cast in log chroma; difference: CIEDE2000 to the
    untainted photograph, all zero for the photograph itself."""

    photo: str
    for_test: bool
    rgb: Floats
    untainted: Floats
    difference: Floats
    shift: npt.NDArray[np.float64]

    @property
    def tainted(self) -> npt.NDArray[np.bool_]:
        return np.asarray(self.difference > TAINTED)

    @property
    def clean(self) -> bool:
        return not self.difference.any()


def cases() -> Iterator[Case]:
    """Every photograph as it is, and with EACH casts; the scenes' clean versions count as photographs
    for tuning."""
    sources = [(p.name, p.for_test, read_photo(p.path)) for p in photographs()]
    sources += [(scene.name, False, scene.truth) for scene in all_scenes()]
    for i, (name, for_test, photo) in enumerate(sources):
        rgb = Engine(photo).untouched(View.fit(photo, LONG_EDGE))
        nothing = np.zeros(rgb.shape[1:], dtype=np.float32)
        yield Case(name, for_test, rgb, rgb, nothing, np.zeros(2))
        for j in range(EACH):
            colour = list(COLOURS)[(i + 2 * j) % len(COLOURS)]
            kind, strength = KINDS[(i + j) % len(KINDS)], STRENGTHS[(2 * i + j) % len(STRENGTHS)]
            rng = np.random.default_rng(1000 + 10 * i + j)
            tainted, difference, shift = _made(rgb, colour, kind, strength, rng)
            yield Case(name, for_test, tainted, rgb, difference, shift)


def _made(
    rgb: Floats, colour: str, kind: str, strength: float, rng: np.random.Generator
) -> tuple[Floats, Floats, npt.NDArray[np.float64]]:
    """The tainted photograph, how far it is from the untainted one, and the cast."""
    amount = _amount(kind, rgb, rng)
    gains = np.array(COLOURS[colour]) + rng.uniform(-0.08, 0.08, 3)
    way = np.array([gains @ N1, gains @ N2])
    lab = lab_planes(rgb)
    core = amount > 0.8
    low, high = 0.0, 2.5
    for _ in range(12):
        size = (low + high) / 2
        moved = difference_plane(lab_planes(_lit(rgb, amount, way * size)), lab)
        low, high = (size, high) if float(moved[core].mean()) < strength else (low, size)
    codes = encode(_lit(rgb, amount, way * size), srgb())
    tainted = decode(codes, srgb())
    return tainted, difference_plane(lab_planes(tainted), lab), way * size


def _lit(rgb: Floats, amount: Floats, shift: npt.NDArray[np.float64]) -> Floats:
    lit = take_off(rgb, np.ones_like(amount), amount, -shift, hold_lightness=0.0)
    return np.ascontiguousarray(np.clip(lit, 0.0, 1.0))


def _rise(x: npt.NDArray[np.float64], low: float, high: float) -> npt.NDArray[np.float64]:
    t = np.clip((x - low) / (high - low), 0.0, 1.0)
    return np.asarray(t * t * (3.0 - 2.0 * t))


def _amount(kind: str, rgb: Floats, rng: np.random.Generator) -> Floats:
    """From one side; the same in the shadows only; dapples; or a soft pool on some subject."""
    h, w = rgb.shape[1:]
    edge = max(h, w)
    ys, xs = np.mgrid[:h, :w].astype(np.float64)
    if kind in ("side", "shadow"):
        turn = rng.uniform(0.0, 2.0 * np.pi)
        across = (xs - w / 2) * np.cos(turn) + (ys - h / 2) * np.sin(turn)
        across /= np.abs(across).max()
        width, middle = rng.uniform(0.5, 0.9), rng.uniform(0.1, 0.35)
        amount = _rise(across, middle - width / 2, middle + width / 2)
        if kind == "shadow":
            light = cv2.GaussianBlur(rgb.mean(axis=0), (0, 0), edge * 0.006)
            L = 116.0 * np.cbrt(np.maximum(light, 1e-4)) - 16.0
            dark = _rise(
                -L, -float(np.percentile(L, 55)) - 8.0, -float(np.percentile(L, 55)) + 14.0
            )
            amount = (0.25 + 0.75 * _rise(across, -0.6, 0.2)) * amount**0.3 * dark
    else:
        x, y = rng.uniform(0.2, 0.8) * w, rng.uniform(0.2, 0.8) * h
        away = np.hypot(xs - x, (ys - y) * rng.uniform(0.7, 1.4)) / edge
        amount = np.exp(-((away / 0.2) ** 2))
        if kind == "dapple":
            noise = cv2.GaussianBlur(rng.standard_normal((h, w)), (0, 0), edge * 0.035)
            amount = _rise(noise / noise.std(), -0.3, 0.5) * np.exp(-(away**2) / (2 * 0.28**2))
    amount = cv2.GaussianBlur(amount, (0, 0), edge * 0.003)
    top = max(float(np.percentile(amount, 99.5)), 1e-6)
    return np.clip(amount / top, 0.0, 1.0).astype(np.float32)
