"""Where an editor would click in a picture whose truth is known: tainted places and their clean twins."""

from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt

from bench.scenes import TAINTED, lab_of
from nubilis.arrays import Floats
from nubilis.colour.difference import difference_plane
from nubilis.photo.picture import Photo
from nubilis.planning import Point

CLEAN = 1.5  # ΔE2000 to the truth that an editor takes for clean
TWIN_CHROMA, TWIN_LIGHTNESS = (
    3.0,
    25.0,
)  # CIELAB: how alike the same material looks in another place
FLAT = 4.0  # L*, standard deviation within a click
AROUND = 7  # pixels


@dataclass(frozen=True)
class Clicked:
    """Pairs of places, in pixels; the first speaks for the plainest taint."""

    tainted: list[Point]
    reference: list[Point]


def clicked(
    photo: Photo,
    truth: Photo,
    surfaces: npt.NDArray[np.int32] | None,
    rng: np.random.Generator,
    most: int = 3,
) -> Clicked:
    """Up to `most` pairs, on places at least as tainted as the mean, each of another colour.

    surfaces: which paint each pixel has, where that is known; else twins are of like true colour.
    """
    seen, true = lab_of(photo), lab_of(truth)
    error = _around(difference_plane(seen, true))
    calm = np.stack([_around(p) for p in true])
    flat = _spread(true[0]) < FLAT
    if surfaces is not None:
        flat &= _one_surface(surfaces)
    flat &= (calm[0] > 15.0) & (calm[0] < 96.0) & inner(flat.shape)
    plain = float(error[error > TAINTED].mean()) if (error > TAINTED).any() else np.inf
    tainted = rng.permutation(np.argwhere(flat & (error > max(plain, 4.0))))
    clean = rng.permutation(np.argwhere(flat & (error < CLEAN)))[:4000]
    found = Clicked([], [])
    spoken: list[npt.NDArray[np.float64]] = []
    for y, x in tainted[:80]:
        colour = calm[:, y, x]
        if any(np.hypot(*(colour - s)[1:]) < 8.0 for s in spoken) or len(found.tainted) == most:
            continue
        twin = _twin(calm, colour, clean, surfaces, (y, x))
        if twin is not None:
            found.tainted.append((float(x), float(y)))
            found.reference.append((float(twin[1]), float(twin[0])))
            spoken.append(colour)
    return found


def _twin(
    calm: Floats,
    colour: npt.NDArray[np.float32],
    clean: npt.NDArray[np.int64],
    surfaces: npt.NDArray[np.int32] | None,
    at: tuple[int, int],
) -> npt.NDArray[np.int64] | None:
    if not len(clean):
        return None
    away = calm[:, clean[:, 0], clean[:, 1]] - colour[:, None]
    alike = (np.hypot(away[1], away[2]) < TWIN_CHROMA) & (np.abs(away[0]) < TWIN_LIGHTNESS)
    if surfaces is not None:
        alike &= surfaces[clean[:, 0], clean[:, 1]] == surfaces[at]
    return np.asarray(clean[np.argmax(alike)]) if alike.any() else None


def _around(v: Floats) -> Floats:
    return np.asarray(cv2.blur(v, (AROUND, AROUND)))


def _spread(v: Floats) -> Floats:
    return np.sqrt(np.maximum(_around(v * v) - _around(v) ** 2, 0.0))


def _one_surface(surfaces: npt.NDArray[np.int32]) -> npt.NDArray[np.bool_]:
    numbers = surfaces.astype(np.float32)
    around = np.ones((AROUND, AROUND), dtype=np.uint8)
    return np.asarray(cv2.erode(numbers, around) == cv2.dilate(numbers, around))


def inner(shape: tuple[int, ...], rim: int = AROUND) -> npt.NDArray[np.bool_]:
    """All but so many pixels at the rim."""
    there = np.zeros(shape, dtype=bool)
    there[rim:-rim, rim:-rim] = True
    return there
