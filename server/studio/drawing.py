"""Pictures inside answers."""

import base64

import imagecodecs

from nubilis.arrays import Codes


def data_address(codes: Codes) -> str:
    """A picture as a PNG in a data address."""
    png = bytes(imagecodecs.png_encode(codes, level=1))
    return "data:image/png;base64," + base64.b64encode(png).decode()
