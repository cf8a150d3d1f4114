"""The field as a picture: the photo drained of colour, and on it the colour that light adds."""

import cv2
import numpy as np

from nubilis.arrays import Codes, Floats
from nubilis.colour.cielab import lab_planes
from nubilis.find.look import Survey
from nubilis.photo.pyramid import View
from nubilis.proof.pixels import codes_of, drained

LOUD = 2.5  # how much more colourful a cast is drawn than it is


def map_picture(seen: Survey, settled: Floats) -> Codes:
    """sRGB code values (h, w, 3) at the analysis size. settled: the photo that was looked at, (3, h, w)."""
    lightness = drained(lab_planes(np.maximum(settled, 0.0))[0])
    return codes_of([lightness, *(LOUD * seen.cast)])


def in_view(codes: Codes, view: View) -> Codes:
    """A picture of the whole photo stretched over a view of it."""
    h, w = view.shape
    scale = codes.shape[1] / view.size[0], codes.shape[0] / view.size[1]
    x0, y0 = view.region[:2]
    move = [[scale[i], 0.0, (c + 0.5) * scale[i] - 0.5] for i, c in enumerate((x0, y0))]
    move[1][:2] = [0.0, scale[1]]
    flags = cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP
    moved = cv2.warpAffine(
        codes, np.array(move), (w, h), flags=flags, borderMode=cv2.BORDER_REPLICATE
    )
    return np.asarray(moved, dtype=np.uint8)
