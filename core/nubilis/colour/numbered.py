"""Spaces that files name by number. Source: ITU-T H.273 (2023), tables 2 and 3."""

from nubilis.colour.rgb import D65, REC2020_PRIMARIES, SRGB_PRIMARIES
from nubilis.colour.standard import (
    BT2020_CURVE,
    P3_PRIMARIES,
    SRGB_CURVE,
    Primaries,
    curve_tag,
    made_icc,
)
from nubilis.errors import PhotoError

PQ, HLG = 16, 18
_PRIMARIES: dict[int, Primaries] = {
    1: SRGB_PRIMARIES,
    5: ((0.640, 0.330), (0.290, 0.600), (0.150, 0.060)),
    6: ((0.630, 0.340), (0.310, 0.595), (0.155, 0.070)),
    7: ((0.630, 0.340), (0.310, 0.595), (0.155, 0.070)),
    9: REC2020_PRIMARIES,
    12: P3_PRIMARIES,
}
_BT709 = curve_tag(3, BT2020_CURVE)
_CURVES = {
    1: _BT709, 6: _BT709, 14: _BT709, 15: _BT709,
    4: curve_tag(0, (2.2,)), 5: curve_tag(0, (2.8,)), 8: curve_tag(0, (1.0,)),
    13: curve_tag(3, SRGB_CURVE), 17: curve_tag(0, (2.6,)),
}  # fmt: skip


def numbered_icc(
    primaries: int | Primaries, transfer: int | float, white: tuple[float, float] = D65
) -> bytes | None:
    """A profile of the space; None where a number stands for nothing that we know. primaries: a number or
    x, y; transfer: a number, or as a float the exponent of light. Raises PhotoError for light that is no
    photo's."""
    if transfer in (PQ, HLG) and isinstance(transfer, int):
        raise hdr()
    known = _PRIMARIES.get(primaries) if isinstance(primaries, int) else primaries
    curve = curve_tag(0, (transfer,)) if isinstance(transfer, float) else _CURVES.get(transfer)
    return None if known is None or curve is None else made_icc("As named", known, white, curve)


def hdr() -> PhotoError:
    return PhotoError("the picture is HDR (PQ or HLG); please export it in its standard range")
