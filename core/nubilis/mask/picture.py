"""Picture: a grey picture used as a mask, carried inside the recipe."""

import base64
import binascii
import io
from functools import lru_cache
from typing import Annotated, Literal

import cv2
import imagecodecs
import numpy as np
from pydantic import Field, model_validator

from nubilis.arrays import Floats
from nubilis.errors import RecipeError
from nubilis.kernels import f32
from nubilis.mask.edges import Trace
from nubilis.mask.part import Part
from nubilis.photo.pyramid import View
from nubilis.photo.read import read_header


class Picture(Part):
    """png: a grey PNG, 8 or 16 bits, in base64; white is inside. Stretched over the whole photo."""

    kind: Literal["picture"] = "picture"
    png: Annotated[str, Field(max_length=64_000_000)]

    @model_validator(mode="after")
    def _readable(self) -> "Picture":
        data = _bytes(self.png)
        header = read_header(io.BytesIO(data))
        if header.format != "PNG" or header.mode not in ("L", "I;16", "I"):
            raise RecipeError("a mask picture must be a grey PNG")
        return self

    @property
    def plane(self) -> Floats:
        """0..1, float32 (h, w), at the picture's own size."""
        return _decoded(self.png)

    def coverage(self, rgb_linear: Floats, view: View, traces: tuple[Trace, ...] = ()) -> Floats:
        x0, y0, x1, y1 = view.region
        h, w = self.plane.shape
        if view.size == (w, h):
            return np.ascontiguousarray(self.plane[y0:y1, x0:x1])
        # Where a pixel's centre falls in the picture; beyond its rim, the rim.
        xs = ((np.arange(x0, x1) + 0.5) * w / view.size[0] - 0.5).astype(np.float32)
        ys = ((np.arange(y0, y1) + 0.5) * h / view.size[1] - 0.5).astype(np.float32)
        source = self._averaged(view)
        f = f32(source.shape[1] / w)
        at_x, at_y = np.meshgrid((xs + f32(0.5)) * f - f32(0.5), (ys + f32(0.5)) * f - f32(0.5))
        return np.asarray(
            cv2.remap(source, at_x, at_y, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
        )

    def _averaged(self, view: View) -> Floats:
        """Small views read from an average, or thin parts would flicker."""
        h, w = self.plane.shape
        if view.size[0] * 2 > w:
            return self.plane
        size = view.size[0], max(1, round(h * view.size[0] / w))
        return np.asarray(cv2.resize(self.plane, size, interpolation=cv2.INTER_AREA))


@lru_cache(maxsize=24)
def _decoded(png: str) -> Floats:
    # Not kept in the model: models are compared by what they hold.
    codes = np.asarray(imagecodecs.png_decode(_bytes(png)))
    return (codes / np.float32(np.iinfo(codes.dtype).max)).astype(np.float32)


def _bytes(text: str) -> bytes:
    try:
        return base64.b64decode(text, validate=True)
    except binascii.Error as error:
        raise RecipeError("a mask picture is not valid base64") from error
