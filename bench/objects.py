"""Masks found in the scenes, against their label maps: snapped objects, keys, guesses, blotches."""

import json
from collections.abc import Iterator
from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt

from bench.scenes import ROOT, Scene, all_scenes
from nubilis.arrays import Floats
from nubilis.engine.engine import Engine
from nubilis.mask.brush import Brush, Stroke
from nubilis.mask.colour_key import ColourKey, Range, key_around
from nubilis.mask.combine import AnyPart, Mask
from nubilis.mask.guess import Guess
from nubilis.mask.ready_keys import ready_keys
from nubilis.mask.refine import Refine
from nubilis.mask.snap import Scribble, Snap
from nubilis.photo.pyramid import View
from nubilis.recipe.model import Place

Mark = npt.NDArray[np.bool_]
SLOPPY = 0.015  # of the long edge, and more: how far outside the object the loop is drawn
HEAD = ("skin", "hair", "eyes", "iris", "lips", "black", "hat")
FIGURE = (*HEAD, "cloth", "ruff", "buttons", "sash", "boots")
SMALLEST, LARGEST = 0.004, 0.15  # of the photo
FOLLOWED = (0.0, 0.003, 0.006)  # of the long edge
COMPACT = (
    0.55  # intersection over union of the loop itself: what is hollow needs more than one loop
)


@dataclass(frozen=True, eq=False)
class Object:
    """One piece of one surface, or a head, with its holes filled; loop: drawn round it."""

    scene: Scene
    mark: Mark
    loop: tuple[Place, ...]


def labelled(scene: Scene, names: tuple[str, ...]) -> Mark:
    """Where the surfaces with names that begin so are."""
    known = json.loads((ROOT / "bench/scenes" / scene.name / "scene.json").read_text())["labels"]
    numbers = [int(k) for k, v in known.items() if v["name"].split("-")[0] in names]
    return np.isin(_labels(scene), numbers)


def _labels(scene: Scene) -> npt.NDArray[np.uint8]:
    read = cv2.imread(str(ROOT / "bench/scenes" / scene.name / "labels.png"), cv2.IMREAD_UNCHANGED)
    assert read is not None
    return np.asarray(read if read.ndim == 2 else read[..., 0], dtype=np.uint8)


def _pieces(mark: Mark) -> Iterator[Mark]:
    count, labels, stats, _ = cv2.connectedComponentsWithStats(mark.astype(np.uint8))
    for i in range(1, count):
        if SMALLEST < stats[i, cv2.CC_STAT_AREA] / mark.size < LARGEST:
            yield _filled(labels == i)


def _outlines(mark: Mark) -> list[npt.NDArray[np.int32]]:
    found, _ = cv2.findContours(mark.astype(np.uint8), cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
    return [np.asarray(f, dtype=np.int32) for f in found]


def _filled(mark: Mark) -> Mark:
    whole = np.zeros(mark.shape, dtype=np.uint8)
    cv2.drawContours(whole, _outlines(mark), -1, 1, -1)
    return whole > 0


def _looped(scene: Scene, mark: Mark) -> Object | None:
    edge = max(mark.shape)
    r = int(SLOPPY * edge)
    discs = [cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (n, n)) for n in (2 * r + 1, 8 * r + 1)]
    wide = cv2.dilate(mark.astype(np.uint8), discs[0])
    wide = cv2.morphologyEx(wide, cv2.MORPH_CLOSE, discs[1])
    if overlap_of(wide > 0, mark) < COMPACT:
        return None
    outline = max(_outlines(wide > 0), key=cv2.contourArea)[::6, 0] / edge
    return Object(scene, mark, tuple((float(x), float(y)) for x, y in outline))


def objects(heads: bool) -> list[Object]:
    """Of every scene: the largest piece of each surface, or every head."""
    out = []
    for scene in all_scenes():
        labels = _labels(scene)
        if heads:
            marks = [m for m in _pieces(labelled(scene, HEAD)) if m.mean() > 0.02]
        else:
            every = ([*_pieces(labels == n)] for n in np.unique(labels))
            marks = [max(pieces, key=lambda m: int(m.sum())) for pieces in every if pieces]
        out += [o for m in marks if (o := _looped(scene, m)) is not None]
    return out


def overlap_of(one: Mark, two: Mark) -> float:
    """Intersection over union."""
    return float((one & two).sum() / max(int((one | two).sum()), 1))


def scribbled(mark: Mark) -> Scribble:
    """Along the longer way through the deepest point of an object."""
    deep = cv2.distanceTransform(np.pad(mark, 1).astype(np.uint8), cv2.DIST_L2, 5)[1:-1, 1:-1]
    y, x = (int(v) for v in np.unravel_index(deep.argmax(), deep.shape))
    core = deep > 0.35 * deep.max()
    ways = []
    for line, at in ((core[y], x), (core[:, x], y)):
        gaps = np.flatnonzero(~line)
        low = int(gaps[gaps < at].max(initial=-1)) + 1
        ways.append((low, int(gaps[gaps > at].min(initial=len(line))) - 1))
    across, down = ways
    edge = max(mark.shape)
    if across[1] - across[0] >= down[1] - down[0]:
        points = ((across[0] / edge, y / edge), (across[1] / edge, y / edge))
    else:
        points = ((x / edge, down[0] / edge), (x / edge, down[1] / edge))
    return Scribble(points=points)


def _row(name: str, found: list[float]) -> str:
    good = sum(v >= 0.9 for v in found)
    return f"| {name} | {np.mean(found):.2f} | {np.median(found):.2f} | {good} of {len(found)} |"


def _masked(
    engines: dict[str, Engine], scene: Scene, *parts: AnyPart, refine: Refine = Refine()
) -> npt.NDArray[np.float32]:
    engine = engines.setdefault(scene.name, Engine(scene.photo))
    return engine.mask(Mask(parts=parts, refine=refine), View.fit(engine.photo, 1200))


def report() -> list[str]:
    engines: dict[str, Engine] = {}

    def found(o: Object, part: AnyPart) -> float:
        return overlap_of(_masked(engines, o.scene, part) > 0.5, o.mark)

    single, heads = objects(heads=False), objects(heads=True)
    lines = ["| objects of the scenes | mean IoU | median | .9 or more |", "|---|---|---|---|"]
    for name, some in (("one surface", single), ("whole heads", heads)):
        lines.append(_row(f"{name}, one loop", [found(o, Snap(id="s", loop=o.loop)) for o in some]))
    scribbles = [found(o, Snap(id="s", this=(scribbled(o.mark),))) for o in single]
    lines.append(_row("one surface, one straight scribble", scribbles))
    subjects = [
        overlap_of(_masked(engines, s, Guess(id="g", of="subject")) > 0.5, labelled(s, FIGURE))
        for s in all_scenes()
    ]
    lines.append(_row("subject, guessed", subjects))
    return [*lines, "", *_dabs(engines, single), "", *_keys(engines), "", *_blotches(engines)]


def _dabs(engines: dict[str, Engine], some: list[Object]) -> list[str]:
    """A dab from the middle of an object, 1.7 times as wide as it: how much of it stays where it should."""
    rows = []
    for edges in (False, True):
        kept, leaked = [], []
        for o in some:
            deep = cv2.distanceTransform(np.pad(o.mark, 1).astype(np.uint8), cv2.DIST_L2, 5)[
                1:-1, 1:-1
            ]
            y, x = (int(v) for v in np.unravel_index(deep.argmax(), deep.shape))
            edge = max(o.mark.shape)
            dab = Stroke(
                size=3.4 * float(deep.max()) / edge,
                feather=0.3,
                edges=edges,
                points=(((x / edge, y / edge), 1.0),),
            )
            mask = _masked(engines, o.scene, Brush(id="b", strokes=(dab,)))
            kept.append(float(mask[o.mark].sum()))
            leaked.append(float(mask[~o.mark].sum()))
        rows.append((np.array(kept), np.array(leaked)))
    (inside, outside), (kept_in, kept_out) = rows
    held, leak = (kept_in / inside).mean(), (kept_out / np.maximum(outside, 1.0)).mean()
    return [
        f"A dab held at edges keeps {held:.2f} of what it would paint inside an object and {leak:.2f} "
        f"of what it would paint outside ({len(some)} objects)."
    ]


def _keys(engines: dict[str, Engine]) -> list[str]:
    """Precision and recall of what a key masks, over the figures' skins and over what a sample is of."""
    lines = ["| keys | recall | precision |", "|---|---|---|"]
    ready = next(k for k in ready_keys() if k.name == "Skins").part("k")
    skins = [(s, ready, labelled(s, ("skin",))) for s in all_scenes()]
    sampled = []
    for scene in all_scenes():
        engine = engines.setdefault(scene.name, Engine(scene.photo))
        rgb = engine.untouched(View.fit(engine.photo, 1200))
        for name in ("cloth", "hat", "velvet", "green", "drum", "hedge", "yellow", "red"):
            mark = labelled(scene, (name,))
            if mark.mean() > 0.01:
                # Nine places spread over the surface, as a drag collects them.
                ys, xs = (v[:: max(len(v) // 9, 1)][:9] for v in np.nonzero(mark))
                colours = [
                    tuple(float(c) for c in rgb[:, y, x]) for y, x in zip(ys, xs, strict=True)
                ]
                sampled.append((scene, key_around(colours, "k"), mark))
    every = [("Skins, ready-made", skins), ("from nine places of a surface", sampled)]
    for name, cases in every:
        masks = [_masked(engines, s, key) for s, key, _ in cases]
        lines += [
            _shares(f"{name} ({len(cases)})", masks, cases),
            _shares(
                "the same within a loose brush",
                [m * _loose(c[2]) for m, c in zip(masks, cases, strict=True)],
                cases,
            ),
        ]
    return lines


_Case = tuple[Scene, ColourKey, Mark]


def _loose(mark: Mark) -> Mark:
    disc = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (73, 73))
    return cv2.dilate(mark.astype(np.uint8), disc) > 0


def _shares(name: str, masks: list[Floats], cases: list[_Case]) -> str:
    shares = [_precision(m, mark) for m, (_, _, mark) in zip(masks, cases, strict=True)]
    recall, precision = np.mean(shares, axis=0)
    return f"| {name} | {recall:.2f} | {precision:.2f} |"


def _precision(mask: npt.NDArray[np.float32], mark: Mark) -> tuple[float, float]:
    hit = float(mask[mark].sum())
    return hit / max(int(mark.sum()), 1), hit / max(float(mask.sum()), 1e-6)


def _blotches(engines: dict[str, Engine]) -> list[str]:
    """Total variation of tightened keys inside flat surfaces with grain, as it was and calmed."""
    values: list[list[tuple[float, float]]] = []
    for scene in all_scenes():
        engine = engines.setdefault(scene.name, Engine(scene.photo))
        rgb = engine.untouched(View.fit(engine.photo, 1200))
        surfaces = _pieces(labelled(scene, ("cloth", "plaster", "skin")))
        mark = max(surfaces, key=lambda m: int(m.sum()))
        inner = cv2.erode(mark.astype(np.uint8), np.ones((15, 15), np.uint8)) > 0
        colour = tuple(float(v) for v in np.median(rgb[:, inner], axis=1))
        key = tightened(key_around([colour], "k"))
        masks = [_masked(engines, scene, key, refine=Refine(follow=f)) for f in FOLLOWED]
        values.append([(_variation(m, inner), overlap_of(m > 0.5, mark)) for m in masks])
    lines = ["| tightened key | total variation inside a surface | IoU |", "|---|---|---|"]
    for follow, (steps, shared) in zip(FOLLOWED, np.mean(values, axis=0), strict=True):
        name = f"following edges by {follow * 100:.1f} %" if follow else "as it is"
        lines.append(f"| {name} | {steps:.4f} | {shared:.2f} |")
    return lines


def _variation(mask: Floats, inner: Mark) -> float:
    """Mean step between neighbours, against the mean of the mask."""
    steps = np.abs(np.diff(mask, axis=1))[inner[:, 1:] & inner[:, :-1]]
    return float(steps.mean()) / max(float(mask[inner].mean()), 1e-3)


def tightened(key: ColourKey) -> ColourKey:
    """Half as wide, with little fade."""

    def half(r: Range) -> Range:
        middle, wide = (r.core[0] + r.core[1]) / 2.0, (r.core[1] - r.core[0]) / 4.0
        return r.model_copy(update={"core": (middle - wide, middle + wide), "fade": (2.0, 2.0)})

    ranges = {n: half(getattr(key, n)) for n in ("hue", "saturation", "luminance")}
    return key.model_copy(update=ranges)
