"""How much each place is tainted, and which way: the palette's evidence, agreed on over the whole photo."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from nubilis.arrays import Floats
from nubilis.cast.field import guided
from nubilis.cast.solve import Problem, solve
from nubilis.find.colours import Reduced, blurred, scaled
from nubilis.find.face import FaceSeen
from nubilis.find.palette import DIRECTIONS, SHIFTS, SIZES, WAYS, evidence

NARROW = 0.85  # cosine: with a known direction, only shifts within about 30 degrees of it count
CALM = 2.0  # pixels at the finder's size: casts are softer than what speaks for them
FALL_OFF = 0.25  # of the long edge: how far a click's word carries
# Smooth chroma that goes the cast's way, in scaled log chroma, at which it speaks as loud as it can;
# and how loud that is against the palette's 97th percentile, alone and with a direction given.
PLAIN, BACKGROUND = 0.15, 0.2
VOICE = {False: 0.3, True: 1.0}
CLOSE = 5.0  # power of the fall-off: a click speaks of the direction of what is close to it
# Cosines: from where on, and from where on wholly, a direction is explained.
EXPLAINED = (0.5, 0.85)
FACE_VOICE = 0.25  # of a face that stands out, against the evidence of the palette


@dataclass(frozen=True, eq=False)
class Explained:
    """shift: log cone chroma (2,); cover: where, (h, w) 0..1 at the finder's size."""

    shift: tuple[float, float]
    cover: Floats


@dataclass(frozen=True)
class Words:
    """What the editor has said. direction: a shift in log cone chroma (2,); places: tainted ones, as
    fractions of the long edge; explained: casts that are adopted or dismissed already."""

    direction: tuple[float, float] | None = None
    places: tuple[tuple[float, float], ...] = ()
    explained: tuple[Explained, ...] = ()

    @property
    def said(self) -> bool:
        return self.direction is not None or bool(self.places)


@dataclass(frozen=True, eq=False)
class Field:
    """All float32 at the finder's size. proof: (h, w) evidence for a cast, agreed on, 0 and more;
    taint: the same, discounted where surfaces have one hue only or look like skin, and with what the
    smooth chroma says; nearby: taint, less the farther from the places said; shift: (2, h, w)
    the likeliest shift in scaled log chroma; smooth: (2, h, w) slowly varying chroma, off its median;
    breadth: (h, w) spread of colours across the shift; strength: the palette's 97th percentile of
    taint; energy: (DIRECTIONS,) how well each direction explains the photo, whichever was
    given, largest 1; faces: that say something."""

    small: Reduced
    proof: Floats
    taint: Floats
    nearby: Floats
    shift: Floats
    smooth: Floats
    breadth: Floats
    strength: float
    energy: Floats
    faces: tuple[FaceSeen, ...] = ()


class Looker:
    """The part of the work that words do not change, so that a word is answered at once."""

    def __init__(
        self,
        small: Reduced,
        others: Sequence[Reduced] = (),
        judged: Sequence[Reduced] = (),
        faces: Sequence[FaceSeen] = (),
    ) -> None:
        """others: further photos of the shoot; judged: more, which an editor has freed of casts; faces: what
        they say."""
        self.small = small
        self._smooth = _smooth_chroma(small)
        self._evidence = evidence(small, others, judged) * _borne_out(self._smooth)
        self._faces = tuple(faces)
        self._explained_skin = np.zeros(small.shape, dtype=np.float32)
        for face in faces:
            self._hear(face)

    def _hear(self, face: FaceSeen) -> None:
        """A face speaks for its own direction where it is tainted, and its skin is no paint there."""
        alike = _alike(scaled(face.probe.shift))
        told = np.float32(FACE_VOICE * face.weight) * face.tainted
        self._evidence = self._evidence + np.repeat(alike, len(SIZES))[:, None, None] * told
        skin = np.float32(face.weight) * face.cover
        self._explained_skin = np.maximum(self._explained_skin, skin)

    def field(self, words: Words = Words()) -> Field:
        """The field, sharpened by the editor's words."""
        speaks = self._unexplained(words.explained)
        near = _near(words.places, self.small.shape)
        energy = _energy(speaks * near**CLOSE)
        allowed = _spread(energy, _allowed(words.direction))
        weight = np.repeat(allowed**2, len(SIZES)).astype(np.float32)
        agreed = speaks * weight[:, None, None]
        best = agreed.argmax(axis=0)
        strongest = np.maximum(np.take_along_axis(agreed, best[None], 0)[0], 0.0)
        proof = np.maximum(guided(self.small.guide, strongest, 3, 1e-3), 0.0)
        shift = np.moveaxis(SHIFTS[best], 2, 0)
        breadth = _breadth(self.small, shift)
        taint = proof * breadth / (breadth + 0.06) * (1.0 - 0.6 * self._skin)
        taint = blurred(taint, CALM)
        strength = float(np.quantile(taint, 0.97))
        taint = taint + np.float32(strength) * self._light(words.direction, taint, shift)
        return Field(
            self.small, proof, taint, taint * near, shift, self._smooth, breadth, strength,
            _spread(energy, np.ones(DIRECTIONS, dtype=bool)).astype(np.float32), self._faces,
        )  # fmt: skip

    @property
    def _skin(self) -> Floats:
        """Skin that no face explains: it may have its colour from nature."""
        return self.small.skin * (1.0 - self._explained_skin)

    def _light(self, direction: tuple[float, float] | None, taint: Floats, shift: Floats) -> Floats:
        """What the smooth chroma alone says of the direction given, or else of the main one."""
        way = scaled(direction) if direction else (shift * taint).sum(axis=(1, 2))
        along = np.tensordot(way / max(float(np.hypot(*way)), 1e-9), self._smooth, axes=1)
        voice = VOICE[direction is not None]
        return np.asarray(voice * np.clip(along / PLAIN + BACKGROUND, 0.0, 1.0), dtype=np.float32)

    def _unexplained(self, explained: Sequence[Explained]) -> Floats:
        """The evidence without what is known to be a cast or known not to be one."""
        left = self._evidence
        for one in explained:
            share = np.repeat(_alike(scaled(one.shift)), len(SIZES))
            left = left * (1.0 - share[:, None, None] * one.cover)
        return left


def _alike(way: npt.NDArray[np.float64]) -> Floats:
    """How far each of WAYS goes the same way, (DIRECTIONS,) 0..1."""
    low, high = EXPLAINED
    cosine = WAYS @ way / max(float(np.hypot(*way)), 1e-9)
    return np.clip((cosine - low) / (high - low), 0.0, 1.0).astype(np.float32)


def _borne_out(smooth: Floats) -> Floats:
    """How far the smooth chroma goes the way of each shift, (144, h, w) 0..1."""
    sizes = np.hypot(SHIFTS[:, 0], SHIFTS[:, 1])
    along = np.tensordot(SHIFTS / (sizes * sizes)[:, None], smooth, axes=1)
    return np.asarray(np.clip(np.float32(0.5) + np.float32(2.0) * along, 0.0, 1.0))


def _allowed(direction: tuple[float, float] | None) -> npt.NDArray[np.bool_]:
    if direction is None:
        return np.ones(DIRECTIONS, dtype=bool)
    way = scaled(direction)
    return np.asarray(WAYS @ way / max(float(np.hypot(*way)), 1e-9) > NARROW)


def _energy(evidence: Floats) -> npt.NDArray[np.float64]:
    """How well each direction explains the whole photo, (DIRECTIONS,): light of one colour falls on many
    surfaces, a painted one stands alone."""
    by_way = evidence.reshape(DIRECTIONS, len(SIZES), *evidence.shape[1:]).max(axis=1)
    return np.asarray(np.maximum(by_way, 0.0).mean(axis=(1, 2), dtype=np.float64) ** 2)


def _spread(
    energy: npt.NDArray[np.float64], allowed: npt.NDArray[np.bool_]
) -> npt.NDArray[np.float64]:
    """Shared among neighbouring directions, the best of the allowed ones 1, the others 0."""
    spread = (np.exp(4.0 * (WAYS @ WAYS.T - 1.0)) * energy * allowed).sum(axis=1)
    return np.asarray(spread / max(float(spread.max()), 1e-12) * allowed)


def _near(places: Sequence[Sequence[float]], shape: tuple[int, int]) -> Floats:
    """1 at the places, falling off around them; 1 everywhere without any."""
    if not places:
        return np.ones(shape, dtype=np.float32)
    long_edge = max(shape)
    ys, xs = np.mgrid[: shape[0], : shape[1]] + 0.5
    away = np.min([np.hypot(xs / long_edge - x, ys / long_edge - y) for x, y in places], axis=0)
    return np.asarray(np.exp(-away / FALL_OFF), dtype=np.float32)


def _breadth(s: Reduced, shift: Floats) -> Floats:
    """Standard deviation of chroma across the shift around each place: low on one-hued objects."""
    sigma = 0.05 * max(s.shape)
    size = np.maximum(np.hypot(shift[0], shift[1]), 1e-4)
    across = (-shift[1] / size, shift[0] / size)
    mean = [blurred(u, sigma) for u in s.u]
    xx = blurred(s.u[0] ** 2, sigma) - mean[0] ** 2
    yy = blurred(s.u[1] ** 2, sigma) - mean[1] ** 2
    xy = blurred(s.u[0] * s.u[1], sigma) - mean[0] * mean[1]
    variance = xx * across[0] ** 2 + yy * across[1] ** 2 + 2.0 * xy * across[0] * across[1]
    return np.asarray(np.sqrt(np.maximum(variance, 0.0)), dtype=np.float32)


def _smooth_chroma(s: Reduced) -> Floats:
    """Chroma without its sharp steps, off its median: what light does rather than paint."""
    calm = np.stack([blurred(u, 1.0) for u in s.u])
    bright = blurred(s.bright, 1.0)
    links, steps = [], []
    for axis in (2, 1):
        change = np.zeros_like(calm)
        lighter = np.zeros_like(bright)
        if axis == 2:
            change[:, :, :-1], lighter[:, :-1] = np.diff(calm, axis=2), np.diff(bright, axis=1)
        else:
            change[:, :-1], lighter[:-1] = np.diff(calm, axis=1), np.diff(bright, axis=0)
        size = np.hypot(change[0], change[1]) / 0.03
        edge = (lighter / 0.15) ** 2
        links.append((1.0 / (1.0 + edge + size**2) + 0.03).astype(np.float32))
        steps.append((change / ((1.0 + size**4) * (1.0 + edge))).astype(np.float32))
    weight = np.full(s.shape, 3e-4, dtype=np.float32)
    nothing = np.zeros_like(weight)
    planes = [
        solve(Problem(weight, nothing, links[0], links[1], steps[0][c], steps[1][c]))
        for c in (0, 1)
    ]
    return np.stack([blurred(p - np.median(p), 4.0) for p in planes])
