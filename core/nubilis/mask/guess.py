"""Guess: what is probably sky, or probably the subject. No more than a guess, to be looked at."""

from typing import ClassVar, Literal

import cv2
import numpy as np

from nubilis.arrays import Floats
from nubilis.colour.oklab import linear_rgb_to_oklab, oklab_to_oklch
from nubilis.mask.cut import IN, MAYBE_IN, MAYBE_OUT, OUT, cut_out
from nubilis.mask.edges import Trace, calm_guide, guide_planes, traced
from nubilis.mask.found import FoundPart
from nubilis.mask.sight import Sight
from nubilis.mask.walk import FAR, change_from

EDGE = 360
CALM = 0.012  # steps of the root of light between neighbours: skies have few that are larger
BLUE = (200.0, 290.0)  # OKLCh hue
PALE, LIGHT = 0.035, 0.62  # OKLCh chroma and OKLab lightness: an overcast sky is both
DEEPEST = 0.75  # of the photo's height: no sky begins below


class Guess(FoundPart):
    """of: what is guessed."""

    title: ClassVar[str] = "guess"

    kind: Literal["guess"] = "guess"
    of: Literal["sky", "subject"]

    def trace(self, sight: Sight) -> Trace:
        view = sight.fit(EDGE)
        rgb = sight.read(view)
        return traced(rgb, _sky(rgb) if self.of == "sky" else _subject(rgb), view)


def _sky(rgb: Floats) -> Floats:
    """Calm and blue or bright, hanging together from the upper rim down."""
    h, w = rgb.shape[1:]
    guide = guide_planes(rgb)
    across, down = (
        np.diff(guide, axis=2, append=guide[:, :, -1:]),
        np.diff(guide, axis=1, append=guide[:, -1:]),
    )
    unrest = np.sqrt((across**2 + down**2).sum(axis=0))
    calm = np.asarray(cv2.boxFilter(unrest, -1, (9, 9))) < CALM
    oklab = linear_rgb_to_oklab(np.moveaxis(rgb, 0, 2))
    lightness, chroma, hue = np.moveaxis(oklab_to_oklch(oklab), 2, 0)
    blue = (hue > BLUE[0]) & (hue < BLUE[1]) & (chroma > 0.015) & (lightness > 0.3)
    pale = (chroma < PALE) & (lightness > LIGHT)
    likely = (calm & (blue | pale)).astype(np.uint8)
    likely[int(h * DEEPEST) :] = 0
    _, labels = cv2.connectedComponents(likely)
    top = np.unique(labels[: max(h // 40, 1)])
    sure = np.isin(labels, top[top > 0])
    if not sure.any():
        return np.zeros((h, w), dtype=np.float32)
    said = np.full((h, w), MAYBE_OUT, dtype=np.uint8)
    said[cv2.erode(sure.astype(np.uint8), np.ones((5, 5), np.uint8)) > 0] = IN
    said[int(h * DEEPEST) :] = OUT
    return _joined(cut_out(rgb, said), sure)


def _subject(rgb: Floats) -> Floats:
    """What colour steps set off from the photo's rim, weighed towards its middle.

    Source of the first: Wei et al. (2012), "Geodesic saliency using background priors".
    """
    h, w = rgb.shape[1:]
    start = np.full((h, w), FAR, dtype=np.float32)
    # Not the lower rim: subjects stand on it.
    start[:2] = start[:, :2] = start[:, -2:] = 0.0
    away = change_from(calm_guide(rgb), start)
    ys, xs = np.mgrid[0:h, 0:w].astype(np.float32)
    off = np.hypot((xs / w - 0.5) / 0.42, (ys / h - 0.55) / 0.5)
    likely = (away / max(float(np.quantile(away, 0.98)), 1e-6)) * np.exp(-(off**2) / 4.0)
    codes = np.clip(likely * 255.0, 0.0, 255.0).astype(np.uint8)
    # Otsu (1979) parts the two; a little below it, since what is lost is harder to add than to take away.
    level = 0.8 * cv2.threshold(codes, 0, 255, cv2.THRESH_OTSU)[0]
    said = np.where(codes > level, MAYBE_IN, MAYBE_OUT).astype(np.uint8)
    said[codes > min(level * 2.5, 240.0)] = IN
    said[start == 0.0] = OUT
    return _joined(cut_out(rgb, said), codes > level)


def _joined(cut: Floats, sure: np.ndarray) -> Floats:
    """The pieces of a cut that hold something sure."""
    _, labels = cv2.connectedComponents(cut.astype(np.uint8))
    wanted = np.unique(labels[sure & (cut > 0.0)])
    return np.isin(labels, wanted[wanted > 0]).astype(np.float32)
