"""Match: every sampled colour onto its reference, by one smooth mapping of all colours.

The mapping is a 3 x 3 matrix in Bradford cones, found by least squares on relative errors with a ridge
towards the identity (Hoerl, Kennard 1970; as in colour correction by Finlayson, Mackiewicz, Hurlbert
2015, without their root terms), so that it is never singular: what no pair speaks of stays as it is.
Neutrals and kept colours enter as pairs of themselves, with more weight.
"""

import itertools
from collections.abc import Sequence
from functools import lru_cache
from typing import Annotated, Any, Literal

import numba as nb
import numpy as np
import numpy.typing as npt
from pydantic import Field

from nubilis.arrays import Floats
from nubilis.colour.adaptation import CONES_TO_REC2020, REC2020_TO_CONES
from nubilis.colour.cielab import linear_rgb_to_lab
from nubilis.colour.rgb import LUMINANCE
from nubilis.kernels import f32, kernel
from nubilis.recipe.base import Share
from nubilis.remedy.direction import Pair
from nubilis.remedy.remedy import Evidence, Place, Remedy, Rgb

RIDGE = 1e-5  # against relative errors: strong enough for duplicated pairs, too weak to be seen
KEPT = 4.0  # weight of a colour that must stay
NEUTRALS = (0.05, 0.2, 0.6)  # luminances of the greys that stay
DARKEST = 1e-3
STRETCH, NOISE = 1.2, 4.0
Limit = Annotated[float, Field(ge=0.0, le=1.0, allow_inf_nan=False)]


class Match(Remedy):
    """hold_neutrals: greys stay grey; most_lighter, most_darker: by how much the luminance may grow or
    shrink, as shares of what the mapping does; hold_luminance: share of each pixel's luminance kept."""

    kind: Literal["match"] = "match"
    hold_neutrals: bool = True
    lighten: Limit = 1.0
    darken: Limit = 1.0
    hold_luminance: Share = 0.0

    def applied(self, rgb: Floats, mask: Floats, place: Place) -> Floats:
        evidence = place.evidence_for(self.id)
        if not evidence.pairs:
            return rgb
        matrix = mapping(evidence, self.hold_neutrals) - np.eye(3)
        free = 1.0 - self.hold_luminance
        numbers = self.amount, self.lighten * free, self.darken * free
        out = np.empty_like(rgb)
        lum = LUMINANCE.astype(np.float32)
        how = np.array(numbers, dtype=np.float32)
        _match(rgb, mask, matrix.astype(np.float32), lum, how, out)
        return out


@lru_cache(maxsize=256)
def mapping(evidence: Evidence, hold_neutrals: bool = True) -> npt.NDArray[np.float64]:
    """The matrix (3, 3) on linear Rec. 2020."""
    rows = [(p.tainted, p.reference, 1.0) for p in evidence.pairs]
    rows += [(g, g, KEPT) for g in evidence.guards]
    if hold_neutrals:
        rows += [((y, y, y), (y, y, y), KEPT) for y in NEUTRALS]
    x, y, weight = (np.array(v, dtype=np.float64) for v in zip(*rows, strict=True))
    cones, wanted = (np.maximum(v @ REC2020_TO_CONES.T, DARKEST) for v in (x, y))
    scale = weight / wanted.mean(axis=1)
    a, b = cones * scale[:, None], (wanted - cones) * scale[:, None]
    change = np.linalg.solve(a.T @ a + RIDGE * len(rows) * np.eye(3), a.T @ b).T
    return np.asarray(CONES_TO_REC2020 @ (np.eye(3) + change) @ REC2020_TO_CONES)


def matched(rgb: Rgb, matrix: npt.NDArray[np.float64]) -> Rgb:
    """One colour through a mapping."""
    red, green, blue = (float(v) for v in matrix @ np.asarray(rgb))
    return red, green, blue


def contrary(pairs: Sequence[Pair]) -> list[tuple[int, int]]:
    """Indices of pairs that no smooth mapping serves together: like colours sent to unlike ones.

    The change between two samples may grow to STRETCH times what is between them (a Lipschitz bound, in
    CIELAB), and by NOISE that sampling adds.
    """
    lab = [tuple(linear_rgb_to_lab(c) for c in (p.tainted, p.reference)) for p in pairs]
    found = []
    for i, j in itertools.combinations(range(len(pairs)), 2):
        apart = float(np.linalg.norm(lab[i][0] - lab[j][0]))
        moves = (lab[i][1] - lab[i][0]) - (lab[j][1] - lab[j][0])
        if float(np.linalg.norm(moves)) > STRETCH * apart + NOISE:
            found.append((i, j))
    return found


@kernel
def _match(rgb: Any, mask: Any, m: Any, lum: Any, how: Any, out: Any) -> None:
    """m: the mapping less the identity; how: amount, share of lightening and of darkening let through."""
    amount, lighten, darken = how[0], how[1], how[2]
    yr, yg, yb = lum[0], lum[1], lum[2]
    for y in nb.prange(rgb.shape[1]):
        for x in range(rgb.shape[2]):
            w = mask[y, x] * amount
            r, g, b = rgb[0, y, x], rgb[1, y, x], rgb[2, y, x]
            dr = w * (m[0, 0] * r + m[0, 1] * g + m[0, 2] * b)
            dg = w * (m[1, 0] * r + m[1, 1] * g + m[1, 2] * b)
            db = w * (m[2, 0] * r + m[2, 1] * g + m[2, 2] * b)
            before = yr * r + yg * g + yb * b
            moved = yr * dr + yg * dg + yb * db
            let = lighten if moved > f32(0.0) else darken
            keep = (before + moved * let) / max(before + moved, f32(1e-4))
            keep = keep if before + moved > f32(1e-4) else f32(1.0)
            out[0, y, x] = (r + dr) * keep if w > f32(0.0) else r
            out[1, y, x] = (g + dg) * keep if w > f32(0.0) else g
            out[2, y, x] = (b + db) * keep if w > f32(0.0) else b
