"""Skin of one person, learnt from the face: so that no cast matters that lies on both."""

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
NEAR = 3.2  # face widths, beyond which skin is not looked for


def skin_like_face(
    rgb: Floats, face: Unwrapped, middle: tuple[float, float], width: float
) -> Floats:
    """0..1, float32 (h, w), of a picture (3, h, w); 1 for the face's own colour. middle, width: of the face,
    pixels. Nothing where too little of the face is seen."""
    if face.ok.sum() < FEWEST:
        return np.zeros(rgb.shape[1:], dtype=np.float32)
    calm = np.stack([cv2.GaussianBlur(p, (0, 0), 1.2) for p in rgb]) + np.float32(1e-3)
    planes = chroma_planes(np.ascontiguousarray(calm, dtype=np.float32))
    own = face.chroma[face.ok] * ACROSS
    inverse = np.linalg.inv(np.cov(own.T) + np.eye(2) * OWN**2).astype(np.float32)
    off = [planes[i] * ACROSS[i] - own[:, i].mean() for i in (0, 1)]
    away = (
        inverse[0, 0] * off[0] ** 2
        + 2.0 * inverse[0, 1] * off[0] * off[1]
        + inverse[1, 1] * off[1] ** 2
    )
    light = np.log(np.maximum(planes[3], 1e-4)) - np.float32(np.median(face.light[face.ok]))
    beyond = np.maximum(np.abs(light) - LIGHTER, 0.0) / FALL
    like = np.exp(-0.5 * away / LOOSE - 0.5 * beyond**2)
    ys, xs = np.mgrid[: like.shape[0], : like.shape[1]].astype(np.float32)
    near = np.hypot(xs - middle[0], 0.6 * (ys - middle[1])) < NEAR * width
    return np.asarray(like * near, dtype=np.float32)
