"""The one gate for shapes and types, and the aliases that name them."""

from typing import Any

import numpy as np
import numpy.typing as npt

from nubilis.errors import ShapeError

Floats = npt.NDArray[np.float32]
Codes = npt.NDArray[np.uint8] | npt.NDArray[np.uint16]


def planar(name: str, picture: npt.NDArray[Any]) -> Floats:
    """Check and return a planar picture: float32 (3, h, w), contiguous."""
    if picture.ndim != 3 or picture.shape[0] != 3:
        raise ShapeError(name, "(3, h, w)", picture.shape)
    return np.ascontiguousarray(picture, dtype=np.float32)


def plane(name: str, values: npt.NDArray[Any], like: npt.NDArray[Any]) -> Floats:
    """Check and return a plane of a picture's size: float32 (h, w), contiguous."""
    if values.shape != like.shape[-2:]:
        raise ShapeError(name, str(like.shape[-2:]), values.shape)
    return np.ascontiguousarray(values, dtype=np.float32)
