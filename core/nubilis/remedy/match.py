"""Match: every sampled colour onto its reference, by one smooth mapping of all colours.

The mapping is a 3 x 3 matrix in Bradford cones, found by least squares on relative errors with a ridge
towards the identity (Hoerl, Kennard 1970; as in colour correction by Finlayson, Mackiewicz, Hurlbert
2015, without their root terms), so that it is never singular: what no pair speaks of stays as it is.
Neutrals and kept colours enter as pairs of themselves, with more weight.
"""

import itertools
from collections.abc import Sequence
from dataclasses import replace
from functools import lru_cache
from typing import Annotated, Any, ClassVar, Literal

import numpy as np
import numpy.typing as npt
from pydantic import Field

from nubilis import kernel_types as of
from nubilis.arrays import Floats
from nubilis.cast.chroma import luminance_of
from nubilis.cast.direction import MeasuredPair
from nubilis.colour.adaptation import CONES_TO_REC2020, REC2020_TO_CONES
from nubilis.colour.cielab import linear_rgb_to_lab
from nubilis.colour.difference import ciede2000
from nubilis.colour.rgb import LUMINANCE
from nubilis.kernels import constants, f32, kernel
from nubilis.recipe.model import Share
from nubilis.remedy.remedy import Evidence, Ground, Remedy, Rgb

RIDGE = 1e-5  # against relative errors: strong enough for duplicated pairs, too weak to be seen
KEPT = 4.0  # weight of a colour that must stay
NEUTRALS = (0.05, 0.2, 0.6)  # luminances of the greys that stay
DARKEST = 1e-3
MOST_CARRIED = 1.5  # of the pairs' cast: a matrix is not to be stretched without end
STRETCH, NOISE = 1.2, 4.0
Limit = Annotated[float, Field(ge=0.0, le=1.0, allow_inf_nan=False)]


class Match(Remedy):
    """follow: 1 as much as each pixel carries of the cast, 0 the same everywhere in the mask;
    hold_neutrals: greys stay grey; lighten, darken: how much of its change of luminance is let through;
    hold_luminance: share of each pixel's luminance kept, to which the references are brought too."""

    follows_cast: ClassVar[bool] = True
    holds_guards: ClassVar[bool] = True
    title: ClassVar[str] = "match"

    kind: Literal["match"] = "match"
    follow: Share = 1.0
    hold_neutrals: bool = False
    lighten: Limit = 1.0
    darken: Limit = 1.0
    hold_luminance: Share = 1.0

    def applied(self, rgb: Floats, mask: Floats, ground: Ground) -> Floats:
        evidence = ground.evidence_for(self.id)
        if not evidence.pairs:
            return rgb
        matrix = self.mapping(evidence) - np.eye(3)
        passes = ground.passes(0.0) if self.follow > 0.0 else []
        if passes:
            carried = np.max([amount for _, amount in passes], axis=0)
            mask = mask * self._share(np.minimum(carried, MOST_CARRIED))
        # The references are held already; towards the whole, so is what has no pair.
        free = min(2.0 * (1.0 - self.hold_luminance), 1.0)
        numbers = self.amount, self.lighten * free, self.darken * free
        out = np.empty_like(rgb)
        lum = LUMINANCE.astype(np.float32)
        how = np.array(numbers, dtype=np.float32)
        _match(rgb.shape[1], rgb, mask, matrix.astype(np.float32), lum, how, out)
        return out

    def mapping(self, evidence: Evidence) -> npt.NDArray[np.float64]:
        """The matrix (3, 3) on linear Rec. 2020, where the whole of the cast lies."""
        pairs = tuple(replace(p, reference=self.wanted(p)) for p in evidence.pairs)
        shares = tuple(self._share(c) for c in evidence.carried)
        # What is kept carries none of the cast: followed to the end, it needs no word in the mapping.
        guards = evidence.guards if self.follow < 1.0 else ()
        return mapping(Evidence(pairs, guards, shares), self.hold_neutrals)

    def residuals(self, evidence: Evidence) -> list[float]:
        """CIEDE2000 from each pair's sample to its reference, after the mapping at full amount."""
        change = self.mapping(evidence) - np.eye(3)
        shares = [self._share(c) for c in evidence.carried] or [1.0] * len(evidence.pairs)
        return [
            ciede2000(
                linear_rgb_to_lab(matched(pair.tainted, np.eye(3) + share * change)),
                linear_rgb_to_lab(self.wanted(pair)),
            )
            for pair, share in zip(evidence.pairs, shares, strict=True)
        ]

    def _share(self, carried: Any) -> Any:
        """Of the mapping, where a place carries so much of the cast."""
        return 1.0 - self.follow + self.follow * carried

    def wanted(self, pair: MeasuredPair) -> Rgb:
        """A pair's reference, as far under the sample's own light as luminance is held."""
        light = [max(luminance_of(c), 1e-6) for c in (pair.tainted, pair.reference)]
        factor = (light[0] / light[1]) ** self.hold_luminance
        red, green, blue = (c * factor for c in pair.reference)
        return red, green, blue


@lru_cache(maxsize=256)
def mapping(evidence: Evidence, hold_neutrals: bool = True) -> npt.NDArray[np.float64]:
    """The matrix (3, 3) on linear Rec. 2020. A sample that carries a share of the cast is to be moved by
    that share of it."""
    shares = evidence.carried or (1.0,) * len(evidence.pairs)
    rows = [(p.tainted, p.reference, 1.0, c) for p, c in zip(evidence.pairs, shares, strict=True)]
    rows += [(g, g, KEPT, 1.0) for g in evidence.guards]
    if hold_neutrals:
        rows += [((y, y, y), (y, y, y), KEPT, 1.0) for y in NEUTRALS]
    x, y, weight, share = (np.array(v, dtype=np.float64) for v in zip(*rows, strict=True))
    cones, wanted = (np.maximum(v @ REC2020_TO_CONES.T, DARKEST) for v in (x, y))
    scale = weight / wanted.mean(axis=1)
    a, b = cones * (scale * share)[:, None], (wanted - cones) * scale[:, None]
    change = np.linalg.solve(a.T @ a + RIDGE * len(rows) * np.eye(3), a.T @ b).T
    return np.asarray(CONES_TO_REC2020 @ (np.eye(3) + change) @ REC2020_TO_CONES)


def matched(rgb: Rgb, matrix: npt.NDArray[np.float64]) -> Rgb:
    """One colour through a mapping."""
    red, green, blue = (float(v) for v in matrix @ np.asarray(rgb))
    return red, green, blue


def contrary(pairs: Sequence[MeasuredPair]) -> list[tuple[int, int]]:
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


@kernel(of.planes, of.plane, of.plane, of.line, of.line, of.planes)
def _match(rows: Any, rgb: Any, mask: Any, m: Any, lum: Any, how: Any, out: Any) -> None:
    """m: the mapping less the identity; how: amount, share of lightening and of darkening let through."""
    m = constants(m)
    amount, lighten, darken = how[0], how[1], how[2]
    yr, yg, yb = lum[0], lum[1], lum[2]
    for y in range(*rows):
        for x in range(rgb.shape[2]):
            w = mask[y, x] * amount
            r, g, b = rgb[0, y, x], rgb[1, y, x], rgb[2, y, x]
            dr = w * (m[0][0] * r + m[0][1] * g + m[0][2] * b)
            dg = w * (m[1][0] * r + m[1][1] * g + m[1][2] * b)
            db = w * (m[2][0] * r + m[2][1] * g + m[2][2] * b)
            before = yr * r + yg * g + yb * b
            moved = yr * dr + yg * dg + yb * db
            let = lighten if moved > f32(0.0) else darken
            keep = (before + moved * let) / max(before + moved, f32(1e-4))
            keep = keep if before + moved > f32(1e-4) else f32(1.0)
            out[0, y, x] = (r + dr) * keep if w > f32(0.0) else r
            out[1, y, x] = (g + dg) * keep if w > f32(0.0) else g
            out[2, y, x] = (b + db) * keep if w > f32(0.0) else b
