"""The face unwrapped: a grid of cells over it, each a point of the mesh's triangles, mirrored across.

The grid (HIGH, WIDE) is even over the mean face seen from in front; a cell and its mirrored one are the same
place of the two halves, and so one material.
"""

from dataclasses import dataclass
from pathlib import Path

import cv2
import numpy as np

from nubilis.arrays import Floats
from nubilis.cast.chroma import chroma_planes
from nubilis.recipe.model import Place

_GRID = np.load(Path(__file__).with_name("canonical.npz"))
CORNERS, WEIGHTS, SKIN = _GRID["idx"], _GRID["w"], _GRID["skin"]
ACROSS, DOWN = _GRID["gu"], _GRID["gv"]  # -1..1 over the face, to the viewer's right and down
HIGH, WIDE = SKIN.shape
BLUR = 0.9  # of a cell
TURNED_AWAY = 0.25  # of the usual cell's size: smaller ones are seen from the side
BRIGHTEST, DARKEST = 0.97, 0.004  # linear light that says nothing of colour beyond
IN_SHADE = 1.8  # natural logarithm of light below the face's own


@dataclass(frozen=True, eq=False)
class Unwrapped:
    """chroma: log cone chroma (HIGH, WIDE, 2); light: log luminance; ok: cells that are skin and well seen;
    at: where each is, pixels of the picture (HIGH, WIDE, 2); edge: long edge of the picture."""

    chroma: Floats
    light: Floats
    ok: np.ndarray
    at: Floats
    edge: int

    def place(self, cell: tuple[int, int]) -> Place:
        x, y = self.at[cell]
        return float(x + 0.5) / self.edge, float(y + 0.5) / self.edge


def unwrapped(rgb: Floats, places: Floats) -> Unwrapped:
    """rgb: the whole photo (3, h, w), linear Rec. 2020; places: (468, 2), fractions of the long edge."""
    edge = max(rgb.shape[1:])
    points = places * np.float32(edge) - np.float32(0.5)
    at = np.einsum("nk,nkc->nc", WEIGHTS, points[CORNERS]).reshape(HIGH, WIDE, 2)
    at = at.astype(np.float32)
    near = _around(rgb, at)
    x0, y0, x1, y1 = near
    here = at - np.array([x0, y0], np.float32)
    blur = max(BLUR * float(np.ptp(points[:, 0])) / WIDE, 0.8)
    planes = [cv2.GaussianBlur(p[y0:y1, x0:x1], (0, 0), blur) for p in rgb]
    seen = np.stack(
        [
            cv2.remap(
                p, here[..., 0], here[..., 1], cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE
            )
            for p in planes
        ]
    )
    found = chroma_planes(np.ascontiguousarray(seen, dtype=np.float32))
    light = np.log(np.maximum(found[3], 1e-4))
    ok = SKIN & _facing(at) & (seen.max(axis=0) < BRIGHTEST) & (found[3] > DARKEST)
    h, w = rgb.shape[1:]
    ok &= (at[..., 0] > 1) & (at[..., 0] < w - 2) & (at[..., 1] > 1) & (at[..., 1] < h - 2)
    if ok.any():
        ok &= light > np.median(light[ok]) - IN_SHADE
    return Unwrapped(np.moveaxis(found[:2], 0, 2), light, ok, at, edge)


def _around(rgb: Floats, at: Floats) -> tuple[int, int, int, int]:
    """The part of a picture that the cells lie in, and a little more."""
    h, w = rgb.shape[1:]
    low, high = at.reshape(-1, 2).min(axis=0), at.reshape(-1, 2).max(axis=0)
    more = 0.1 * float((high - low).max()) + 4.0
    x0, y0 = (int(np.clip(v - more, 0, n - 2)) for v, n in zip(low, (w, h), strict=True))
    x1, y1 = (
        int(np.clip(v + more, a + 2, n)) for v, a, n in zip(high, (x0, y0), (w, h), strict=True)
    )
    return x0, y0, x1, y1


def _facing(at: Floats) -> np.ndarray:
    """Cells that are not turned away from the viewer."""
    right, down = np.gradient(at, axis=1), np.gradient(at, axis=0)
    area = right[..., 0] * down[..., 1] - right[..., 1] * down[..., 0]
    return np.asarray(area > TURNED_AWAY * np.median(area[SKIN]))
