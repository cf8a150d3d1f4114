"""From light to the numbers of a sensor: its own colours, a mosaic, noise, black and white levels."""

from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt

from nubilis.arrays import Floats
from nubilis.colour.rgb import D65, REC2020_TO_XYZ, Matrix, white_xyz

# CIE XYZ under D65 to the sensor's red, green and blue: broad, overlapping, greens the most sensitive.
XYZ_TO_SENSOR: Matrix = np.array([[0.86, -0.28, -0.07], [-0.42, 1.20, 0.24], [-0.06, 0.20, 0.60]])
BLACK, WHITE = 512, 16383  # of 14 bits
FULL = 0.98  # of the range, for the strongest channel of a white
# Share of the range: what light itself scatters at ISO 100, squared, and what reading adds.
SHOT, READ = 2.5e-5, 2.0e-4
LOW_PASS = 0.6  # pixels, standard deviation, of what lies before the sensor
PATTERN = (0, 1, 1, 2)  # red green / green blue


@dataclass(frozen=True)
class Exposed:
    """codes: uint16 (h, w), mosaic; neutral: what the sensor sees of a grey, the strongest channel 1."""

    codes: npt.NDArray[np.uint16]
    neutral: tuple[float, float, float]


def exposed(rgb: Floats, iso: int, seed: int) -> Exposed:
    """rgb: (3, h, w) linear Rec. 2020, 1 a white in the scene's own light, D65; cut to even sides."""
    high, wide = (n // 2 * 2 for n in rgb.shape[1:])
    white = XYZ_TO_SENSOR @ white_xyz(D65)
    grey = white / white.max()
    matrix = XYZ_TO_SENSOR @ REC2020_TO_XYZ / white.max()
    seen = np.tensordot(matrix, np.maximum(rgb[:, :high, :wide], 0.0), 1) * FULL
    # What is finer than the mosaic is blurred before it, or edges come back in false colours.
    seen = np.stack([cv2.GaussianBlur(plane, (0, 0), LOW_PASS) for plane in seen])
    mosaic = np.empty((high, wide))
    for i, channel in enumerate(PATTERN):
        y, x = divmod(i, 2)
        mosaic[y::2, x::2] = seen[channel, y::2, x::2]
    rng = np.random.default_rng(seed)
    gain = iso / 100.0
    spread = np.sqrt(np.maximum(mosaic, 0.0) * SHOT * gain + (READ * gain) ** 2)
    noisy = mosaic + rng.normal(0.0, 1.0, mosaic.shape) * spread
    codes = np.clip(np.rint(BLACK + noisy * (WHITE - BLACK)), 0, WHITE).astype(np.uint16)
    red, green, blue = (float(v) for v in grey)
    return Exposed(codes, (red, green, blue))
