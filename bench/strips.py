"""Tainted, treated and true side by side, at 100 % of the place that is worst afterwards, for the eye.

python -m bench.strips: writes docs/results/*.jpg anew.
"""

import cv2
import numpy as np

from bench.relit import Relit, relit_scenes
from bench.scenes import ROOT, Scene, lab_of, tainted_scenes
from nubilis.arrays import Codes
from nubilis.colour.difference import difference_plane
from nubilis.engine.engine import Engine
from nubilis.find.choice import fullest_square
from nubilis.planning import mask_picture, plan_fix
from nubilis.recipe.asset import Bundle

OUT = ROOT / "docs/results"
SIDE = 300  # pixels of a square
GAP = 8
ROOMS = 6


def strip(picture: Scene | Relit) -> Codes:
    """Treated with one pair per cast in a loose mask."""
    assets = Bundle()
    engine = Engine(picture.photo, assets=assets)
    mask = assets.keep(mask_picture(picture.loose_mask(), picture.photo))
    treated = engine.deliver(plan_fix(engine, *picture.pairs(engine, 1), mask=mask))
    error = difference_plane(lab_of(treated), picture.lab_truth)
    x, y = fullest_square(error, SIDE)
    squares = [
        np.pad(p.codes[y : y + SIDE, x : x + SIDE], ((0, 0), (0, GAP), (0, 0)), constant_values=119)
        for p in (picture.photo, treated, picture.truth)
    ]
    return np.concatenate(squares, axis=1)[:, :-GAP]


def main() -> None:
    OUT.mkdir(parents=True, exist_ok=True)
    rooms = [r for r in relit_scenes(1) if r.for_test][:ROOMS]
    for picture in (*tainted_scenes(), *rooms):
        path = OUT / f"{picture.name.split()[0]}.jpg"
        codes = np.ascontiguousarray(strip(picture)[..., ::-1])
        cv2.imwrite(str(path), codes, [cv2.IMWRITE_JPEG_QUALITY, 90])


if __name__ == "__main__":
    main()
