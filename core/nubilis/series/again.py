"""Samples found again on another photo by their material, and colour keys calculated anew from them."""

import numpy as np

from nubilis.colour.cielab import linear_rgb_to_lab
from nubilis.colour.difference import as_light_apart
from nubilis.colour.oklab import linear_rgb_to_oklab, oklab_to_oklch
from nubilis.engine.engine import Engine
from nubilis.engine.sample import sampled
from nubilis.mask.colour_key import FULL_CHROMA, ColourKey, Range
from nubilis.mask.combine import AnyPart
from nubilis.people.people import People
from nubilis.recipe.document import Cast, Pair, Sample
from nubilis.recipe.model import LinearRgb
from nubilis.series.agree import Sought
from nubilis.series.frame import frame_of

LIKE = 8.0  # CIEDE2000, as light as each other: farther off it is another material, or another cast
# The most that a key is moved: degrees, and per cent of saturation and of luminance.
MOST_HUE, MOST_OTHER = 30.0, 20.0
HUELESS = 0.02  # OKLCh chroma below which a colour's hue says nothing


def found_again(
    cast: Cast,
    abroad: Cast,
    here: tuple[Engine, People | None],
    there: tuple[Engine, People | None],
) -> Cast:
    """A cast that comes from another photo, with its tainted samples where this one has the same material;
    those that it has not stay colours. abroad: the cast as it is brought; here, there: the photo that it
    comes from and the one that it goes to, each with its people."""
    both = here, there

    def again(own: Pair, pair: Pair) -> Pair:
        if own.tainted.at is None:
            return pair
        sought = Sought(
            2, lambda i: frame_of(both[i][0].sight()), lambda i: both[i][1], 0, own.tainted.at
        )
        place = dict(sought.places())[1]
        sample = place and sampled(there[0], place, own.tainted.radius)
        if not sample or _apart(sample, own.tainted) > LIKE:
            return pair
        return pair.model_copy(
            update={"tainted": sample.model_copy(update={"kind": own.tainted.kind})}
        )

    pairs = tuple(again(a, b) for a, b in zip(cast.pairs, abroad.pairs, strict=True))
    brought = abroad.model_copy(update={"pairs": pairs})
    return with_keys_anew(cast, brought)


def with_keys_anew(cast: Cast, brought: Cast) -> Cast:
    """A cast whose samples were measured on another photo, its colour keys moved by as much as they."""
    moves = [
        (own.tainted.rgb, new.tainted.rgb)
        for own, new in zip(cast.pairs, brought.pairs, strict=True)
        if new.tainted.at is not None
    ]
    if not moves:
        return brought
    parts = tuple(_anew(p, moves) for p in brought.mask.parts)
    return brought.model_copy(update={"mask": brought.mask.model_copy(update={"parts": parts})})


def _anew(part: AnyPart, moves: list[tuple[LinearRgb, LinearRgb]]) -> AnyPart:
    if not isinstance(part, ColourKey) or not part.taken:
        return part
    # Of the samples, the one that is most like what the key was made from.
    made_from = np.mean([linear_rgb_to_oklab(c) for c in part.taken], axis=0)
    off = [float(np.linalg.norm(linear_rgb_to_oklab(was) - made_from)) for was, _ in moves]
    was, now = (oklab_to_oklch(linear_rgb_to_oklab(c)) for c in moves[int(np.argmin(off))])
    light, chroma = float(now[0] - was[0]) * 100.0, float(now[1] - was[1]) / FULL_CHROMA * 100.0
    hue = (float(now[2] - was[2]) + 180.0) % 360.0 - 180.0
    turns = min(float(was[1]), float(now[1])) > HUELESS
    return part.model_copy(
        update={
            "hue": _by(part.hue, hue if turns else 0.0, MOST_HUE),
            "saturation": _by(part.saturation, chroma, MOST_OTHER),
            "luminance": _by(part.luminance, light, MOST_OTHER),
        }
    )


def _by(one: Range, amount: float, most: float) -> Range:
    """Moved, and no farther than `most`."""
    step = min(max(amount, -most), most)
    low, high = one.core
    return one.model_copy(update={"core": (low + step, high + step)})


def _apart(one: Sample, two: Sample) -> float:
    return as_light_apart(linear_rgb_to_lab(one.rgb), linear_rgb_to_lab(two.rgb))
