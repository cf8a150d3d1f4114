"""What one choice is worth: an editor takes, of the pictures shown, the one nearest to the truth, or none."""

from collections.abc import Iterable, Iterator
from dataclasses import dataclass

import cv2
import numpy as np

from bench.finding import RIGHT_ANGLE
from bench.made_casts import Case, cases
from bench.scenes import TAINTED, all_scenes
from nubilis.arrays import Floats
from nubilis.cast.direction import MeasuredPair, angle_between
from nubilis.colour.cielab import lab_planes
from nubilis.colour.difference import difference_plane
from nubilis.colour.profile import srgb
from nubilis.engine.engine import Engine
from nubilis.find.adopt import AUTO_AMOUNT, all_adopted, sure_enough
from nubilis.find.finding import Finding
from nubilis.find.look import look
from nubilis.people.people import look_for_people
from nubilis.photo.picture import Photo
from nubilis.photo.sampling import encode
from nubilis.planning import sample_at
from nubilis.recipe.asset import Bundle


@dataclass(frozen=True)
class Chosen:
    """asked: whether a question was put; found: whether what was taken goes the true way; left: of the taint
    (CIEDE2000 over the tainted area) by the finder alone, and with the choice; moved: mean over the photo."""

    asked: bool
    found: bool
    alone: float
    left: float
    moved: float


def choose(photo: Photo, truth: Floats, shift: np.ndarray) -> Chosen:
    """truth: CIELAB (3, h, w) of the photo without its taint; shift: of the taint, log chroma (2,)."""
    assets = Bundle()
    engine = Engine(photo, assets=assets)
    view, seen = engine.analysis_view, look(engine, people=look_for_people(engine.sight()))
    before = lab_planes(engine.untouched(view))
    size = before.shape[:0:-1]
    true = np.stack([cv2.resize(p, size, interpolation=cv2.INTER_AREA) for p in truth])
    error = difference_plane(before, true)
    bad = error > TAINTED

    def left_by(findings: Iterable[Finding]) -> tuple[float, float, float]:
        """Of the taint, of the whole photo's error, and how much is moved."""
        recipe = all_adopted(engine, list(findings), assets.keep, AUTO_AMOUNT)
        after = lab_planes(engine.render(recipe, view))
        rest = difference_plane(after, true)
        share = float(rest[bad].sum() / error[bad].sum()) if bad.any() else 1.0
        return share, float(rest.mean()), float(difference_plane(before, after).mean())

    sure = sure_enough(seen.findings)
    alone = left_by(sure)[0] if sure else 1.0
    best, taken = (1.0, float(error.mean()), 0.0), list[Finding]()
    for choice in seen.choices:
        findings = list(seen.chosen(choice.id))
        tried = left_by(findings)
        if tried[1] < best[1]:
            best, taken = tried, findings
    if not seen.choices and sure:
        best, taken = left_by(sure), sure
    angles = [angle_between(np.array(f.shift), shift) for f in taken]
    found = bool(angles) and min(angles) < RIGHT_ANGLE
    return Chosen(bool(seen.choices), found, alone, best[0], best[2])


def of_case(case: Case) -> Chosen:
    photo = Photo(encode(case.rgb, srgb()), srgb())
    return choose(photo, lab_planes(case.untainted), case.shift)


def of_scenes() -> Iterator[tuple[bool, Chosen]]:
    """Whether the scene is clean, and what comes of it."""
    for scene in all_scenes():
        shift = np.zeros(2)
        if scene.tainted.any():
            engine = Engine(scene.photo)
            tainted, reference = (sample_at(engine, p[0]) for p in scene.pairs(engine))
            shift = MeasuredPair(tainted.rgb, reference.rgb).shift
        yield not scene.tainted.any(), choose(scene.photo, scene.lab_truth, shift)


HEAD = [
    "| pictures | tainted + clean | asked, tainted | asked, clean | right way | left, finder alone "
    "| left, one choice | a quarter less | clean moved |",
    "|---|---|---|---|---|---|---|---|---|",
]


def line(name: str, chosen: list[tuple[bool, Chosen]]) -> str:
    tainted, clean = ([c for is_clean, c in chosen if is_clean is which] for which in (False, True))
    return (
        f"| {name} | {len(tainted)} + {len(clean)} | {np.mean([c.asked for c in tainted]):.2f} "
        f"| {np.mean([c.asked for c in clean]):.2f} | {np.mean([c.found for c in tainted]):.2f} "
        f"| {np.mean([c.alone for c in tainted]):.2f} | {np.mean([c.left for c in tainted]):.2f} "
        f"| {np.mean([c.left < 0.75 for c in tainted]):.2f} | {np.mean([c.moved for c in clean]):.3f} |"
    )


def report() -> list[str]:
    made = [c for c in cases() if c.clean or c.tainted.mean() > 0.005]
    lines = [*HEAD, line("scenes", list(of_scenes()))]
    for name, for_test in (("photographs for tuning", False), ("**photographs for test**", True)):
        half = [c for c in made if c.for_test is for_test]
        lines.append(line(name, [(c.clean, of_case(c)) for c in half]))
    return lines
