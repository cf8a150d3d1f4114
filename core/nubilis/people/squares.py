"""Squares of a photo, upright or turned, as the small pictures that networks take."""

from dataclasses import dataclass
from functools import cached_property

import cv2
import numpy as np

from nubilis.arrays import Codes, Floats
from nubilis.colour.profile import srgb
from nubilis.mask.sight import Sight
from nubilis.photo.pyramid import View
from nubilis.photo.sampling import encode

EDGE = 1280
STEPS = 4096  # of luminance
SKIN = (1.45, 0.92, 0.62)  # linear light of skin against its luminance
_SRGB_LUMINANCE = np.array([0.2126, 0.7152, 0.0722])


@dataclass(frozen=True)
class Square:
    """x, y: its middle; side: its length; all in pixels of the whole photo at EDGE; turned: radians,
    clockwise."""

    x: float
    y: float
    side: float
    turned: float = 0.0

    def to(self, size: int) -> Floats:
        """The affine matrix (2, 3) from the photo's pixels to a picture of this square."""
        scale = size / self.side
        c, s = scale * np.cos(self.turned), scale * np.sin(self.turned)
        x, y = self.x, self.y
        half = size / 2.0
        return np.array([[c, s, half - c * x - s * y], [-s, c, half + s * x - c * y]], np.float32)

    def back(self, points: Floats, size: int) -> Floats:
        """Points (n, 2) of that picture as the photo's pixels."""
        inverse = cv2.invertAffineTransform(self.to(size))
        return np.asarray(points @ inverse[:, :2].T + inverse[:, 2], dtype=np.float32)


class Squares:
    """tinted: the photo's luminance in the colour of skin, so that no cast can hide a face."""

    def __init__(self, sight: Sight) -> None:
        self.view = sight.fit(EDGE)
        self.linear = sight.read(self.view)
        self._sight = sight

    @property
    def shape(self) -> tuple[int, int]:
        return self.view.shape

    @cached_property
    def _levels(self) -> list[Codes]:
        """The photo, and halves of it."""
        levels = [encode(self.linear, srgb())]
        while min(levels[-1].shape[:2]) > 64:
            h, w = levels[-1].shape[:2]
            size = (w + 1) // 2, (h + 1) // 2
            levels.append(np.asarray(cv2.resize(levels[-1], size, interpolation=cv2.INTER_AREA)))
        return levels

    def picture(self, square: Square, size: int, tinted: bool, outside: int) -> Codes:
        """uint8 (size, size, 3) sRGB. outside: how what lies beyond the photo is made up, as cv2 has it."""
        if size > 1.2 * square.side and self._sight.long_edge > EDGE:
            source, matrix = self._finer(square, size)
        else:
            source, matrix = self._from_level(square, size)
        made = np.asarray(cv2.warpAffine(source, matrix, (size, size), borderMode=outside))
        return skin_tinted(made) if tinted else made

    def _from_level(self, square: Square, size: int) -> tuple[Codes, Floats]:
        level = min(round(np.log2(max(square.side / size, 1.0))), len(self._levels) - 1)
        source = self._levels[level]
        scale = [n / m for n, m in zip(self.shape[::-1], source.shape[1::-1], strict=True)]
        return source, _shifted(square.to(size), (scale[0], scale[1]), (0.0, 0.0))

    def _finer(self, square: Square, size: int) -> tuple[Codes, Floats]:
        """Read from the photo itself: a small face has more pixels there."""
        full = self._sight.long_edge / EDGE
        reach = 0.71 * square.side
        box = [
            int(full * v)
            for v in (square.x - reach, square.y - reach, square.x + reach, square.y + reach)
        ]
        zoom = size / (square.side * full)
        view: View = self._sight.around((box[0], box[1], box[2], box[3]), zoom)
        source = encode(self._sight.read(view), srgb())
        scale = [a / b for a, b in zip(self.view.size, view.size, strict=True)]
        return source, _shifted(square.to(size), (scale[0], scale[1]), view.region[:2])


def _shifted(matrix: Floats, scale: tuple[float, float], corner: tuple[float, float]) -> Floats:
    """The matrix for a source whose pixels are `scale` of EDGE's, and begin at `corner`."""
    wide = np.array([[scale[0], 0.0, 0.0], [0.0, scale[1], 0.0]])
    wide[:, 2] = [s * (c + 0.5) - 0.5 for s, c in zip(scale, corner, strict=True)]
    return np.asarray(matrix @ np.vstack([wide, [0.0, 0.0, 1.0]]), dtype=np.float32)


def skin_tinted(codes: Codes) -> Codes:
    """uint8 (h, w, 3) sRGB of the same luminance, in the colour of skin."""
    light = cv2.transform(cv2.LUT(codes, _LIGHT), _TO_STEPS)
    steps = np.minimum(light, np.float32(STEPS - 1)).astype(np.uint16)
    return np.asarray(_CODES[steps])


def _tables() -> tuple[Floats, Floats, Codes]:
    """Light of a code; luminance of light in steps; codes (STEPS, 3) of skin at each step."""
    profile = srgb()
    light = profile.decoding_table(8)[0].reshape(1, 256)
    to_steps = (_SRGB_LUMINANCE * (STEPS - 1)).reshape(1, 3).astype(np.float32)
    shown = np.clip(np.linspace(0.0, 1.0, STEPS)[:, None] * np.array(SKIN), 0.0, 1.0)
    codes = np.interp(shown, profile.curves[0], np.linspace(0.0, 255.0, len(profile.curves[0])))
    return np.ascontiguousarray(light), to_steps, (codes + 0.5).astype(np.uint8)


_LIGHT, _TO_STEPS, _CODES = _tables()
