"""What is written on the command line, read."""

import argparse

from nubilis.planning import Point


def point(text: str) -> Point:
    """X,Y in pixels. Raises ArgumentTypeError."""
    try:
        x, y = (float(v) for v in text.split(","))
    except ValueError as error:
        raise argparse.ArgumentTypeError(f"{text!r} is not X,Y") from error
    return x, y
