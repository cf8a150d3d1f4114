"""Lightness without its detail, which is what a remedy calls detail."""

from collections.abc import Callable

from nubilis.arrays import Floats
from nubilis.cast.chroma import luminance_plane
from nubilis.cast.field import AmountField, as_field, guide_of, guided
from nubilis.remedy.oklab_planes import lightness_plane


def smooth_lightness(share: float, edge: float) -> Callable[[Floats], AmountField]:
    """Measures OKLab lightness of a picture at the analysis size without what is smaller than a share of the
    long edge; edge: of the guide's variance, what is stronger stays."""

    def smooth(rgb_linear: Floats) -> AmountField:
        guide = guide_of(luminance_plane(rgb_linear))
        r = max(2, round(share * max(guide.shape)))
        return as_field(guided(guide, lightness_plane(rgb_linear), r, edge), guide)

    return smooth
