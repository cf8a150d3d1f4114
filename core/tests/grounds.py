"""Regions of one's own, on which a remedy is tried by itself."""

import numpy as np

from nubilis.arrays import Floats
from nubilis.colour.oklab import linear_rgb_to_oklab, oklab_to_linear_rgb, oklab_to_oklch
from nubilis.colour.profile import srgb
from nubilis.look.cube import Cube
from nubilis.photo.pyramid import View
from nubilis.remedy.oklab_planes import lightness_plane
from nubilis.remedy.remedy import Drawing, Evidence, Grain, Ground, Statistic

Rgb = tuple[float, float, float]


def colours(n: int = 600, seed: int = 3) -> Floats:
    """Unremarkable colours in a row, (3, 1, n)."""
    rng = np.random.default_rng(seed)
    lab = np.stack(
        [rng.uniform(0.3, 0.8, n), rng.uniform(-0.12, 0.12, n), rng.uniform(-0.1, 0.1, n)]
    )
    rgb = oklab_to_linear_rgb(lab.T).T.reshape(3, 1, n)
    return np.ascontiguousarray(np.maximum(rgb, 0.0), dtype=np.float32)


def no_table(sha256: str) -> Cube:
    raise AssertionError("no remedy tried here asks for a table")


def ground(
    rgb: Floats,
    evidence: Evidence = Evidence(),
    came: Floats | None = None,
    carried: Floats | None = None,
    grain: Grain | None = None,
) -> Ground:
    """A region of one's own, all of it masked; every colour's lightness is without detail already."""
    view = View((rgb.shape[2], rgb.shape[1]), (0, 0, rgb.shape[2], rgb.shape[1]))

    def measured(statistic: Statistic) -> object:
        return (
            statistic.of(rgb, lambda: np.ones(view.shape, np.float32))
            if statistic.of_mask
            else None
        )

    def drawn(drawing: Drawing) -> Floats:
        return drawing.planes(lambda: rgb, view, (), drawn)

    return Ground(
        came=rgb if came is None else came,
        settled=rgb,
        evidence_for=lambda _: evidence,
        passes=lambda _: [] if carried is None else [((0.1, 0.0), carried)],
        measured=measured,
        read=lambda _: lightness_plane(rgb),
        drawn=drawn,
        grain_for=lambda _: grain,
        before_look=lambda: None,
        table=no_table,
        to_device=srgb().encoding_matrix,
        view=view,
        scale=1.0,
    )


def lch(rgb: Floats) -> np.ndarray:
    """Lightness, chroma, hue (3, n)."""
    return oklab_to_oklch(linear_rgb_to_oklab(rgb.reshape(3, -1).T)).T


def one(colour: Rgb) -> Floats:
    return np.array(colour, dtype=np.float32).reshape(3, 1, 1)
