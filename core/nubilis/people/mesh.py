"""The face's surface as 468 points, and its irises.

Source: Kartynnik et al. (2019), "Real-time facial surface geometry from monocular video on mobile GPUs";
Ablavatski et al. (2020), "Real-time pupil tracking from monocular video". Numbers of points are theirs.
"""

import cv2
import numpy as np

from nubilis.arrays import Floats
from nubilis.people.nets import logistic, net
from nubilis.people.squares import Square, Squares

POINTS = 468
ROOM = 1.5  # of the face: what the network sees
EYE_ROOM = 2.3  # of an eye's width
# Outer and inner corner of the person's right eye, and of the left one.
CORNERS = ((33, 133), (263, 362))


def mesh_in(squares: Squares, square: Square, tinted: bool) -> tuple[Floats, float]:
    """Points (468, 2), pixels at EDGE, and how sure it is a face, 0..1. square: round the face."""
    points, sure = _once(squares, square, tinted)
    if sure < 0.3:
        return points, sure
    # Once more, with the square that the mesh itself asks for.
    return _once(squares, _square_of(points), tinted)


def _turned(points: Floats) -> float:
    """Radians, clockwise, by which a face leans: as its eyes' outer corners lie."""
    across = points[CORNERS[1][0]] - points[CORNERS[0][0]]
    return float(np.arctan2(across[1], across[0]))


def _square_of(points: Floats) -> Square:
    turned = _turned(points)
    c, s = np.cos(turned), np.sin(turned)
    upright = points @ np.array([[c, -s], [s, c]])
    low, high = upright.min(axis=0), upright.max(axis=0)
    x, y = (low + high) / 2.0 @ np.array([[c, s], [-s, c]])
    return Square(float(x), float(y), float(ROOM * (high - low).max()), turned)


def _once(squares: Squares, square: Square, tinted: bool) -> tuple[Floats, float]:
    network = net("face_landmark")
    codes = squares.picture(square, network.side, tinted, cv2.BORDER_REPLICATE)
    outputs = network(codes.astype(np.float32) / 255.0).values()
    points = next(v for v in outputs if v.size == 3 * POINTS).reshape(POINTS, 3)
    sure = next(logistic(v.ravel()[0]) for v in outputs if v.size == 1)
    return square.back(points[:, :2], network.side), float(sure)


def irises_in(squares: Squares, points: Floats, tinted: bool) -> Floats:
    """Middle of each iris and a point at its rim to either side, above and below: (2, 5, 2), pixels at EDGE;
    the person's right eye first."""
    network = net("iris_landmark")
    found = []
    for i, (outer, inner) in enumerate(CORNERS):
        middle = (points[outer] + points[inner]) / 2.0
        width = float(np.hypot(*(points[outer] - points[inner])))
        side = EYE_ROOM * max(width, 1.0)
        square = Square(float(middle[0]), float(middle[1]), side, _turned(points))
        codes = squares.picture(square, network.side, tinted, cv2.BORDER_REPLICATE)
        mirrored = i == 1  # the network knows the other eye
        seen = codes[:, ::-1] if mirrored else codes
        outputs = network(seen.astype(np.float32) / 255.0).values()
        iris = next(v for v in outputs if v.size == 15).reshape(5, 3)[:, :2].copy()
        if mirrored:
            iris[:, 0] = network.side - iris[:, 0]
        found.append(square.back(iris, network.side))
    return np.stack(found)
