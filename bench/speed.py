"""Speed against the budgets, each as a ratio to plain numpy and to a memory copy in the same run."""

import statistics
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

import imagecodecs
import numpy as np

from bench import plain
from bench.workload import large_photo, three_casts, with_amount, with_every_kind
from nubilis.cast.take_off import take_off
from nubilis.engine.engine import Engine
from nubilis.engine.overlay import Show, display
from nubilis.find.field import Words
from nubilis.find.look import Surveyor
from nubilis.mask.colour_key import key_around
from nubilis.photo.picture import Photo
from nubilis.photo.pyramid import View
from nubilis.photo.read import read_photo
from nubilis.photo.sampling import decode, encode
from nubilis.photo.write import write_photo
from nubilis.proof.casts import prove
from nubilis.proof.scopes import scopes
from nubilis.recipe.document import Recipe
from nubilis.remedy.wash import Wash
from nubilis.settle.base import Base

PREVIEW_QUALITY = 92


def median_ms(work: Callable[[], object], times: int = 7) -> float:
    work()
    return statistics.median(_timed(work) for _ in range(times))


def _timed(work: Callable[[], object]) -> float:
    started = time.perf_counter()
    work()
    return 1000.0 * (time.perf_counter() - started)


def kernels(photo: Photo) -> list[str]:
    """6 MP through each kernel, beside plain numpy and beside copying the floats once."""
    codes = photo.codes[:2000, :3000].copy()
    rgb = decode(codes, photo.profile)
    some = np.full(rgb.shape[1:], 0.7, dtype=np.float32)
    shift = (0.1, 0.15)
    key = key_around([(0.5, 0.3, 0.25)], "key")
    view = View((3000, 2000), (0, 0, 3000, 2000))
    copy = median_ms(rgb.copy)
    rows = [
        ("decode", lambda: decode(codes, photo.profile), lambda: plain.decode(codes)),
        ("colour key", lambda: key.coverage(rgb, view), lambda: plain.key(rgb)),
        ("take a cast off", lambda: take_off(rgb, some, some, shift),
         lambda: plain.take_off(rgb, some, shift)),
        ("encode", lambda: encode(rgb, photo.profile), lambda: plain.encode(rgb)),
    ]  # fmt: skip
    lines = [
        "| 6 MP | ms | plain numpy, times | memory copy, times |",
        "|---|---|---|---|",
        f"| copying the floats | {copy:.0f} | | 1 |",
    ]
    for name, ours, theirs in rows:
        ms, slow = median_ms(ours), median_ms(theirs, 2)
        lines.append(f"| {name} | {ms:.0f} | {slow / ms:.0f} slower | {ms / copy:.1f} |")
    return lines


def preview(photo: Photo) -> list[str]:
    """What one waits for at the screen: 1500 x 1000 of a 24 MP photo, three casts."""
    engine = Engine(photo)
    recipe = three_casts(photo, engine)
    view = View.fit(photo, 1500)
    started = time.perf_counter()
    _shown(engine, recipe, view)
    first = 1000 * (time.perf_counter() - started)
    drags = _drags(engine, recipe, view)
    full = with_every_kind(recipe)
    many = _drags(engine, full, view)
    strokes = iter(range(60))
    washed = [_timed(lambda: _shown(engine, _washed(full, next(strokes)), view)) for _ in range(7)]
    sizes = iter(np.linspace(0.2, 0.3, 60))
    dabs = [
        _timed(lambda: _shown(engine, _brushed(recipe, float(next(sizes))), view)) for _ in range(7)
    ]
    proof = median_ms(lambda: prove(engine, recipe), 3)
    return [
        "| 24 MP photo, 1500 x 1000 view, three casts, with JPEG encoding | ms | budget |",
        "|---|---|---|",
        f"| amount moved, median | {statistics.median(drags):.0f} | 70 |",
        f"| amount moved, 95th percentile | {np.percentile(drags, 95):.0f} | 120 |",
        f"| the same with three remedies each, of every kind, median | {statistics.median(many):.0f} | 70 |",
        f"| the same, 95th percentile | {np.percentile(many, 95):.0f} | 120 |",
        f"| first picture with three casts, nothing cached | {first:.0f} | |",
        f"| mask changed (the last cast is solved anew), median | {statistics.median(dabs):.0f} | |",
        f"| a wash's stroke grown, with the same remedies, median | {statistics.median(washed):.0f} | |",
        f"| proof of all three casts | {proof:.0f} | |",
    ]


def _drags(engine: Engine, recipe: Recipe, view: View) -> list[float]:
    """Milliseconds of each of forty steps of the last cast's amount."""
    _shown(engine, recipe, view)
    return [
        _timed(lambda amount=amount: _shown(engine, with_amount(recipe, float(amount)), view))
        for amount in np.linspace(0.2, 1.4, 40)
    ]


def _shown(engine: Engine, recipe: Recipe, view: View) -> bytes:
    codes = display(engine, recipe, view, Show.NOW, None)
    return bytes(imagecodecs.jpeg8_encode(codes, level=PREVIEW_QUALITY, subsampling="444"))


def _brushed(recipe: Recipe, size: float) -> Recipe:
    last = recipe.casts[-1]
    brush = last.mask.parts[0]
    stroke = brush.strokes[0].model_copy(update={"size": size})  # type: ignore[union-attr]
    parts = (brush.model_copy(update={"strokes": (stroke,)}), *last.mask.parts[1:])
    mask = last.mask.model_copy(update={"parts": parts})
    return recipe.model_copy(
        update={"casts": (*recipe.casts[:-1], last.model_copy(update={"mask": mask}))}
    )


def _washed(recipe: Recipe, step: int) -> Recipe:
    """The last stroke of the first cast's wash, longer."""
    first = recipe.casts[0]
    wash = first.remedies[-1]
    assert isinstance(wash, Wash)
    points = tuple(((0.3 + 0.002 * i, 0.35), 1.0) for i in range(step + 2))
    stroke = wash.strokes[-1].model_copy(update={"points": points})
    wash = wash.model_copy(update={"strokes": (*wash.strokes[:-1], stroke)})
    first = first.model_copy(update={"remedies": (*first.remedies[:-1], wash)})
    return recipe.model_copy(update={"casts": (first, *recipe.casts[1:])})


def whole_files(photo: Photo) -> list[str]:
    """Opening and delivering 24 MP, JPEG to JPEG."""
    with tempfile.TemporaryDirectory() as name:
        path, out = Path(name) / "in.jpg", Path(name) / "out.jpg"
        write_photo(path, photo, "jpeg")
        recipe = three_casts(photo)
        coding = median_ms(lambda: _coded(path), 3)
        opening = median_ms(
            lambda: _shown(Engine(read_photo(path)), Recipe(), View.fit(photo, 1500)), 3
        )

        def deliver() -> None:
            engine = Engine(read_photo(path))
            write_photo(out, engine.deliver(recipe, in_place=True), "jpeg")

        delivery = median_ms(deliver, 3)
        recipe = with_every_kind(recipe)
        every_kind = median_ms(deliver, 3)
    return [
        "| 24 MP JPEG | ms | budget |",
        "|---|---|---|",
        f"| opened: decoded, 1500 x 1000 picture made and encoded | {opening:.0f} | 1000 |",
        f"| decoding and encoding alone | {coding:.0f} | |",
        f"| delivered with three casts | {delivery:.0f} ({delivery / coding:.2f} x coding) | 1.8 x |",
        f"| with three remedies each, of every kind | {every_kind:.0f} "
        f"({every_kind / coding:.2f} x coding) | 3 x |",
    ]


def _coded(path: Path) -> bytes:
    """A JPEG decoded and encoded by libjpeg alone, in one go."""
    codes = imagecodecs.jpeg8_decode(path.read_bytes())
    return bytes(imagecodecs.jpeg8_encode(codes, level=95, subsampling="444"))


def looks(photo: Photo) -> list[str]:
    """Finding, instruments and base on a 24 MP photo that is open."""
    engine = Engine(photo)
    sight = Surveyor(engine)
    direction = sight.look().directions[0].shift
    recipe, view = three_casts(photo, engine), View.fit(photo, 1500)
    amounts = iter(np.linspace(0.2, 1.4, 60))
    stops = iter(np.linspace(0.1, 1.0, 60))

    def base_moved() -> None:
        base = Base(temperature=5000.0, exposure=float(next(stops)))
        _shown(engine, Recipe(base=base), view)

    rows = [
        ("look, from the open photo", median_ms(lambda: Surveyor(Engine(photo)).look(), 3), 1500),
        ("of it making the analysis size", median_ms(lambda: Engine(photo).pyramid.analysis, 3), None),
        ("answer to a direction and a click",
         median_ms(lambda: sight.look(Words(direction, ((0.3, 0.4),))), 5), 300),
        ("all instruments after an amount moved, three casts",
         median_ms(lambda: scopes(engine, with_amount(recipe, float(next(amounts)))), 15), None),
        ("base moved, 1500 x 1000 view", median_ms(base_moved, 9), 70),
    ]  # fmt: skip
    return [
        "| 24 MP | ms | budget |",
        "|---|---|---|",
        *(f"| {name} | {ms:.0f} | {budget or ''} |" for name, ms, budget in rows),
    ]


def report() -> list[str]:
    photo = large_photo(6000, 4000)
    return [
        *kernels(photo), "", *preview(photo), "", *whole_files(photo), "", *looks(photo),
    ]  # fmt: skip
