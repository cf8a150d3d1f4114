"""Guards: colours that must stay, and how far each reaches around its place."""

from collections.abc import Sequence

import cv2
import numpy as np
import numpy.typing as npt

from nubilis.arrays import Floats
from nubilis.cast.chroma import luminance_plane
from nubilis.cast.field import AmountField, as_field, guide_of
from nubilis.colour.cielab import lab_planes
from nubilis.photo.pyramid import pixel_at

GUARD_REACH = 12.0  # CIELAB, lightness halved: how far a guard's colour stretches
RIM = 1.0  # pixels at the analysis size, over which a guarded area fades


def guarded(rgb: Floats, guards: Sequence[tuple[float, float]]) -> npt.NDArray[np.bool_]:
    """The connected areas of like colour around the guards, (h, w).

    rgb: at the analysis size, linear Rec. 2020 (3, h, w); guards: places, fractions of the long edge.
    """
    h, w = rgb.shape[1:]
    kept = np.zeros((h + 2, w + 2), dtype=np.uint8)
    if not guards:
        return kept[1:-1, 1:-1] > 0
    lab = np.ascontiguousarray(np.moveaxis(lab_planes(rgb), 0, 2))
    lab = cv2.bilateralFilter(lab, 5, 6.0, 2.0)
    lab[..., 0] *= 0.5  # a fold's shading is the same cloth
    for at in guards:
        seed = pixel_at(at, (h, w))
        near = (GUARD_REACH,) * 3
        flags = 4 | cv2.FLOODFILL_MASK_ONLY | cv2.FLOODFILL_FIXED_RANGE | (1 << 8)
        cv2.floodFill(lab, kept, seed, (0,), near, near, flags)
    return kept[1:-1, 1:-1] > 0


def guard_field(rgb: Floats, guards: Sequence[tuple[float, float]]) -> AmountField:
    """The same as a field that is read at any zoom: 1 on what must stay, its edge on the picture's."""
    area = cv2.dilate(guarded(rgb, guards).astype(np.float32), np.ones((3, 3), np.uint8))
    soft = np.asarray(cv2.GaussianBlur(area, (0, 0), RIM), dtype=np.float32)
    return as_field(np.maximum(soft, area), guide_of(luminance_plane(rgb)))
