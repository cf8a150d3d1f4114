"""No clean place in the frame: how much is left when a sample's reference is a made neutral?

Places are picked on a surface that is about grey in truth and tainted, with a clean place of the same surface
elsewhere. Three ways to treat the same mask: the clean place as the reference; a made neutral; four places of
the surface, sampled together, and one made neutral. By hand: .venv/bin/python -m bench.neutrals [ROOMS].
"""

import sys
from collections.abc import Iterator
from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt

from bench.clicks import inner
from bench.relit import relit_scenes
from bench.scenes import KnownTruth, lab_of, tainted_scenes
from nubilis.arrays import Floats
from nubilis.colour.difference import difference_plane
from nubilis.engine.engine import Engine
from nubilis.engine.sample import place_of, sampled
from nubilis.mask.combine import Mask
from nubilis.mask.picture import Picture
from nubilis.planning import mask_picture, with_made_neutral
from nubilis.recipe.asset import Bundle
from nubilis.recipe.document import Cast, Pair, Recipe
from nubilis.remedy.neutralise import Neutralise

GREY, CLEAN = 3.0, 0.7  # chroma; ΔE2000 of a place without taint
RIM = 12  # pixels
PLACES = 4
Place = tuple[int, int]


@dataclass(frozen=True)
class Grey:
    """Places (y, x) of one surface: tainted ones, the strongest first, and a clean one."""

    tainted: list[Place]
    clean: Place
    area: npt.NDArray[np.bool_]


def grey_surface(scene: KnownTruth) -> Grey | None:
    """The largest there is."""
    truth = np.stack([cv2.blur(p, (7, 7)) for p in scene.lab_truth])
    error = cv2.blur(scene.error_before.astype(np.float32), (7, 7))
    flat = np.abs(cv2.Laplacian(cv2.blur(scene.lab_truth[0], (3, 3)), cv2.CV_32F)) < 1.5
    flat &= np.hypot(truth[1], truth[2]) < GREY
    flat &= (truth[0] > 25.0) & (truth[0] < 97.0) & inner(flat.shape, RIM)
    strong = flat & (error > 5.0)
    clean = np.argwhere(flat & (error < CLEAN))
    if not strong.any() or not len(clean):
        return None
    rng = np.random.default_rng(40)
    best: Grey | None = None
    for y, x in rng.permutation(np.argwhere(strong))[:30]:
        colour = truth[:, y, x]
        twins = np.abs(truth[:, clean[:, 0], clean[:, 1]] - colour[:, None])
        fits = (np.hypot(twins[1], twins[2]) < 3.0) & (twins[0] < 12.0)
        if not fits.any():
            continue
        own = strong & (np.hypot(truth[1] - colour[1], truth[2] - colour[2]) < 3.0)
        if best is None or own.sum() > best.area.sum():
            others = rng.permutation(np.argwhere(own))[: PLACES - 1]
            one = clean[int(np.argmax(fits))]
            best = Grey(
                [(int(y), int(x)), *((int(a), int(b)) for a, b in others)],
                (int(one[0]), int(one[1])),
                own,
            )
    return best


def recipes(engine: Engine, grey: Grey, mask: Mask) -> Iterator[tuple[str, Recipe]]:
    def at(place: Place) -> tuple[float, float]:
        return place_of(engine.photo, place[1], place[0])

    def treated(*pairs: Pair) -> Recipe:
        cast = Cast(id="c", pairs=pairs, mask=mask, remedies=(Neutralise(id="n"),))
        return Recipe(casts=(cast,))

    first = sampled(engine, at(grey.tainted[0]))
    yield (
        "clean reference",
        treated(Pair(id="p", tainted=first, reference=sampled(engine, at(grey.clean)))),
    )
    yield "made neutral", treated(with_made_neutral("p", first))
    four = sampled(engine, at(grey.tainted[0]), further=[at(p) for p in grey.tainted[1:]])
    yield "four places together", treated(with_made_neutral("p", four))
    pairs = [with_made_neutral(f"p{i}", sampled(engine, at(p))) for i, p in enumerate(grey.tainted)]
    yield "four pairs", treated(*pairs)


def shares(scene: KnownTruth, grey: Grey) -> dict[str, tuple[float, float]]:
    """What is left of the mean taint: of all that is tainted, and on the surface itself."""
    assets = Bundle()
    engine = Engine(scene.photo, assets=assets)
    kept = assets.keep(mask_picture(scene.loose_mask(), scene.photo))
    mask = Mask(parts=(Picture(id="m", asset=kept),))
    found = {}
    for name, recipe in recipes(engine, grey, mask):
        error: Floats = difference_plane(lab_of(engine.deliver(recipe)), scene.lab_truth)
        found[name] = tuple(
            float(error[area].mean() / scene.error_before[area].mean())
            for area in (scene.tainted, grey.area)
        )
    return found


def main() -> None:
    rooms = int(sys.argv[1]) if len(sys.argv) > 1 else 1000
    sets: dict[str, list[dict[str, tuple[float, float]]]] = {}
    for kind, scenes in (
        ("scenes", tainted_scenes()),
        ("relit, one cast", relit_scenes(1)),
        ("relit, two casts", relit_scenes(2)),
    ):
        done = 0
        for scene in scenes:
            if done >= rooms:
                break
            grey = grey_surface(scene)
            if grey is None:
                continue
            done += 1
            found = shares(scene, grey)
            if kind == "scenes":
                print(
                    scene.name,
                    {k: tuple(round(x, 2) for x in v) for k, v in found.items()},
                    flush=True,
                )
            sets.setdefault(kind, []).append(found)
        rows = sets[kind]
        print(
            f"| {kind} ({len(rows)}) | "
            + " | ".join(
                f"{n} {np.mean([r[n][0] for r in rows]):.3f} / {np.mean([r[n][1] for r in rows]):.3f}"
                for n in rows[0]
            ),
            flush=True,
        )


if __name__ == "__main__":
    main()
