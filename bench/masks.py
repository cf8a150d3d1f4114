"""Masks: each kind of part, eight of them together, and refining, at a view's size and at full size."""

import math
from collections.abc import Callable

import numpy as np

from bench.speed import median_ms
from bench.workload import large_photo
from nubilis.arrays import Floats
from nubilis.engine.engine import Engine
from nubilis.mask.brush import Brush, Stroke
from nubilis.mask.colour_key import key_around
from nubilis.mask.combine import AnyPart, Mask
from nubilis.mask.guess import Guess
from nubilis.mask.oval import Oval
from nubilis.mask.part import Given
from nubilis.mask.path import Node, Path
from nubilis.mask.ramp import Ramp
from nubilis.mask.refine import Refine
from nubilis.mask.similar import Similar
from nubilis.mask.snap import Snap
from nubilis.photo.pyramid import View
from nubilis.settle.base import Base
from nubilis.settle.state import Settled

# Round the photo's middle, sloppily.
SNAP = Snap(
    id="n",
    loop=tuple(
        (0.5 + 0.15 * math.cos(t), 0.33 + 0.12 * math.sin(t))
        for t in np.linspace(0.0, 6.2, 60).tolist()
    ),
)


def lasso(points: int = 1500) -> Path:
    """Freehand round the middle, with a tremor."""
    turns = np.linspace(0.0, 2.0 * math.pi, points, endpoint=False)
    far = 1.0 + 0.05 * np.sin(9.0 * turns)
    nodes = (
        Node(at=(0.5 + 0.3 * f * math.cos(t), 0.33 + 0.25 * f * math.sin(t)))
        for t, f in zip(turns.tolist(), far.tolist(), strict=True)
    )
    return Path(id="lasso", nodes=tuple(nodes), feather=0.01)


def kinds() -> list[tuple[str, AnyPart]]:
    points = tuple(((0.1 + 0.8 * i / 400, 0.3 + 0.1 * math.sin(i / 20)), 1.0) for i in range(400))
    curve = (
        Node(at=(0.2, 0.1), before=(0.1, 0.2), after=(0.4, 0.0)),
        Node(at=(0.8, 0.2), before=(0.7, 0.0), after=(0.9, 0.4)),
        Node(at=(0.5, 0.6), before=(0.7, 0.6), after=(0.3, 0.6)),
    )
    return [
        ("brush, 400 points", Brush(id="b", strokes=(Stroke(size=0.1, points=points),))),
        ("lasso, 1500 points", lasso()),
        ("curved path", Path(id="p", nodes=curve, feather=0.03)),
        ("oval", Oval(id="o", centre=(0.5, 0.3), radii=(0.3, 0.2), angle=20.0)),
        ("ramp", Ramp(id="r", full=(0.1, 0.1), none=(0.8, 0.5))),
        ("colour key", key_around([(0.5, 0.3, 0.25)], "k")),
        ("object, found before", SNAP),
        ("similar colour, found before", Similar(id="s", seeds=((0.5, 0.3),))),
    ]


def eight() -> Mask:
    parts = [p for _, p in kinds()[:6]] + [
        lasso(300),
        Oval(id="o2", centre=(0.2, 0.4), radii=(0.1, 0.1)),
    ]
    named = [p.model_copy(update={"id": f"p{i}"}) for i, p in enumerate(parts)]
    return Mask(parts=tuple(named))


def report() -> list[str]:
    engine = Engine(large_photo(6000, 4000))
    view = View.fit(engine.photo, 1500)
    rgb = engine.untouched(view)
    lines = ["| 1500 x 1000 view | ms | budget |", "|---|---|---|"]
    for name, part in kinds():
        traces = engine.traces(part)
        ms = median_ms(lambda part=part, traces=traces: part.coverage(rgb, view, Given(traces)))
        lines.append(f"| {name} | {ms:.0f} | 25 |")
    lines += _first_answers(engine)
    mask = eight()
    drags = iter(np.linspace(0.1, 0.3, 40))

    def moved() -> None:
        last = mask.parts[-1].model_copy(update={"radii": (float(next(drags)), 0.1)})
        engine.mask(mask.model_copy(update={"parts": (*mask.parts[:-1], last)}), view)

    lines.append(f"| eight parts, one of them moved | {median_ms(moved, 15):.0f} | 40 |")
    plane = engine.mask(mask, view)
    for name, refine in (
        ("cleaned by 1 % of the long edge", Refine(clean=0.01)),
        ("grown by 2 %", Refine(grow=0.02)),
        ("softened by 2 %", Refine(soften=0.02)),
        ("drawn to edges by 0.5 %", Refine(follow=0.005)),
    ):
        ms = median_ms(lambda refine=refine: refine.applied(plane, view, engine.untouched))
        lines.append(f"| {name} | {ms:.0f} | |")
    lines += _long_work(engine, view)
    full = median_ms(lambda: engine.mask_codes(mask, 16), 1)
    return [*lines, "", "| 24 MP | ms | budget |", "|---|---|---|",
            f"| eight parts at full size | {full:.0f} | 1500 |"]  # fmt: skip


def _first_answers(engine: Engine) -> list[str]:
    """What must be looked for in the photo first, each time anew; with the view's mask made from it."""
    view = View.fit(engine.photo, 1500)
    shifts = iter(np.linspace(0.0, 1e-3, 200).tolist())

    def anew(part: AnyPart) -> Callable[[], object]:
        def made() -> Floats:
            by = next(shifts)
            if isinstance(part, Snap):
                moved = {"loop": tuple((x + by, y) for x, y in part.loop)}
            elif isinstance(part, Similar):
                moved = {"tolerance": part.tolerance + by}
            elif isinstance(part, Brush):
                stroke = part.strokes[0]
                at, pressure = stroke.points[0]
                dab = stroke.model_copy(update={"points": (((at[0] + by, at[1]), pressure),)})
                moved = {"strokes": (dab,)}
            else:
                # It has nothing to move, so it is looked for under another light.
                return engine.mask(Mask(parts=(part,)), view, Settled(Base(exposure=by)))
            return engine.mask(Mask(parts=(part.model_copy(update=moved),)), view)

        return made

    dab = Stroke(size=0.1, edges=True, points=(((0.5, 0.3), 1.0),))
    return [
        f"| {name} | {median_ms(anew(part), 9):.0f} | {budget} |"
        for name, part, budget in (
            ("object, from a loop drawn just now", SNAP, 400),
            ("similar colour, tolerance just moved", Similar(id="s", seeds=((0.5, 0.3),)), ""),
            ("subject, guessed", Guess(id="g", of="subject"), ""),
            ("a dab held at edges", Brush(id="d", strokes=(dab,)), 15),
        )
    ]


def _long_work(engine: Engine, view: View) -> list[str]:
    """A stroke of 5,000 points, and a recipe of 50 parts one of which moves."""
    turns = np.linspace(0.0, 60.0, 5000).tolist()
    points = tuple(
        ((0.5 + 0.006 * t * math.cos(t), 0.33 + 0.004 * t * math.sin(t)), 1.0) for t in turns
    )
    rgb = engine.untouched(view)
    lines = []
    for name, flow in (("a stroke of 5,000 points", 1.0), ("the same, building up", 0.3)):
        brush = Brush(id="b", strokes=(Stroke(size=0.05, flow=flow, points=points),))
        lines.append(f"| {name} | {median_ms(lambda b=brush: b.coverage(rgb, view)):.0f} | |")
    ovals = [Oval(id=f"o{i}", centre=(0.1 + 0.016 * i, 0.3), radii=(0.05, 0.1)) for i in range(49)]
    drags = iter(np.linspace(0.1, 0.3, 60).tolist())

    def moved() -> None:
        last = Oval(id="last", centre=(next(drags), 0.2), radii=(0.1, 0.1))
        engine.mask(Mask(parts=(*ovals, last)), view)

    return [*lines, f"| fifty parts, one of them moved | {median_ms(moved, 15):.0f} | |"]
