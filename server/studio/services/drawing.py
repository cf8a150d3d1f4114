"""Pictures inside answers."""

import base64

import imagecodecs

from nubilis.arrays import Codes


def jpeg_address(codes: Codes, quality: int) -> str:
    """A picture as a JPEG in a data address."""
    jpeg = bytes(imagecodecs.jpeg8_encode(codes, level=quality))
    return "data:image/jpeg;base64," + base64.b64encode(jpeg).decode()


def data_address(codes: Codes) -> str:
    """A picture as a PNG in a data address."""
    png = bytes(imagecodecs.png_encode(codes, level=1))
    return "data:image/png;base64," + base64.b64encode(png).decode()
