"""Skin of one person, learnt from the face: so that no cast matters that lies on both."""

from dataclasses import dataclass

import cv2
import numpy as np

from nubilis.arrays import Floats
from nubilis.cast.chroma import chroma_planes
from nubilis.people.canonical import Unwrapped

ACROSS = np.array([2.2, 1.0], np.float32)  # log chroma to red and to yellow weigh alike to the eye
OWN = 0.03  # least spread of a face's own chroma
LOOSE = 2.0  # times the face's spread: other skin of the person varies more
LIGHTER, FALL = 1.0, 0.4  # natural logarithm of light: from the face's own, and how it fades beyond
FEWEST = 300  # cells of a face that say what skin it is
NEAR, FLATTER = 3.2, 0.6  # face widths, beyond which skin is not looked for; downwards farther


@dataclass(frozen=True, eq=False)
class Tones:
    """Calm log chroma, weighed as the eye does, and log luminance of a picture: float32 (h, w) each."""

    to_red: Floats
    to_yellow: Floats
    light: Floats


def tones_of(rgb: Floats) -> Tones:
    """rgb: (3, h, w), linear Rec. 2020."""
    calm = np.stack([cv2.GaussianBlur(p, (0, 0), 1.2) for p in rgb]) + np.float32(1e-3)
    planes = chroma_planes(np.ascontiguousarray(calm, dtype=np.float32))
    light = np.log(np.maximum(planes[3], np.float32(1e-4)))
    return Tones(planes[0] * ACROSS[0], planes[1] * ACROSS[1], light)


def skin_like_face(
    tones: Tones, face: Unwrapped, middle: tuple[float, float], width: float
) -> Floats:
    """0..1, float32 (h, w); 1 for the face's own colour. middle, width: of the face, pixels. Nothing where
    too little of the face is seen."""
    h, w = tones.light.shape
    like = np.zeros((h, w), dtype=np.float32)
    reach = NEAR * width
    x0, x1 = (int(np.clip(middle[0] + s * reach, 0, w)) for s in (-1, 1))
    y0, y1 = (int(np.clip(middle[1] + s * reach / FLATTER, 0, h)) for s in (-1, 1))
    if face.ok.sum() < FEWEST or x0 >= x1 or y0 >= y1:
        return like
    here = np.s_[y0:y1, x0:x1]
    own = face.chroma[face.ok] * ACROSS
    inverse = np.linalg.inv(np.cov(own.T) + np.eye(2) * OWN**2).astype(np.float32)
    red, yellow = (
        t[here] - own[:, i].mean() for i, t in enumerate((tones.to_red, tones.to_yellow))
    )
    away = inverse[0, 0] * red**2 + 2.0 * inverse[0, 1] * red * yellow + inverse[1, 1] * yellow**2
    light = tones.light[here] - np.float32(np.median(face.light[face.ok]))
    beyond = np.maximum(np.abs(light) - np.float32(LIGHTER), 0.0) / np.float32(FALL)
    across = np.arange(x0, x1, dtype=np.float32)[None] - np.float32(middle[0])
    down = np.arange(y0, y1, dtype=np.float32)[:, None] - np.float32(middle[1])
    near = np.hypot(across, np.float32(FLATTER) * down) < reach
    like[here] = np.exp(-0.5 * (away / np.float32(LOOSE) + beyond**2)) * near
    return like
