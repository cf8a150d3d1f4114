"""How likely each place belongs to the person of a face.

Source of the network: Bazarevsky et al. (2020), "BlazePose: on-device real-time body pose tracking".
"""

import cv2
import numpy as np

from nubilis.arrays import Floats
from nubilis.mask.cut import IN, MAYBE_IN, MAYBE_OUT, OUT, cut_out
from nubilis.people.faces import Box
from nubilis.people.nets import logistic, net
from nubilis.people.squares import Square, Squares

# Of the square that holds a person, and how far below the face its middle lies, in sizes of the face.
SIDE, BELOW = 8.0, 2.5
SURELY, SURELY_NOT = 0.95, 0.05
ROOM = 12  # pixels around a person that say what is not


def body_in(squares: Squares, face: Box, size: tuple[int, int]) -> Floats:
    """0..1, float32 (h, w) over the whole photo, of `size` (width, height)."""
    network = net("pose_landmark_full")
    x, y = face.middle
    square = Square(x, y + BELOW * face.size, SIDE * face.size)
    codes = squares.picture(square, network.side, face.tinted, cv2.BORDER_CONSTANT)
    outputs = network(codes.astype(np.float32) / 255.0).values()
    raw = next(v for v in outputs if v.ndim == 4 and v.shape[-1] == network.side)[0, 0]
    likely = logistic(raw)
    back = cv2.invertAffineTransform(square.to(network.side))
    h, w = squares.shape
    scale = np.array([[size[0] / w], [size[1] / h]])
    back = (back * scale).astype(np.float32)
    back[:, 2] += (scale[:, 0] - 1.0) / 2.0
    return np.asarray(cv2.warpAffine(likely, back, size), dtype=np.float32)


def apart(bodies: Floats, middles: Floats, faces: Floats) -> Floats:
    """Each place for the person it is likeliest of, near ones counting more: (n, h, w). middles: (n, 2) and
    faces: (n,) sizes, in the planes' pixels."""
    xs = np.arange(bodies.shape[2], dtype=np.float32)[None]
    weighed = [
        body * np.exp(-(((xs - x) / (2.5 * face)) ** 2) / 2.0)
        for body, (x, _), face in zip(bodies, middles, faces, strict=True)
    ]
    most = np.argmax(np.stack(weighed), axis=0)
    return np.stack([np.where(most == i, b, 0.0) for i, b in enumerate(bodies)]).astype(np.float32)


def drawn_to_edges(rgb: Floats, likely: Floats) -> Floats:
    """0 or 1, float32 (h, w): a person cut out of a picture (3, h, w) where the network is not sure."""
    out = np.zeros(likely.shape, dtype=np.float32)
    ys, xs = np.nonzero(likely > SURELY_NOT)
    if not ys.size:
        return out
    top, bottom = max(int(ys.min()) - ROOM, 0), int(ys.max()) + ROOM
    left, right = max(int(xs.min()) - ROOM, 0), int(xs.max()) + ROOM
    here = likely[top:bottom, left:right]
    said = np.where(here > 0.5, MAYBE_IN, MAYBE_OUT).astype(np.uint8)
    said[here < SURELY_NOT] = OUT
    said[here > SURELY] = IN
    out[top:bottom, left:right] = cut_out(rgb[:, top:bottom, left:right], said)
    return out
