"""How well does the finder see where a cast lies and which way it goes, and how often is it wrong?"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt

from bench.made_casts import Case, cases
from bench.scenes import TAINTED, Scene, all_scenes
from nubilis.arrays import Floats
from nubilis.cast.direction import MeasuredPair, angle_between
from nubilis.colour.cielab import lab_planes
from nubilis.colour.difference import difference_plane
from nubilis.colour.profile import srgb
from nubilis.engine.engine import Engine
from nubilis.find.adopt import AUTO_AMOUNT, all_adopted, sure_enough
from nubilis.find.cause import Cause
from nubilis.find.colours import Reduced, reduced
from nubilis.find.field import Looker, Words
from nubilis.find.look import Surveyor, look, sight_of
from nubilis.find.regions import LEAST_CONFIDENCE, Region, regions
from nubilis.photo.picture import Photo
from nubilis.photo.sampling import encode
from nubilis.planning import sample_at
from nubilis.recipe.asset import Bundle

RIGHT_ANGLE, RIGHT_SHARE, RIGHT_OVERLAP = 45.0, 0.5, 0.15  # what makes a finding right
FRAME = 0.7  # of the width: two frames of one photograph stand for two photos of a shoot


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
    """clicked: AP with one click alone; guided: with the direction too; angles: of the right findings;
    wrong: findings that are not; told: confidence and whether right."""

    precision: float
    overlap: float
    clicked: float
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
    clicked, guided = (looker.field(w).nearby for w in (Words(places=words.places), words))
    return Score(
        average_precision(field.nearby, truth), best_overlap(field.nearby, truth),
        average_precision(clicked, truth), average_precision(guided, truth),
        tuple(angles), wrong, tuple(told),
    )  # fmt: skip


def _right(region: Region, truth: npt.NDArray[np.bool_], angle: float) -> bool:
    overlap = (region.inside & truth).sum() / (region.inside | truth).sum()
    share = truth[region.inside].mean()
    return bool(angle < RIGHT_ANGLE and share > RIGHT_SHARE and overlap > RIGHT_OVERLAP)


def of_case(case: Case) -> Score:
    return _of_picture(case.rgb, case.difference, case.shift)


def of_frame(case: Case) -> Score:
    """The left of a tainted photograph, with the right of the untainted one from the same shoot."""
    w = case.rgb.shape[2]
    left, right = np.s_[..., : int(FRAME * w)], np.s_[..., w - int(FRAME * w) :]
    other = reduced(np.ascontiguousarray(case.untainted[right]))
    part = np.ascontiguousarray(case.rgb[left])
    return _of_picture(part, case.difference[left], case.shift, [other])


def _of_picture(
    rgb: Floats, difference: Floats, shift: npt.NDArray[np.float64], others: Sequence[Reduced] = ()
) -> Score:
    looker = Looker(reduced(rgb), others)
    h, w = looker.small.shape
    small = cv2.resize(np.ascontiguousarray(difference), (w, h), interpolation=cv2.INTER_AREA)
    y, x = np.unravel_index(int(cv2.blur(small, (5, 5)).argmax()), small.shape)
    place = (float(x) + 0.5) / max(h, w), (float(y) + 0.5) / max(h, w)
    words = Words((float(shift[0]), float(shift[1])), (place,)) if small.any() else Words()
    return score(looker, small > TAINTED, shift, words)


def of_scene(scene: Scene, others: Sequence[Reduced] = ()) -> Score:
    """Guided by the scene's own first pair."""
    engine = Engine(scene.photo)
    looker = Looker(sight_of(engine), others)
    h, w = looker.small.shape
    truth = cv2.resize(scene.error_before, (w, h), interpolation=cv2.INTER_AREA) > TAINTED
    if not truth.any():
        return score(looker, truth, np.zeros(2), Words())
    tainted, reference = (sample_at(engine, p[0]) for p in scene.pairs(engine))
    shift = MeasuredPair(tainted.rgb, reference.rgb).shift
    assert tainted.at is not None
    return score(looker, truth, shift, Words((float(shift[0]), float(shift[1])), (tainted.at,)))


def summary(name: str, scores: Iterable[Score], clean: Iterable[Score]) -> str:
    tainted, untainted = list(scores), list(clean)
    angles = [a for s in tainted for a in s.angles]
    means = [
        np.mean([getattr(s, what) for s in tainted])
        for what in ("precision", "overlap", "clicked", "guided")
    ]
    return (
        f"| {name} | {len(tainted)} + {len(untainted)} "
        + "".join(f"| {m:.3f} " for m in means)
        + f"| {np.mean([s.found for s in tainted]):.2f} | {np.median(angles) if angles else 0:.0f} "
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


def auto(photo: Photo, truth: Floats, found_by: Surveyor) -> tuple[float | None, float]:
    """`fix --auto` on one photo: share of ΔE left in the tainted areas that were found, None without any;
    and the mean ΔE by which the whole photo moved. truth: CIELAB (3, h, w)."""
    assets = Bundle()
    engine = Engine(photo, assets=assets)
    found = sure_enough(found_by.look().findings)
    view = engine.analysis_view
    before = lab_planes(engine.untouched(view))
    after = lab_planes(engine.render(all_adopted(engine, found, assets.keep, AUTO_AMOUNT), view))
    moved = float(difference_plane(before, after).mean())
    h, w = view.shape
    true = np.stack([cv2.resize(p, (w, h), interpolation=cv2.INTER_AREA) for p in truth])
    error = difference_plane(before, true)
    inside = error > TAINTED
    inside &= np.any([f.mask > 0.5 for f in found] or [np.zeros((h, w), dtype=bool)], axis=0)
    if not inside.any():
        return None, moved
    return float(difference_plane(after, true)[inside].mean() / error[inside].mean()), moved


def _auto_of_case(case: Case) -> tuple[float | None, float]:
    photo = Photo(encode(case.rgb, srgb()), srgb())
    return auto(photo, lab_planes(case.untainted), Surveyor(Engine(photo)))


def auto_line(name: str, tainted: list[tuple[float | None, float]],
              clean: list[tuple[float | None, float]]) -> str:  # fmt: skip
    left = [share for share, _ in tainted if share is not None]
    moved = [m for _, m in clean]
    return (
        f"| {name} | {len(left)} of {len(tainted)} | {np.mean(left) if left else 0:.2f} "
        f"| {np.mean(moved):.2f} | {np.max(moved):.2f} |"
    )


HEAD = (
    "| pictures | tainted + clean | AP | best IoU | AP, one click | AP, click and direction | found "
    "| angle | wrong | wrong, clean |",
    "|---|---|---|---|---|---|---|---|---|---|",
)
AUTO_HEAD = (
    "| `fix --auto` | with a taint found | of it left there | clean moved, mean | most |",
    "|---|---|---|---|---|",
)


def report() -> list[str]:
    scenes = all_scenes()
    sights = {s.name: sight_of(Engine(s.photo)) for s in scenes}
    others = {s.name: [v for k, v in sights.items() if k != s.name] for s in scenes}
    alone = [(s, of_scene(s)) for s in scenes]
    helped = [(s, of_scene(s, others[s.name])) for s in scenes]
    lines, autos = [*HEAD], [*AUTO_HEAD]
    for name, scored in (("scenes", alone), ("scenes, with the others of the shoot", helped)):
        lines.append(summary(name, [r for s, r in scored if s.tainted.any()],
                             [r for s, r in scored if not s.tainted.any()]))  # fmt: skip
    done = [(s, auto(s.photo, s.lab_truth, Surveyor(Engine(s.photo)))) for s in scenes]
    autos.append(auto_line("scenes", [r for s, r in done if s.tainted.any()],
                           [r for s, r in done if not s.tainted.any()]))  # fmt: skip
    made = list(cases())
    made = [c for c in made if c.clean or c.tainted.mean() > 0.005]
    for name, for_test in (("photographs for tuning", False), ("**photographs for test**", True)):
        half = [c for c in made if c.for_test is for_test]
        results = [(c, of_case(c)) for c in half]
        frames = [(c, of_frame(c)) for c in half]
        frames = [(c, r) for c, r in frames if c.clean or r.precision > 0.0]
        for what, scored in ((name, results), (f"{name}, with another frame", frames)):
            lines.append(summary(what, [r for c, r in scored if not c.clean],
                                 [r for c, r in scored if c.clean]))  # fmt: skip
        tried = [(c, _auto_of_case(c)) for c in half]
        autos.append(auto_line(name, [r for c, r in tried if not c.clean],
                               [r for c, r in tried if c.clean]))  # fmt: skip
        if for_test:
            calibrated = calibration(r for _, r in results)
    return [*lines, "", *autos, "", *calibrated, "", *causes(scenes, others)]


def causes(scenes: list[Scene], others: dict[str, list[Reduced]]) -> list[str]:
    """The first finding's cause against the scene's."""
    lines = ["| scene | cause | said |", "|---|---|---|"]
    for scene in scenes:
        if scene.tainted.any():
            found = look(Engine(scene.photo), others=others[scene.name]).findings
            said: Cause | str = found[0].cause if found else "nothing found"
            lines.append(f"| {scene.name} | {scene.facts['cause']} | {said} |")
    return lines
