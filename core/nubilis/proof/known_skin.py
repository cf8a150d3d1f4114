"""Where skin may be spoken of: on faces, or where the editor has shown some. A cup may have skin's colour."""

from collections.abc import Sequence

import numpy as np

from nubilis.arrays import Floats
from nubilis.colour.cielab import linear_rgb_to_lab
from nubilis.colour.kind import kind_of
from nubilis.people.people import Face
from nubilis.photo.pyramid import View
from nubilis.recipe.document import Recipe, Sample

REACH = 1.3  # of a face's size, around its middle: with the neck


def known_skin(recipe: Recipe, faces: Sequence[Face], view: View) -> Floats:
    """1 where a colour of skin is skin, float32 (h, w): everywhere, once a sample was said to be some."""
    h, w = view.shape
    if _shown(recipe):
        return np.ones((h, w), dtype=np.float32)
    there = np.zeros((h, w), dtype=np.float32)
    ys, xs = (np.mgrid[0:h, 0:w] + 0.5) / max(h, w)
    for face in faces:
        x, y = face.middle
        there[np.hypot(xs - x, ys - y) < REACH * face.size] = 1.0
    return there


def _shown(recipe: Recipe) -> bool:
    pairs = [p for c in recipe.casts for p in c.pairs]
    wanted = [p.reference for p in pairs if p.reference is not None]
    said = [p.tainted for p in pairs] + [g.sample for c in recipe.casts for g in c.guards]
    return any(s.kind == "skin" for s in said) or any(map(_is_skin, wanted))


def _is_skin(sample: Sample) -> bool:
    if sample.kind is not None:
        return sample.kind == "skin"
    lightness, a, b = (float(v) for v in linear_rgb_to_lab(sample.rgb))
    return kind_of((lightness, a, b)) == "skin"
