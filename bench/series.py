"""Series: how well a mask follows its subject, what casts that are carried over leave, and how far a skin
agrees with itself before and after it is levelled."""

import time
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import cv2
import numpy as np

from bench.bursts import BurstFrame, as_plane, bursts
from bench.scenes import TAINTED, lab_of
from nubilis.arrays import Codes, Floats
from nubilis.colour.difference import as_light_apart, ciede2000, difference_plane
from nubilis.engine.engine import Engine
from nubilis.engine.sample import measure_place, place_of, sampled
from nubilis.people.canonical import unwrapped
from nubilis.people.people import look_for_people
from nubilis.photo.grey import grey_png
from nubilis.planning import plan_fix
from nubilis.recipe.asset import Bundle
from nubilis.recipe.document import Cast, Recipe
from nubilis.recipe.model import Place
from nubilis.series.agree import Sought
from nubilis.series.carry import Carried, Follower
from nubilis.series.follow import Followed, Series
from nubilis.series.frame import Frame, frame_of
from nubilis.series.level import RADIUS, levelled
from nubilis.series.motion import motion_between

LARGE = 6000  # pixels: the long edge of a 24 MP photo
PAIRS, GUARDS = 2, 4
EVERY = 150  # of a face's cells, one is clicked


def report() -> list[str]:
    return [*following(), "", *carrying(), "", *agreeing(), "", *speed()]


def frames(photos: Sequence[BurstFrame]) -> list[Frame]:
    return [frame_of(Engine(p.photo).sight()) for p in photos]


def followed(small: Sequence[Frame], keys: Mapping[int, Floats]) -> list[Followed]:
    return Series(len(small), lambda i: small[i]).follow(keys)


def shared(mask: Floats | None, frame: BurstFrame) -> float:
    """Intersection over union with the subject, at full size."""
    if mask is None:
        return 0.0
    h, w = frame.subject.shape
    there = cv2.resize(mask, (w, h), interpolation=cv2.INTER_LINEAR) > 0.5
    return float((there & frame.subject).sum() / max((there | frame.subject).sum(), 1))


def plain_flow(small: Sequence[Frame], mask: Floats) -> list[Floats]:
    """What flow alone makes of a mask on the first frame."""
    h, w = small[0].shape
    masks = [np.asarray(cv2.resize(mask, (w, h), interpolation=cv2.INTER_AREA))]
    for frame, earlier in zip(small[1:], small, strict=False):
        motion = motion_between(frame, earlier)
        masks.append(motion.brought(masks[-1]) if motion else masks[-1])
    return masks


def following() -> list[str]:
    lines = [
        "| subject's mask given on frame 1: IoU | mean of the others | last | least | least confidence |",
        "|---|---|---|---|---|",
    ]
    for name, photos in bursts().items():
        small = frames(photos)
        planes = {i: as_plane(p.subject) for i, p in enumerate(photos)}
        unmoved = [shared(planes[0], p) for p in photos]
        flow = [shared(m, p) for m, p in zip(plain_flow(small, planes[0]), photos, strict=True)]
        found = followed(small, {0: planes[0]})
        ours = [shared(f.mask, p) for f, p in zip(found, photos, strict=True)]
        worst = int(np.argmin(ours))
        again = followed(small, {0: planes[0], worst: planes[worst]})
        mended = [shared(f.mask, p) for f, p in zip(again, photos, strict=True)]
        rest = [v for i, v in enumerate(mended) if i not in (0, worst)]
        lines += [
            _row(f"{name}, left unmoved", unmoved[1:]),
            _row(f"{name}, plain flow", flow[1:]),
            _row(f"**{name}, followed**", ours[1:], min(f.confidence for f in found)),
            _row(f"{name}, frame {worst + 1} given too", rest, min(f.confidence for f in again)),
        ]
    return [*lines, "", *_sets_apart()]


def _row(name: str, shares: Sequence[float], sure: float | None = None) -> str:
    told = "" if sure is None else f"{sure:.2f}"
    mean, last, least = np.mean(shares), shares[-1], min(shares)
    return f"| {name} | {mean:.3f} | {last:.3f} | {least:.3f} | {told} |"


def _sets_apart() -> list[str]:
    """A cut between two set-ups, and frames left out of the first."""
    curtain, flash = bursts().values()
    cases = {
        "curtain 4, 5, flash 1, 2": [*curtain[3:5], *flash[:2]],
        "every 2nd of curtain": curtain[::2],
        "every 3rd": curtain[::3],
        "1 and 5": [curtain[0], curtain[4]],
        "1 and 8": [curtain[0], curtain[7]],
        "curtain backwards": curtain[::-1],
    }
    lines = ["| | IoU, of which to be checked in brackets |", "|---|---|"]
    for name, photos in cases.items():
        found = followed(frames(photos), {0: as_plane(photos[0].subject)})
        told = [
            "not followed"
            if f.mask is None
            else (f"({shared(f.mask, p):.2f})" if f.check else f"{shared(f.mask, p):.2f}")
            for f, p in list(zip(found, photos, strict=True))[1:]
        ]
        lines.append(f"| {name} | {', '.join(told)} |")
    return lines


def carrying() -> list[str]:
    lines = [
        "| left of the taint on the other frames | first frame's pairs | carried over | ratio "
        "| the frames' own pairs | kept colours moved at most |",
        "|---|---|---|---|---|---|",
    ]
    for name, photos in bursts().items():
        for of_subject in (True, False):
            first, carried, own, moved = carried_over(photos, of_subject)
            what = "subject" if of_subject else "whole photo"
            lines.append(
                f"| {name}, {what} | {first:.3f} | {carried:.3f} | {carried / first:.2f} "
                f"| {own:.3f} | {moved:.2f} |"
            )
    return lines


def carried_over(
    photos: Sequence[BurstFrame], of_subject: bool
) -> tuple[float, float, float, float]:
    """Share of the taint that is left on the other frames by the first one's pairs, carried over, and by the
    frames' own; and the most that a kept material moved."""
    assets = Bundle()
    engines = [Engine(p.photo, assets=assets) for p in photos]
    mask = grey_png((photos[0].subject * 255).astype(np.uint8)) if of_subject else None
    recipe = plan_fix(
        engines[0],
        *photos[0].pairs(PAIRS, of_subject),
        guards=photos[0].points("guard")[:GUARDS],
        mask=assets.keep(mask) if mask else None,
    )
    kept = {s["material"] for s in photos[0].facts["samples"]["guard"][:GUARDS]}
    titles = [str(p.number) for p in photos]
    follower = Follower(
        lambda i: engines[i], titles, {0: recipe}, lambda _, data: assets.keep(data)
    )
    done = [step for step in follower.carried() if isinstance(step, Carried)]
    copies = [c.abroad(recipe.base, "1") for c in recipe.casts]
    rows, moved = [], 0.0
    for i, photo in enumerate(photos[1:], 1):
        there = done[i].casts
        copied = (_under(c, there[0]) for c in copies)
        anew = plan_fix(engines[i], *photo.pairs(PAIRS, of_subject)).casts
        rows.append(
            [
                _left(engines[i], photo, tuple(casts), of_subject)
                for casts in (copied, there, (_under(c, there[0]) for c in anew))
            ]
        )
        moved = max(moved, _kept_moved(engines[i], photo, there, kept))
    first, carried, own = np.mean(rows, axis=0)
    return float(first), float(carried), float(own), moved


def _kept_moved(
    engine: Engine, photo: BurstFrame, casts: tuple[Cast, ...], kept: set[str]
) -> float:
    """The most that any place moves that is of what was kept on the first frame."""
    moved = [0.0]
    for sample in photo.facts["samples"]["guard"]:
        if sample["material"] not in kept:
            continue
        at = place_of(photo.photo, float(sample["x"]), float(sample["y"]))
        before, after = (
            measure_place(engine, at),
            measure_place(engine, at, recipe=Recipe(casts=casts)),
        )
        moved.append(ciede2000(before.lab, after.lab))
    return max(moved)


def _under(cast: Cast, other: Cast) -> Cast:
    return cast.model_copy(update={"mask": other.mask})


def _left(engine: Engine, photo: BurstFrame, casts: tuple[Cast, ...], of_subject: bool) -> float:
    error = difference_plane(lab_of(engine.deliver(Recipe(casts=casts))), photo.lab_truth)
    bad = photo.error_before > TAINTED
    bad = bad & photo.subject if of_subject else bad
    return float(error[bad].mean() / photo.error_before[bad].mean())


def agreeing() -> list[str]:
    """Places of the subject's face clicked on the last frame, and the others levelled onto it."""
    lines = [
        "| places of one face over the burst | found | mean ΔE2000 to the mean, as light as it | levelled "
        "| truth | with lightness | levelled | truth |",
        "|---|---|---|---|---|---|---|---|",
    ]
    for name, photos in bursts().items():
        assets = Bundle()
        known = [_Known(p, Engine(p.photo, assets=assets)) for p in photos]
        spreads = [_agreed(known, at, assets) for at in _face_places(known[-1])]
        found = [len(s.places) for s in spreads]
        told = np.mean([[f(v) for f in (_colour, _all) for v in s.labs] for s in spreads], axis=0)
        lines.append(
            f"| {name}, {len(spreads)} places | {sum(found)} of {len(spreads) * len(photos)} | "
            + " | ".join(f"{v:.2f}" for v in told)
            + " |"
        )
    return lines


class _Known:
    """A frame with all that agreeing needs."""

    def __init__(self, photo: BurstFrame, engine: Engine) -> None:
        self.photo, self.engine = photo, engine
        self.small, self.people = frame_of(engine.sight()), look_for_people(engine.sight())
        self.truth = Engine(photo.truth)


@dataclass(frozen=True)
class _Spread:
    """labs: of a place in each photo, before, levelled and in truth."""

    places: dict[int, Place]
    labs: tuple[Floats, Floats, Floats]


def _face_places(known: _Known) -> list[Place]:
    middle = known.photo.facts["subject"]["centroid"][0] / known.engine.photo.long_edge
    face = min(known.people.faces, key=lambda f: abs(f.middle[0] - middle))
    seen = unwrapped(known.small.rgb, face.points)
    return [seen.place((int(y), int(x))) for y, x in np.argwhere(seen.ok)[::EVERY]]


def _agreed(known: Sequence[_Known], at: Place, assets: Bundle) -> _Spread:
    last = len(known) - 1
    sought = Sought(len(known), lambda i: known[i].small, lambda i: known[i].people, last, at)
    places = {i: place for i, place in sought.places() if place}
    wanted = sampled(known[last].engine, at, RADIUS).rgb
    labs = []
    for i, place in places.items():
        one = known[i]
        cast = levelled(one.engine, one.people, place, wanted, "the last", assets.keep)
        recipe = Recipe(casts=() if i == last else (cast,))
        now = measure_place(one.engine, place, RADIUS, recipe)
        true = measure_place(one.truth, place, RADIUS)
        labs.append([measure_place(one.engine, place, RADIUS).lab, now.lab, true.lab])
    before, levelled_now, truth = np.array(labs, dtype=np.float32).swapaxes(0, 1)
    return _Spread(places, (before, levelled_now, truth))


def _colour(labs: Floats) -> float:
    return float(np.mean([as_light_apart(one, labs.mean(axis=0)) for one in labs]))


def _all(labs: Floats) -> float:
    return float(np.mean([ciede2000(one, labs.mean(axis=0)) for one in labs]))


def speed() -> list[str]:
    """Frames enlarged to 24 MP, decoded beforehand."""
    photos = bursts()["burst-flash"]
    large = [replace(p.photo, codes=_enlarged(p.photo.codes)) for p in photos]
    assets = Bundle()
    engines = [Engine(p, assets=assets) for p in large]
    mask = assets.keep(grey_png(_enlarged((photos[0].subject * 255).astype(np.uint8))))
    recipe = plan_fix(engines[0], [(4000.0, 1700.0)], [(1000.0, 2000.0)], mask=mask)
    follower = Follower(
        lambda i: engines[i], [""] * len(large), {0: recipe}, lambda _, data: assets.keep(data)
    )
    started = time.perf_counter()
    list(follower.carried())
    each = (time.perf_counter() - started) / len(large)
    return [f"A cast followed through frames of 24 MP: {each:.2f} s a frame (1)."]


def _enlarged(codes: Codes) -> Codes:
    h, w = codes.shape[:2]
    f = LARGE / max(h, w)
    return np.ascontiguousarray(cv2.resize(codes, (round(w * f), round(h * f))))
