"""Where faces are: two detectors over the whole photo and squares of it, each find confirmed by the mesh.

Casts break detectors, which learnt from skin; so they see the photo as it is and tinted as skin is. Anchors
and outputs are those of the networks: Bazarevsky et al. (2019), "BlazeFace".
"""

import math
from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache

import cv2
import numpy as np

from nubilis.arrays import Floats
from nubilis.cores import each_on_one_core
from nubilis.people.nets import logistic, net
from nubilis.people.squares import Square, Squares

SURE = 0.45  # of a detector
SAME = 0.3  # intersection over union from which on two boxes are one face
WIDE, NEAR = "face_detection_full_range", "face_detection_short_range"
_LAYERS = {WIDE: ((4, 1),), NEAR: ((8, 2), (16, 6))}
TILE = 0.55  # of the long edge: squares in which small faces are looked for
STEP = 0.6  # of a square, from one to the next
RIGHT_EYE, LEFT_EYE = 0, 1  # of the key points
ROOM = 1.5  # of the box: what is looked at for its mesh


@dataclass(frozen=True, eq=False)
class Box:
    """A face as a detector has it: corners (4,) and key points (6, 2), pixels at EDGE; sure: 0..1; tinted:
    whether it was seen on the tinted photo."""

    corners: Floats
    points: Floats
    sure: float
    tinted: bool

    @property
    def middle(self) -> tuple[float, float]:
        x0, y0, x1, y1 = (float(v) for v in self.corners)
        return (x0 + x1) / 2.0, (y0 + y1) / 2.0

    @property
    def size(self) -> float:
        return float((self.corners[2:] - self.corners[:2]).max())

    @property
    def square(self) -> Square:
        """Round it, and turned as its eyes are."""
        across = self.points[LEFT_EYE] - self.points[RIGHT_EYE]
        turned = math.atan2(float(across[1]), float(across[0]))
        return Square(*self.middle, ROOM * self.size, turned)


def boxes_in(squares: Squares) -> list[list[Box]]:
    """What may be faces, the surest first: for each, the boxes that were found there."""
    views = [(n, s, tinted) for tinted in (False, True) for n, s in _places(squares)]
    seen = each_on_one_core(lambda view: _detected(squares, *view), views)
    found = [box for boxes in seen for box in boxes]
    groups: list[list[Box]] = []
    for box in sorted(found, key=lambda b: -b.sure):
        near = (g for g in groups if shared(box.corners, g[0].corners) >= SAME)
        group = next(near, None)
        if group is None:
            groups.append([box])
        else:
            group.append(box)
    return groups


def shared(one: Floats, two: Floats) -> float:
    """Intersection over union of two boxes (4,)."""
    low, high = np.maximum(one[:2], two[:2]), np.minimum(one[2:], two[2:])
    inner = float(np.prod(np.maximum(high - low, 0.0)))
    areas = [float(np.prod(b[2:] - b[:2])) for b in (one, two)]
    return inner / max(sum(areas) - inner, 1e-6)


def _places(squares: Squares) -> Iterator[tuple[str, Square]]:
    h, w = squares.shape
    whole = Square(w / 2, h / 2, float(max(h, w)))
    yield WIDE, whole
    yield NEAR, whole
    side = TILE * max(h, w)
    columns, rows = (
        [side / 2 + (n - side) * i / max(k - 1, 1) for i in range(k)] if n > side else [n / 2]
        for n, k in ((w, _count(w, side)), (h, _count(h, side)))
    )
    for y in rows:
        for x in columns:
            yield WIDE, Square(x, y, side)


def _count(length: int, side: float) -> int:
    return max(math.ceil((length - side) / (side * STEP)) + 1, 1)


def _detected(squares: Squares, name: str, square: Square, tinted: bool) -> list[Box]:
    network = net(name)
    codes = squares.picture(square, network.side, tinted, cv2.BORDER_CONSTANT)
    outputs = network(codes.astype(np.float32) / 127.5 - 1.0).values()
    numbers = next(v for v in outputs if v.shape[-1] > 1)[0]
    logits = next(v for v in outputs if v.shape[-1] == 1)[0, :, 0]
    scores = logistic(logits)
    likely = np.flatnonzero(scores > SURE)
    if not likely.size:
        return []
    anchors = _anchors(name)[likely]
    numbers, scores = numbers[likely] / np.float32(network.side), scores[likely]
    middle, half = numbers[:, :2] + anchors, numbers[:, 2:4] / 2.0
    corners = np.concatenate([middle - half, middle + half], axis=1)
    points = numbers[:, 4:].reshape(len(likely), -1, 2) + anchors[:, None]
    return _merged(corners, points, scores, square, tinted)


def _merged(
    corners: Floats, points: Floats, scores: Floats, square: Square, tinted: bool
) -> list[Box]:
    """Finds that overlap are one, their mean weighed by how sure each is."""
    left = list(np.argsort(-scores))
    origin = np.array([square.x - square.side / 2, square.y - square.side / 2], np.float32)
    found = []
    while left:
        group = [i for i in left if shared(corners[left[0]], corners[i]) > SAME]
        weight = scores[group] / scores[group].sum()
        box = np.tensordot(weight, corners[group], 1) * square.side + np.tile(origin, 2)
        at = np.tensordot(weight, points[group], 1) * square.side + origin
        found.append(
            Box(box.astype(np.float32), at.astype(np.float32), float(scores[group[0]]), tinted)
        )
        left = [i for i in left if i not in group]
    return found


@lru_cache(2)
def _anchors(name: str) -> Floats:
    """Middles of the cells that the outputs belong to, (n, 2), shares of the picture."""
    side, cells = net(name).side, []
    for stride, each in _LAYERS[name]:
        count = side // stride
        ys, xs = np.mgrid[:count, :count]
        middles = np.stack([(xs.ravel() + 0.5) / count, (ys.ravel() + 0.5) / count], axis=1)
        cells.append(np.repeat(middles, each, axis=0))
    return np.concatenate(cells).astype(np.float32)
