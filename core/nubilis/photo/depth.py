"""Code values at 8 or 16 bits."""

import numpy as np

from nubilis.arrays import Codes


def at_depth(codes: Codes, bits: int) -> Codes:
    """Code values at 8 or 16 bits; unchanged when they already are. 8 -> 16 -> 8 is exact."""
    if codes.dtype.itemsize * 8 == bits:
        return codes
    if bits == 16:
        return codes.astype(np.uint16) * np.uint16(257)
    return ((codes.astype(np.uint32) + 128) // 257).astype(np.uint8)
