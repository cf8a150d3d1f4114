"""Where a picture's colours lie in a plane of chroma: a density drawn in those colours, and an outline."""

from dataclasses import dataclass

import cv2
import numpy as np

from nubilis.arrays import Codes, Floats

BINS = 96
SOFT = 0.9  # bins: a hundred thousand pixels are few for so many bins
OUTLINED = 0.02  # of the fullest bin, by which colours that hardly occur are left out
FINE = 4  # outline points per bin
FULL = 0.35  # of the fullest bin, from where on it is drawn opaque
FAINTEST = 0.25

Line = list[tuple[float, float]]


@dataclass(frozen=True, eq=False)
class Plane:
    """picture: RGBA (BINS, BINS, 4) of the colours now; outline: of the colours before, closed lines
    in -1..1, x to the right and y upward."""

    picture: Codes
    outline: tuple[Line, ...]


def density(x: Floats, y: Floats, weight: Floats, half_range: float) -> Floats:
    """(BINS, BINS), row 0 at the top, largest 1; colours beyond the range count at its rim."""
    columns = np.clip((x / half_range + 1.0) * (BINS / 2), 0, BINS - 1).astype(np.int32)
    rows = np.clip((1.0 - y / half_range) * (BINS / 2), 0, BINS - 1).astype(np.int32)
    counts = np.bincount((rows * BINS + columns).ravel(), weight.ravel(), BINS * BINS)
    smooth = cv2.GaussianBlur(counts.reshape(BINS, BINS), (0, 0), SOFT)
    return np.asarray(smooth / max(float(smooth.max()), 1e-9), dtype=np.float32)


def outline(of: Floats) -> tuple[Line, ...]:
    """Closed lines round where a density is more than a trace."""
    if of.max() <= 0.0:
        return ()
    large = cv2.resize(of, None, fx=FINE, fy=FINE, interpolation=cv2.INTER_CUBIC)
    inside = (large > OUTLINED).astype(np.uint8)
    contours, _ = cv2.findContours(inside, cv2.RETR_LIST, cv2.CHAIN_APPROX_SIMPLE)
    middle = BINS * FINE / 2
    lines = []
    for contour in contours:
        points = cv2.approxPolyDP(contour, 0.6, True)[:, 0]
        if len(points) >= 3:
            lines.append(
                [(float(x / middle - 1.0), float(1.0 - y / middle)) for x, y in points + 0.5]
            )
    return tuple(lines)


def drawn(of: Floats, colours: Codes) -> Codes:
    """The density in the plane's own colours (BINS, BINS, 3), fuller where there is more."""
    share = np.minimum(of / FULL, 1.0)
    alpha = np.where(of > OUTLINED / 2, FAINTEST + (1.0 - FAINTEST) * np.sqrt(share), 0.0)
    rgba = np.dstack([colours, (alpha * 255.0 + 0.5).astype(np.uint8)])
    return np.asarray(rgba, dtype=np.uint8)
