"""The part of a row that a mask holds."""

from typing import Any

from nubilis.kernels import compiled, f32


@compiled
def span(mask: Any, y: Any) -> Any:
    """First column of a row where the mask is not zero, and one past the last."""
    first, last = 0, mask.shape[1]
    while first < last and mask[y, first] == f32(0.0):
        first += 1
    while last > first and mask[y, last - 1] == f32(0.0):
        last -= 1
    return first, last
