"""How near does `fix` come to the truth, what does it move elsewhere, and how much do clicks matter?"""

from collections.abc import Iterable
from dataclasses import dataclass, replace

import numpy as np
import numpy.typing as npt

from bench.relit import Relit, relit_scenes
from bench.scenes import TAINTED, KnownTruth, Scene, lab_of, tainted_scenes
from bench.touching import touched_up
from nubilis.arrays import Floats
from nubilis.cast.direction import MeasuredPair, angle_between, outvoted
from nubilis.colour.difference import difference_plane
from nubilis.engine.engine import Engine
from nubilis.photo.picture import Photo
from nubilis.planning import Point, mask_picture, plan_fix, sample_at
from nubilis.proof.casts import prove
from nubilis.recipe.asset import Bundle
from nubilis.recipe.document import Recipe
from nubilis.remedy.match import Match

PAST, WORSE = 3.0, 2.0  # CIELAB, ΔE2000: what the eye takes for a fault of the treatment
CLEAN = 0.5  # ΔE2000 below which a pixel counts as never tainted
JITTER = 5.0  # pixels
GRAIN = 3.0  # code values, standard deviation


@dataclass(frozen=True)
class How:
    """pairs: at least so many; guards: kept colours; match: instead of neutralise; seed: of clicks that
    miss by up to JITTER, or of grain on the photo; at rest they hit, and there is none."""

    pairs: int = 1
    guards: int = 0
    match: bool = False
    missed: int | None = None
    grain: int | None = None


@dataclass(frozen=True)
class Score:
    """CIEDE2000 to the truth, mean and 95th percentile in the tainted area, before and after.

    outside: mean error added where there was no taint; lightness: mean |ΔL*| moved under the mask;
    guards: the most that a kept colour moved; after99: 99th percentile; past: share of the tainted area
    that was taken past the truth, along its own taint, by more than PAST; worse: share of the whole photo
    that is farther from the truth than before by more than WORSE; share: of the mean taint that is left.
    """

    scene: str
    pairs: int
    before: float
    before95: float
    after: float
    after95: float
    outside: float
    lightness: float
    guards: float
    after99: float
    past: float
    worse: float
    added: float | None = None

    @property
    def share(self) -> float:
        return self.after / self.before


def score(scene: Scene | Relit, how: How = How()) -> Score:
    """`fix` with the scene's own samples inside a loose mask."""
    photo = scene.photo if how.grain is None else _grainy(scene.photo, how.grain)
    assets = Bundle()
    engine = Engine(photo, assets=assets)
    tainted, references = scene.pairs(engine, how.pairs)
    if how.missed is not None:
        tainted, references = (_missed(p, photo, how.missed) for p in (tainted, references))
    mask = scene.loose_mask()
    guards = scene.points("guard")[: how.guards] if isinstance(scene, Scene) else []
    kept_mask = assets.keep(mask_picture(mask, photo))
    recipe = plan_fix(engine, tainted, references, guards=guards, mask=kept_mask)
    if how.match:
        recipe = _matching(recipe)
    lab_before, lab_after = lab_of(photo), lab_of(engine.deliver(recipe))
    truth = scene.lab_truth + (lab_before - lab_of(scene.photo))  # its grain is no taint
    error, error_before = (difference_plane(v, truth) for v in (lab_after, lab_before))
    bad, clean = scene.tainted, scene.error_before < CLEAN
    masked = mask.codes[..., 0] > 0
    kept = [g.moved for cast in prove(engine, recipe).casts for g in cast.guards]
    return Score(
        scene.name,
        len(tainted),
        float(error_before[bad].mean()),
        float(np.percentile(error_before[bad], 95)),
        float(error[bad].mean()),
        float(np.percentile(error[bad], 95)),
        float((error - error_before)[clean].mean()) if clean.any() else 0.0,
        float(np.abs((lab_after[0] - lab_before[0])[masked]).mean()),
        max(kept, default=0.0),
        float(np.percentile(error[bad], 99)),
        float((_beyond(lab_before, lab_after, truth)[bad] > PAST).mean()),
        float((error - error_before > WORSE).mean()),
        _added(scene, error - error_before, masked),
    )


def _added(scene: KnownTruth, error_added: Floats, masked: npt.NDArray[np.bool_]) -> float | None:
    if not isinstance(scene, Relit):
        return None
    there = masked & (scene.error_before < 1.0) & (scene.error_of_others > TAINTED)
    return float(error_added[there].mean()) if there.sum() > 50 else None


def _beyond(before: Floats, after: Floats, truth: Floats) -> Floats:
    """How far each pixel (3, h, w) was moved along its taint beyond the truth, CIELAB."""
    taint = before - truth
    size = np.maximum(np.sqrt((taint**2).sum(axis=0)), 1e-6)
    return np.asarray(((before - after) * taint).sum(axis=0) / size - size)


def _missed(points: list[Point], photo: Photo, seed: int) -> list[Point]:
    rng = np.random.default_rng(seed)
    most = photo.width - 1.0, photo.height - 1.0
    away = rng.uniform(-JITTER, JITTER, (len(points), 2))
    moved = np.clip(np.array(points) + away, 0.0, most)
    return [(float(x), float(y)) for x, y in moved]


def _grainy(photo: Photo, seed: int) -> Photo:
    grain = np.random.default_rng(seed).normal(0.0, GRAIN, photo.codes.shape)
    return replace(photo, codes=np.clip(photo.codes + grain, 0, 255).astype(np.uint8))


def _matching(recipe: Recipe) -> Recipe:
    casts = (c.model_copy(update={"remedies": (Match(id="match"),)}) for c in recipe.casts)
    return recipe.model_copy(update={"casts": tuple(casts)})


def report() -> list[str]:
    """Markdown lines."""
    lines = [
        "| scene | pairs | mean before | after | left | p95 before | after | p99 "
        "| past | worse | outside | ΔL* |",
        "|---|---|---|---|---|---|---|---|---|---|---|---|",
    ]
    for least in (1, 2, 3):
        scores = [score(s, How(least)) for s in tainted_scenes()]
        lines += [_line(s) for s in scores]
        name = "one pair per cast" if least == 1 else f"at least {least} pairs"
        left, worst, outside, light = _summary(scores)
        p99, past, worse = (
            float(np.mean([getattr(s, of) for s in scores])) for of in ("after99", "past", "worse")
        )
        lines.append(
            f"| **mean, {name}** | | | | **{left}** (worst {worst}) | | "
            f"| {p99:.1f} | {past:.1%} | {worse:.1%} | {outside} | {light} |"
        )
    further = _relit(), _touched(), _variants(), _robustness(), _wrong_pairs()
    return [*lines, *(line for table in further for line in ("", *table))]


def _relit() -> list[str]:
    """Rooms lit anew at random, of which the half for test was not looked at while anything was tuned."""
    lines = [
        "| relit rooms | pictures | pairs | left | a tenth above | past | worse | added by another cast |",
        "|---|---|---|---|---|---|---|---|",
    ]
    for casts in (1, 2):
        rooms = list(relit_scenes(casts))
        for name, for_test in (("tuning", False), ("**test**", True)):
            half = [r for r in rooms if r.for_test is for_test]
            for pairs in (1, 3):
                scores = [score(r, How(pairs)) for r in half]
                shares = [s.share for s in scores]
                past, worse = (
                    np.mean([getattr(s, of) for s in scores]) for of in ("past", "worse")
                )
                added = [s.added for s in scores if s.added is not None]
                told = f"{np.mean(added):.2f}" if added else ""
                lines.append(
                    f"| {name}, {'one cast' if casts == 1 else 'two casts'} | {len(half)} | {pairs} "
                    f"| {np.mean(shares):.2f} | {np.quantile(shares, 0.9):.2f} "
                    f"| {past:.1%} | {worse:.1%} | {told} |"
                )
    return lines


def _touched() -> list[str]:
    """An editor touches the worst places, each until it is right."""
    lines = ["| left after so many touches | 0 | 2 | 5 |", "|---|---|---|---|"]
    rooms = [r for r in relit_scenes(1) if r.for_test][::3]
    for name, pictures in (("scenes, one pair", tainted_scenes()), ("relit rooms, test", rooms)):
        left = np.array([touched_up(picture, (0, 2, 5)) for picture in pictures])
        lines.append(f"| {name} | " + " | ".join(f"{v:.2f}" for v in left.mean(axis=0)) + " |")
    return lines


def _line(s: Score) -> str:
    return (
        f"| {s.scene} | {s.pairs} | {s.before:.1f} | {s.after:.1f} | {s.share:.2f} "
        f"| {s.before95:.1f} | {s.after95:.1f} | {s.after99:.1f} | {s.past:.1%} | {s.worse:.1%} "
        f"| {s.outside:.2f} | {s.lightness:.2f} |"
    )


def _summary(scores: list[Score]) -> tuple[str, ...]:
    """Left, the worst, outside, lightness."""
    shares = [s.share for s in scores]
    numbers = (
        np.mean(shares),
        max(shares),
        *(np.mean([getattr(s, name) for s in scores]) for name in ("outside", "lightness")),
    )
    return tuple(f"{v:.2f}" for v in numbers)


def _variants() -> list[str]:
    lines = [
        "| mean over the scenes | left | worst | outside | ΔL* | a guard moved at most |",
        "|---|---|---|---|---|---|",
    ]
    for name, how in (
        ("neutralise, 3 pairs", How(3)),
        ("neutralise, 3 pairs, 4 guards", How(3, guards=4)),
        ("neutralise, 1 pair, 4 guards", How(1, guards=4)),
        ("match, 1 pair", How(1, match=True)),
        ("match, 2 pairs", How(2, match=True)),
        ("match, 3 pairs", How(3, match=True)),
        ("match, 3 pairs, 4 guards", How(3, guards=4, match=True)),
    ):
        scores = [score(s, how) for s in tainted_scenes()]
        most = max(s.guards for s in scores)
        lines.append(f"| {name} | {' | '.join(_summary(scores))} | {most:.2f} |")
    return lines


def _robustness() -> list[str]:
    lines = ["| 3 pairs | result changed, mean | most |", "|---|---|---|"]
    at_rest = {s.name: score(s, How(3)).after for s in tainted_scenes()}
    for name, hows in (
        ("clicks missed by up to 5 pixels", [How(3, missed=i) for i in range(5)]),
        (f"grain of {GRAIN:.0f} code values", [How(3, grain=i) for i in range(2)]),
    ):
        changes = [
            abs(score(s, how).after / at_rest[s.name] - 1.0)
            for s in tainted_scenes()
            for how in hows
        ]
        lines.append(f"| {name} | {100 * np.mean(changes):.0f} % | {100 * max(changes):.0f} % |")
    return lines


def _wrong_pairs(tries: int = 400) -> list[str]:
    """A third pair beside two that agree: outvoted when it is true, and when its reference is another
    paint, of those that point another way."""
    out: dict[bool, list[bool]] = {True: [], False: []}
    for scene in tainted_scenes():
        for true, pairs in _threes(scene, tries):
            out[true].append(2 in outvoted(pairs))
    return [
        "| a third pair that points another way than two | number | outvoted |",
        "|---|---|---|",
        *(
            f"| {name} | {len(out[true])} | {100 * np.mean(out[true]):.0f} % |"
            for true, name in ((True, "true"), (False, "with another paint as its reference"))
        ),
    ]


def _threes(scene: Scene, tries: int) -> Iterable[tuple[bool, list[MeasuredPair]]]:
    engine, rng = Engine(scene.photo), np.random.default_rng(0)
    tainted, references = (
        [sample_at(engine, p) for p in scene.points(kind)] for kind in ("tainted", "reference")
    )
    paints = [s["material"] for s in scene.facts["samples"]["tainted"]]
    for _ in range(tries):
        i, j, k = rng.choice(len(tainted), 3, replace=False)
        others = [n for n in range(len(tainted)) if paints[n] != paints[k]]
        for true, wanted in ((True, k), (False, rng.choice(others) if others else k)):
            pairs = [
                MeasuredPair(tainted[a].rgb, references[b].rgb, tainted[a].at, references[b].at)
                for a, b in ((i, i), (j, j), (k, wanted))
            ]
            two = pairs[0].shift + pairs[1].shift
            agree = angle_between(pairs[0].shift, pairs[1].shift) <= 30.0
            if agree and angle_between(pairs[2].shift, two) > 30.0 and (true or wanted != k):
                yield true, pairs
