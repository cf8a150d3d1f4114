"""Features of a face as areas: drawn round points of its mesh, then told by colour where outlines do not do.

Outlines are numbers of the mesh's points, going round.
"""

import cv2
import numpy as np
import numpy.typing as npt

from nubilis.arrays import Floats
from nubilis.colour.oklab import linear_rgb_to_oklab
from nubilis.mask.cut import IN, MAYBE_IN, MAYBE_OUT, OUT, cut_out

FACE = (
    10, 338, 297, 332, 284, 251, 389, 356, 454, 323, 361, 288, 397, 365, 379, 378, 400, 377, 152, 148, 176,
    149, 150, 136, 172, 58, 132, 93, 234, 127, 162, 21, 54, 103, 67, 109,
)  # fmt: skip
LIPS = (61, 146, 91, 181, 84, 17, 314, 405, 321, 375, 291, 409, 270, 269, 267, 0, 37, 39, 40, 185)
MOUTH = (78, 95, 88, 178, 87, 14, 317, 402, 318, 324, 308, 415, 310, 311, 312, 13, 82, 81, 80, 191)
EYES = (
    (33, 7, 163, 144, 145, 153, 154, 155, 133, 173, 157, 158, 159, 160, 161, 246),
    (263, 249, 390, 373, 374, 380, 381, 382, 362, 398, 384, 385, 386, 387, 388, 466),
)
BROWS = (
    (46, 53, 52, 65, 55, 107, 66, 105, 63, 70),
    (276, 283, 282, 295, 285, 336, 296, 334, 293, 300),
)
FINE = 4  # times: outlines are drawn so much larger and averaged
BAND = 0.045  # of a face's width: how far an outline may be off
EYE_REACH, LIDS = (
    1.3,
    3.0,
)  # bands: how far an eye may go beyond its outline, and how far its lids do
TEETH_LEAST = 0.1  # of what lies between the lips
TEETH_LIGHT, TEETH_CHROMA = 0.55, 0.075  # OKLab lightness of the face's own, and chroma


def filled(outlines: list[Floats], shape: tuple[int, int]) -> Floats:
    """0..1, float32 (h, w), with soft rims. outlines: (n, 2) each, pixels."""
    h, w = shape
    fine = np.zeros((h * FINE, w * FINE), dtype=np.uint8)
    for outline in outlines:
        cv2.fillPoly(fine, [np.round((outline + 0.5) * FINE).astype(np.int32)], 255)
    small = cv2.resize(fine, (w, h), interpolation=cv2.INTER_AREA)
    return np.asarray(small / np.float32(255.0), dtype=np.float32)


def face_area(points: Floats, shape: tuple[int, int]) -> Floats:
    return filled([points[list(FACE)]], shape)


def eyes_area(rgb: Floats, points: Floats) -> Floats:
    """Of a picture (3, h, w): whites and irises. The mesh has them narrow, so what is unlike the skin around
    them belongs to them too."""
    shape = rgb.shape[1], rgb.shape[2]
    outline = filled([points[list(eye)] for eye in EYES], shape)
    near, around = (cv2.dilate(outline, _round(f * _band(points))) for f in (EYE_REACH, LIDS))
    ring = (around > 0.5) & (near < 0.5) & (face_area(points, shape) > 0.5)
    if not ring.any():
        return outline
    lab = linear_rgb_to_oklab(np.moveaxis(np.maximum(rgb, 0.0), 0, 2))
    off = np.linalg.norm((lab - np.median(lab[ring], axis=0)) * (0.6, 1.5, 1.5), axis=-1)
    usual = float(np.quantile(off[ring], 0.6))
    unlike = ((off > 1.5 * usual) & (near > 0.5)).astype(np.uint8)
    joined = cv2.morphologyEx(unlike, cv2.MORPH_OPEN, _round(1.0)) | (outline > 0.5)
    whole = cv2.morphologyEx(joined.astype(np.uint8), cv2.MORPH_CLOSE, _round(0.5 * _band(points)))
    return _hanging_on(whole, outline)


def _hanging_on(area: npt.NDArray[np.uint8], outline: Floats) -> Floats:
    """The pieces of an area that touch an outline, with soft rims."""
    _, labels = cv2.connectedComponents(area)
    wanted = np.unique(labels[outline > 0.5])
    kept = np.isin(labels, wanted[wanted > 0]).astype(np.float32)
    return np.asarray(cv2.GaussianBlur(kept, (0, 0), 0.7), dtype=np.float32)


def irises_area(rgb: Floats, points: Floats, irises: Floats) -> Floats:
    """irises: (2, 5, 2), see mesh.py."""
    shape = rgb.shape[1], rgb.shape[2]
    around = np.linspace(0.0, 2.0 * np.pi, 40, endpoint=False)
    rings = []
    for iris in irises:
        radius = float(np.linalg.norm(iris[1:] - iris[0], axis=1).mean())
        rings.append(iris[0] + radius * np.stack([np.cos(around), np.sin(around)], axis=1))
    return filled(rings, shape) * eyes_area(rgb, points)


def lips_area(rgb: Floats, points: Floats) -> Floats:
    """Of a picture (3, h, w): the mesh says about where they are, their colour how far they go, and whether
    what lies between them is lips too."""
    shape = rgb.shape[1], rgb.shape[2]
    lips, mouth = (filled([points[list(outline)]], shape) for outline in (LIPS, MOUTH))
    between = (mouth > 0.5) if _opened(points) else np.zeros(shape, dtype=np.bool_)
    return _cut(rgb, lips, _band(points), between)


def _opened(points: Floats) -> bool:
    """Whether there is more between the lips than a line."""
    return bool(
        np.linalg.norm(points[13] - points[14]) > 0.12 * np.linalg.norm(points[78] - points[308])
    )


def brows_area(rgb: Floats, points: Floats) -> Floats:
    """The darker pixels in the outline of the brows."""
    shape = rgb.shape[1], rgb.shape[2]
    brows = filled([points[list(brow)] for brow in BROWS], shape)
    near = cv2.dilate(brows, _round(0.5 * _band(points)))
    light = linear_rgb_to_oklab(np.moveaxis(np.maximum(rgb, 0.0), 0, 2))[..., 0]
    ring = (face_area(points, shape) > 0.5) & (near < 0.05)
    if not ring.any() or not (brows > 0.5).any():
        return brows
    skin, hair = float(np.median(light[ring])), float(np.quantile(light[brows > 0.5], 0.2))
    dark = np.clip((skin - light) / max(skin - hair, 0.03), 0.0, 1.0)
    return np.asarray(near * np.clip(dark * 2.0 - 0.6, 0.0, 1.0), dtype=np.float32)


def teeth_area(rgb: Floats, points: Floats) -> Floats:
    """Inside an opened mouth: what is light and has little colour."""
    shape = rgb.shape[1], rgb.shape[2]
    if not _opened(points):
        return np.zeros(shape, dtype=np.float32)
    mouth = filled([points[list(MOUTH)]], shape)
    lab = linear_rgb_to_oklab(np.moveaxis(np.maximum(rgb, 0.0), 0, 2))
    face = face_area(points, shape) > 0.5
    least = TEETH_LIGHT * float(np.median(lab[..., 0][face])) if face.any() else 0.4
    light = np.clip((lab[..., 0] - least) / 0.1, 0.0, 1.0)
    pale = np.clip((TEETH_CHROMA - np.hypot(lab[..., 1], lab[..., 2])) / 0.03 + 0.5, 0.0, 1.0)
    teeth = np.asarray(mouth * light * pale, dtype=np.float32)
    # A highlight on moist lips is light and pale too, but small.
    return teeth if teeth.sum() > TEETH_LEAST * mouth.sum() else np.zeros(shape, dtype=np.float32)


def _cut(
    rgb: Floats, outline: Floats, band: float, unsure: npt.NDArray[np.bool_] | None = None
) -> Floats:
    """An outline drawn to the picture's edges, within a band round it; unsure: what rather is not in it."""
    inner, outer = cv2.erode(outline, _round(band)), cv2.dilate(outline, _round(band))
    said = np.where(outline > 0.5, MAYBE_IN, MAYBE_OUT).astype(np.uint8)
    said[outer < 0.1] = OUT
    said[inner > 0.9] = IN
    if unsure is not None:
        said[unsure] = MAYBE_OUT
    cut = cut_out(rgb, said)
    return np.asarray(cv2.GaussianBlur(cut, (0, 0), 0.7), dtype=np.float32)


def _band(points: Floats) -> float:
    return max(BAND * float(np.ptp(points[:, 0])), 1.0)


def _round(radius: float) -> npt.NDArray[np.uint8]:
    side = 2 * max(round(radius), 1) + 1
    return np.asarray(cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (side, side)), dtype=np.uint8)
