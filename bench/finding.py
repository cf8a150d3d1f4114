"""How well does the finder see where a cast lies and which way it goes, and how often is it wrong?"""

from collections.abc import Iterable
from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt

from bench.made_casts import Case, cases
from bench.scenes import TAINTED, Scene, all_scenes
from nubilis.arrays import Floats
from nubilis.engine import Engine
from nubilis.find.colours import seen
from nubilis.find.field import Looker, Words
from nubilis.find.regions import LEAST_CONFIDENCE, Region, regions
from nubilis.planning import sample_at
from nubilis.remedy.direction import Pair, angle_between

RIGHT_ANGLE, RIGHT_SHARE, RIGHT_OVERLAP = 45.0, 0.5, 0.15  # what makes a finding right


def average_precision(score: Floats, truth: npt.NDArray[np.bool_]) -> float:
    """Area under precision over recall, pixel by pixel."""
    hits = truth.ravel()[np.argsort(-score.ravel(), kind="stable")].astype(np.float64)
    precision = np.cumsum(hits) / np.arange(1, hits.size + 1)
    return float((precision * hits).sum() / max(hits.sum(), 1.0))


def best_overlap(score: Floats, truth: npt.NDArray[np.bool_]) -> float:
    """Intersection over union at the best threshold."""
    shares = []
    for q in np.quantile(score, np.linspace(0.02, 0.98, 40)):
        area = score > q
        shares.append((area & truth).sum() / max((area | truth).sum(), 1))
    return float(max(shares))


@dataclass(frozen=True)
class Score:
    """angles: of the right findings; wrong: findings that are not; told: confidence and whether right."""

    precision: float
    overlap: float
    guided: float
    angles: tuple[float, ...]
    wrong: int
    told: tuple[tuple[float, bool], ...]

    @property
    def found(self) -> bool:
        return bool(self.angles)


def score(looker: Looker, truth: npt.NDArray[np.bool_], shift: npt.NDArray[np.float64],
          words: Words) -> Score:  # fmt: skip
    """truth: at the finder's size; words: what an editor would say for the guided pass."""
    field = looker.field()
    told, angles = [], []
    for region in regions(field):
        angle = angle_between(np.array(region.shift), shift)
        right = truth.any() and _right(region, truth, angle)
        told.append((region.confidence, bool(right)))
        if right and region.confidence >= LEAST_CONFIDENCE:
            angles.append(angle)
    wrong = sum(c >= LEAST_CONFIDENCE and not right for c, right in told)
    guided = looker.field(words).taint
    return Score(
        average_precision(field.taint, truth), best_overlap(field.taint, truth),
        average_precision(guided, truth), tuple(angles), wrong, tuple(told),
    )  # fmt: skip


def _right(region: Region, truth: npt.NDArray[np.bool_], angle: float) -> bool:
    overlap = (region.inside & truth).sum() / (region.inside | truth).sum()
    share = truth[region.inside].mean()
    return bool(angle < RIGHT_ANGLE and share > RIGHT_SHARE and overlap > RIGHT_OVERLAP)


def of_case(case: Case) -> Score:
    looker = Looker(seen(case.rgb))
    h, w = looker.seen.shape
    difference = cv2.resize(case.difference, (w, h), interpolation=cv2.INTER_AREA)
    y, x = np.unravel_index(int(cv2.blur(difference, (5, 5)).argmax()), difference.shape)
    place = (float(x) + 0.5) / max(h, w), (float(y) + 0.5) / max(h, w)
    words = Words() if case.clean else Words((float(case.shift[0]), float(case.shift[1])), (place,))
    return score(looker, difference > TAINTED, case.shift, words)


def of_scene(scene: Scene) -> Score:
    """Guided by the scene's own first pair."""
    engine = Engine(scene.photo)
    looker = Looker(seen(engine.pyramid.analysis))
    h, w = looker.seen.shape
    truth = cv2.resize(scene.error_before, (w, h), interpolation=cv2.INTER_AREA) > TAINTED
    if not truth.any():
        return score(looker, truth, np.zeros(2), Words())
    tainted, reference = (sample_at(engine, p[0]) for p in scene.pairs(engine))
    shift = Pair(tainted.rgb, reference.rgb).shift
    assert tainted.at is not None
    return score(looker, truth, shift, Words((float(shift[0]), float(shift[1])), (tainted.at,)))


def summary(name: str, scores: Iterable[Score], clean: Iterable[Score]) -> str:
    tainted, untainted = list(scores), list(clean)
    angles = [a for s in tainted for a in s.angles]
    return (
        f"| {name} | {len(tainted)} | {np.mean([s.precision for s in tainted]):.3f} "
        f"| {np.mean([s.overlap for s in tainted]):.3f} | {np.mean([s.guided for s in tainted]):.3f} "
        f"| {np.mean([s.found for s in tainted]):.2f} | {np.median(angles) if angles else 0:.0f} "
        f"| {np.mean([s.wrong for s in tainted]):.2f} | {np.mean([s.wrong for s in untainted]):.2f} |"
    )


def calibration(scores: Iterable[Score]) -> list[str]:
    """How often findings of a confidence are right."""
    told = [t for s in scores for t in s.told]
    lines = ["| confidence | findings | right |", "|---|---|---|"]
    for low, high in ((0.0, 0.2), (0.2, 0.3), (0.3, 0.5), (0.5, 0.7), (0.7, 1.01)):
        these = [right for c, right in told if low <= c < high]
        share = f"{np.mean(these):.2f}" if these else ""
        lines.append(f"| {low:.1f}-{min(high, 1.0):.1f} | {len(these)} | {share} |")
    return lines


def report() -> list[str]:
    scenes = [(s, of_scene(s)) for s in all_scenes()]
    lines = [
        "| pictures | tainted | AP | best IoU | guided AP | found | angle | wrong | wrong, clean |",
        "|---|---|---|---|---|---|---|---|---|",
        summary("scenes", [r for s, r in scenes if s.tainted.any()],
                [r for s, r in scenes if not s.tainted.any()]),
    ]  # fmt: skip
    made = [(case, of_case(case)) for case in cases()]
    names = sorted({case.photo for case, _ in made})
    for half, which in (
        ("one half of the photographs", names[0::2]),
        ("the other half", names[1::2]),
    ):
        part = [(c, r) for c, r in made if c.photo in which]
        tainted = [r for c, r in part if not c.clean and c.tainted.mean() > 0.005]
        lines.append(summary(half, tainted, [r for c, r in part if c.clean]))
    return [*lines, "", *calibration(r for _, r in made)]
