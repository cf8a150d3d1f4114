"""People: how many faces are found under which casts, how well what belongs to them is masked, what a face
says of a cast, and what the finder makes of that."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt

from bench.finding import Score, score
from bench.photographs import photographs
from bench.relit import relit_scenes
from bench.scenes import ROOT, TAINTED, KnownTruth, Scene, all_scenes
from bench.speed import median_ms
from bench.workload import large_photo
from nubilis.arrays import Floats
from nubilis.cast.chroma import chroma_planes
from nubilis.colour.profile import srgb
from nubilis.engine.engine import Engine
from nubilis.find.colours import reduced
from nubilis.find.face import SIDE_SURE, faces_seen
from nubilis.find.face_words import ASKS
from nubilis.find.field import Looker, Words
from nubilis.find.look import Surveyor
from nubilis.mask.combine import Mask
from nubilis.mask.people import Feature
from nubilis.people.areas import area_of, part_of
from nubilis.people.canonical import Unwrapped, unwrapped
from nubilis.people.people import People, look_for_people
from nubilis.people.probe import probe
from nubilis.people.skin import ACROSS
from nubilis.photo.picture import Photo
from nubilis.photo.pyramid import View
from nubilis.photo.read import read_photo
from nubilis.photo.sampling import encode
from nubilis.recipe.asset import Bundle

EDGE = 1280
# Linear gains of the strongest of three strengths.
CASTS = {
    "green": (0.45, 1.3, 0.5),
    "magenta": (1.4, 0.55, 1.3),
    "blue": (0.4, 0.8, 1.6),
    "amber": (1.6, 0.95, 0.3),
    "cyan": (0.35, 1.1, 1.2),
    "yellow-green": (0.85, 1.25, 0.3),
}
STRENGTHS = (0.33, 0.66, 1.0)
PUPPET = (
    "skin",
    "eyes",
    "iris",
    "black",
    "hair",
    "lips",
    "hat",
    "cloth",
    "buttons",
    "ruff",
    "sash",
    "boots",
)
CAST_FROM = 0.08  # scaled log chroma between a face's ends from which on there is a cast to be told
SPECK = 0.004  # of the photo: smaller pieces of a label are something else's
Truth = npt.NDArray[np.bool_]


def report() -> list[str]:
    scenes = all_scenes()
    known = {s.name: look_for_people(Engine(s.photo).sight()) for s in scenes}
    return [
        *detection(scenes), "", *masks(scenes, known), "", *probes(scenes, known), "",
        *finders(scenes, known), "", *speed(),
    ]  # fmt: skip


def tinted(photo: Photo, gains: Sequence[float], strength: float) -> Photo:
    rgb = Engine(photo).untouched(View.fit(photo, EDGE))
    light = np.array(gains, dtype=np.float32)[:, None, None] ** np.float32(strength)
    return Photo(encode((rgb * light).astype(np.float32), srgb()), srgb())


def detection(scenes: Sequence[Scene]) -> list[str]:
    """Of the faces that are found without a cast, those that are found under it; the same place counts."""
    pictures = [read_photo(p.path) for p in photographs()]
    alone = [
        (p, look_for_people(Engine(p).sight())) for p in (*(s.photo for s in scenes), *pictures)
    ]
    peopled = [(p, found) for p, found in alone if found.faces]
    there = sum(len(found.faces) for _, found in peopled)
    lines = [
        f"{there} faces in {len(peopled)} pictures ({len(scenes)} of the demo's scenes, the rest photographs "
        f"from general packages); in the other {len(alone) - len(peopled)} photographs none is found.",
        "",
        "| cast over everything | a third | two thirds | whole |",
        "|---|---|---|---|",
    ]
    for name, gains in CASTS.items():
        row = [
            sum(
                _again(found, look_for_people(Engine(tinted(p, gains, s)).sight()))
                for p, found in peopled
            )
            for s in STRENGTHS
        ]
        lines.append(f"| {name} | " + " | ".join(str(n) for n in row) + " |")
    return lines


def _again(one: People, two: People) -> int:
    def there(x: float, y: float, size: float) -> bool:
        return any(np.hypot(f.middle[0] - x, f.middle[1] - y) < 0.5 * size for f in two.faces)

    return sum(there(*f.middle, f.size) for f in one.faces)


def masks(scenes: Sequence[Scene], known: dict[str, People]) -> list[str]:
    """Intersection over union with the scenes' labels; a bust of plaster whose face is found counts as a
    person."""
    lines = ["| scene | faces | person, raw | person | skin | lips |", "|---|---|---|---|---|---|"]
    rows = []
    for scene in scenes:
        people, assets = known[scene.name], Bundle()
        engine = Engine(scene.photo, assets=assets)
        person, skin, lips = _labels(scene, people)
        raw = cv2.resize(people.likely.max(axis=0), person.shape[::-1]) > 0.5

        def masked(of: Feature) -> Truth:
            part = part_of(people, engine.sight(), of, None, assets.keep, "p")  # noqa: B023
            view = View.fit(engine.photo, max(engine.size))  # noqa: B023
            return engine.mask(Mask(parts=(part,)), view) > 0.5  # noqa: B023

        row = [_iou(raw, person), *(_iou(masked(of), t) for of, t in
                                    (("person", person), ("skin", skin), ("lips", lips)))]  # type: ignore[arg-type]  # fmt: skip
        rows.append(row)
        cells = " | ".join(f"{v:.2f}" for v in row)
        lines.append(f"| {scene.name} | {len(people.faces)} | {cells} |")
    means = " | ".join(f"{v:.3f}" for v in np.mean(rows, axis=0))
    return [*lines, f"| mean | | {means} |"]


def _labels(scene: Scene, people: People) -> tuple[Truth, Truth, Truth]:
    """Persons, skin and lips."""
    file = ROOT / "bench/scenes" / scene.name / "labels.png"
    labels = cv2.imread(str(file), cv2.IMREAD_UNCHANGED)
    labels = labels[..., 0] if labels.ndim == 3 else labels
    names = {int(k): str(v["name"]) for k, v in scene.facts["labels"].items()}

    def of(*words: str) -> Truth:
        return np.isin(labels, [k for k, name in names.items() if name.startswith(words)])

    person = _large(of(*PUPPET))
    _, pieces = cv2.connectedComponents(of("plaster", "grey-primer").astype(np.uint8))
    for face in people.faces:
        x, y = (round(v * max(labels.shape)) for v in face.middle)
        around = pieces[y - 20 : y + 20, x - 20 : x + 20]
        if (around > 0).mean() > 0.1:
            person |= pieces == np.bincount(around[around > 0]).argmax()
    return person, of("skin"), of("lips")


def _large(area: Truth) -> Truth:
    _, pieces, stats, _ = cv2.connectedComponentsWithStats(area.astype(np.uint8))
    large = stats[:, cv2.CC_STAT_AREA] > SPECK * area.size
    large &= stats[:, cv2.CC_STAT_HEIGHT] > 0.07 * area.shape[0]
    large[0] = False
    return np.asarray(large[pieces])


def _iou(one: Truth, two: Truth) -> float:
    return float((one & two).sum() / max((one | two).sum(), 1))


@dataclass(frozen=True)
class Told:
    """What a face says. size: of what the cast differs by between its ends; angle: degrees off the truth;
    end: whether the tainted one is right; neutral: score of the same face without its cast."""

    score: float
    margin: float
    size: float
    angle: float
    end: bool
    neutral: float


def probes(scenes: Sequence[Scene], known: dict[str, People]) -> list[str]:
    lines = [
        "| faces of | score above | with a cast, of those told | axis | right within 30 degrees | right end "
        "| untouched faces that would be told |",
        "|---|---|---|---|---|---|---|",
    ]
    rooms = [(r, look_for_people(Engine(r.photo).sight())) for r in relit_scenes(1)]
    for name, told in (
        ("scenes", [t for s in scenes for t in _told(s, s.truth, known[s.name])]),
        ("rooms relit at random", [t for r, p in rooms for t in _told(r, r.neutral, p)]),
    ):
        for least in (1.15, 1.4, ASKS):
            lines.append(_probe_line(name, told, least))
    return lines


def _probe_line(name: str, told: Sequence[Told], least: float) -> str:
    loud = [t for t in told if t.score > least]
    cast = [t for t in loud if t.size > CAST_FROM]
    clean = sum(t.neutral > least for t in told)
    if not cast:
        return f"| {name} | {least} | 0 of {len(loud)} | | | | {clean} of {len(told)} |"
    axis = np.median([min(t.angle, 180.0 - t.angle) for t in cast])
    right = np.mean([t.angle < 30.0 for t in cast])
    sure = [t.end for t in cast if t.margin >= SIDE_SURE]
    end = (
        f"{np.mean([t.end for t in cast]):.2f} ({np.mean(sure):.2f} of {len(sure)} sure)"
        if sure
        else ""
    )
    return (
        f"| {name} | {least} | {len(cast)} of {len(loud)} | {axis:.0f} | {right:.2f} | {end} "
        f"| {clean} of {len(told)} |"
    )


def _told(known: KnownTruth, neutral: Photo, people: People) -> list[Told]:
    view = View.fit(known.photo, EDGE)
    rgb, clean = (Engine(p).untouched(view) for p in (known.photo, neutral))
    found = []
    for face in people.faces:
        seen, bare = unwrapped(rgb, face.points), unwrapped(clean, face.points)
        one = _compared(seen, bare)
        if one:
            found.append(one)
    return found


def _compared(seen: Unwrapped, bare: Unwrapped) -> Told | None:
    said, nothing = probe(seen), probe(bare)
    if said is None or nothing is None:
        return None
    cast, ok = (seen.chroma - bare.chroma) * ACROSS, seen.ok & bare.ok
    high, low = ok & (said.field > 0.25), ok & (said.field < -0.25)
    if not (high.any() and low.any()):
        return None
    true = cast[high].mean(axis=0) - cast[low].mean(axis=0)
    size, way = float(np.hypot(*true)), np.array(said.shift) * ACROSS
    cosine = float(true @ way) / max(size * float(np.hypot(*way)), 1e-9)
    sizes = np.linalg.norm(cast, axis=-1)
    end = bool(sizes[high].mean() > sizes[low].mean())
    angle = float(np.degrees(np.arccos(np.clip(cosine, -1.0, 1.0))))
    return Told(said.score, said.margin, size, angle, end, nothing.score)


def finders(scenes: Sequence[Scene], known: dict[str, People]) -> list[str]:
    """The finder without people, and with them."""
    lines = [
        "| pictures | tainted + clean | people | AP | best IoU | found | angle | wrong | wrong, clean "
        "| face asks, clean |",
        "|---|---|---|---|---|---|---|---|---|---|",
    ]
    made = [(s, s.truth, known[s.name]) for s in scenes]
    rooms = [(r, r.neutral, look_for_people(Engine(r.photo).sight())) for r in relit_scenes(1)]
    for name, pictures in (("scenes", made), ("rooms relit at random", rooms)):
        for with_people in (False, True):
            lines.append(_finder_line(name, pictures, with_people))
    return lines


def _finder_line(
    name: str, pictures: Iterable[tuple[KnownTruth, Photo, People]], with_people: bool
) -> str:
    tainted: list[Score] = []
    clean: list[Score] = []
    asked = 0
    for one, neutral, people in pictures:
        using = people if with_people else None
        if one.tainted.any():
            tainted.append(_score(one.photo, one, using))
        clean.append(_score(neutral, None, using))
        says = Surveyor(Engine(neutral), people=using).look().choices
        asked += any("of face" in c.says for c in says)
    angles = [a for s in tainted for a in s.angles]
    return (
        f"| {name} | {len(tainted)} + {len(clean)} | {'with' if with_people else 'without'} "
        f"| {np.mean([s.precision for s in tainted]):.3f} | {np.mean([s.overlap for s in tainted]):.3f} "
        f"| {np.mean([s.found for s in tainted]):.3f} | {np.median(angles):.0f} "
        f"| {np.mean([s.wrong for s in tainted]):.3f} | {np.mean([s.wrong for s in clean]):.3f} | {asked} |"
    )


def _score(photo: Photo, known: KnownTruth | None, people: People | None) -> Score:
    picture = Engine(photo).pyramid.analysis
    small = reduced(picture)
    faces = faces_seen(people, picture, small.shape) if people else []
    looker = Looker(small, faces=faces)
    if known is None:
        return score(looker, np.zeros(small.shape, dtype=np.bool_), np.zeros(2), Words())
    h, w = small.shape
    truth = cv2.resize(known.error_before, (w, h), interpolation=cv2.INTER_AREA) > TAINTED
    shift = _shift(small.rgb, reduced(Engine(known.truth).pyramid.analysis).rgb, truth)
    return score(looker, truth, shift, Words())


def _shift(tainted: Floats, clean: Floats, where: Truth) -> npt.NDArray[np.float64]:
    one, two = (chroma_planes(np.ascontiguousarray(v))[:2] for v in (tainted, clean))
    return np.asarray((one - two)[:, where].mean(axis=1), dtype=np.float64)


def speed() -> list[str]:
    photo = large_photo(6000, 4000)
    engine = Engine(photo)

    def all_of_it() -> None:
        people = look_for_people(engine.sight())
        for of in ("person", "skin"):
            area_of(people, engine.sight(), of, None)  # type: ignore[arg-type]

    making = median_ms(lambda: Engine(photo).pyramid.read(View.fit(photo, EDGE)), 3)
    looking = median_ms(lambda: look_for_people(engine.sight()), 5)
    return [
        f"| 24 MP, {len(look_for_people(engine.sight()).faces)} faces | ms | budget |",
        "|---|---|---|",
        f"| halving the open photo | {making:.0f} | |",
        f"| faces, features and bodies looked for | {looking:.0f} | |",
        f"| the same, all persons cut out, and the skin of all | {median_ms(all_of_it, 5):.0f} | 500 |",
    ]
