"""Colour keys that are often wanted, to start from."""

from collections.abc import Sequence

from nubilis.mask.colour_key import Range
from nubilis.mask.named_key import NamedKey

_Span = tuple[float, float, float]  # core from, core to, fade on either side
_ANY = Range(on=False, core=(0.0, 100.0), fade=(0.0, 0.0))

# Hue in degrees of OKLCh, saturation and luminance 0..100. Skins lie on a narrow span of hues at every
# depth, and the deeper, the less their hue tells; leaves and air are wider.
_SPANS: dict[str, tuple[_Span | None, _Span | None, _Span | None]] = {
    "Skins": ((28.0, 74.0, 16.0), (9.0, 42.0, 8.0), (22.0, 95.0, 10.0)),
    "Light skins": ((30.0, 74.0, 14.0), (8.0, 34.0, 6.0), (66.0, 96.0, 8.0)),
    "Medium skins": ((32.0, 72.0, 14.0), (14.0, 42.0, 7.0), (48.0, 68.0, 8.0)),
    "Deep skins": ((30.0, 72.0, 18.0), (9.0, 40.0, 7.0), (20.0, 48.0, 8.0)),
    "Skies": ((225.0, 270.0, 18.0), (5.0, 60.0, 5.0), (50.0, 100.0, 12.0)),
    "Foliage": ((112.0, 150.0, 18.0), (10.0, 85.0, 8.0), (10.0, 95.0, 8.0)),
    "Neutrals": (None, (0.0, 5.0, 6.0), None),
    "Shadows": (None, None, (0.0, 30.0, 20.0)),
    "Mids": (None, None, (38.0, 66.0, 20.0)),
    "Highlights": (None, None, (76.0, 100.0, 18.0)),
}


def ready_keys() -> Sequence[NamedKey]:
    """All of them, skins first."""
    keys = []
    for name, spans in _SPANS.items():
        hue, saturation, luminance = (_range(span) for span in spans)
        keys.append(NamedKey(name=name, hue=hue, saturation=saturation, luminance=luminance))
    return tuple(keys)


def _range(span: _Span | None) -> Range:
    if span is None:
        return _ANY
    low, high, fade = span
    return Range(core=(low, high), fade=(fade, fade))
