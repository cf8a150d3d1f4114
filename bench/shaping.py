"""Shaping colours: what it adds to noise, and how fast a table is."""

import os
import time

import numpy as np

from bench.scenes import Scene
from bench.speed import median_ms
from bench.workload import large_photo, three_casts, with_amount
from nubilis.arrays import Floats
from nubilis.cores import CORES
from nubilis.engine.engine import Engine
from nubilis.library.looks import own_table
from nubilis.look.cube import Cube, read_cube
from nubilis.look.through import looked_up, through
from nubilis.mask.combine import Mask
from nubilis.mask.whole import Whole
from nubilis.photo.picture import Photo
from nubilis.photo.pyramid import View
from nubilis.photo.sampling import decode
from nubilis.recipe.asset import Bundle
from nubilis.recipe.document import Cast, Recipe
from nubilis.remedy.alone import colours_alone
from nubilis.remedy.by_hue import ByHue, HuePoint
from nubilis.remedy.look import Look
from nubilis.remedy.oklab_planes import planes_of

SCENES = ("d1-curtain-spill", "d2-bench-mixed", "d4-canopy", "d7-clean-colourful")
SIGMA = 4.0  # code values of made noise
MOVE = {"turn": 15.0, "saturation": 0.4, "light": 0.05}
AT = 50.0  # degrees: skins
TABLE = "Velvet drape"


def added_variation(scene: Scene) -> tuple[float, float]:
    """Total variation in OKLab that a move of skins adds to a noisy scene: as it is made, and through a
    narrow curve of single pixels."""
    codes = scene.truth.codes.astype(np.float64)
    noise = np.random.default_rng(3).normal(0.0, SIGMA, codes.shape)
    photo = Photo(np.clip(np.rint(codes + noise), 0, 255).astype(np.uint8), scene.photo.profile)
    remedy = ByHue(id="h", points=(HuePoint(id="1", hue=AT, **MOVE),))
    cast = Cast(id="c", mask=Mask(parts=(Whole(id="w"),)), remedies=(remedy,))
    engine = Engine(photo)
    view = View.fit(photo, photo.long_edge)
    came = engine.untouched(view)
    narrow = remedy.model_copy(update={"width": 15.0, "greys": 0.005})
    flat = np.ascontiguousarray(came.reshape(3, 1, -1))
    plain = colours_alone((narrow,), flat, engine.to_device).reshape(came.shape)
    clean = decode(scene.truth.codes, scene.photo.profile)
    made = [engine.render(Recipe(casts=(cast,)), view), plain]
    # Against what the move does to the noiseless scene: only what noise makes of it counts.
    flat_clean = np.ascontiguousarray(clean.reshape(3, 1, -1))
    wanted = colours_alone((remedy,), flat_clean, engine.to_device).reshape(came.shape)
    base = (
        _variation(planes_of(wanted)) + _variation(planes_of(came)) - _variation(planes_of(clean))
    )
    one, two = (_variation(planes_of(v)) - base for v in made)
    return one, two


def _variation(planes: Floats) -> float:
    return float(sum(np.abs(np.diff(planes, axis=axis)).sum() for axis in (1, 2)))


def _tables() -> list[str]:
    cube = read_cube(own_table(TABLE))
    planes = np.moveaxis(large_photo(6000, 4000).codes, -1, 0) * np.float32(1.0 / 255.0)
    planes = np.ascontiguousarray(planes)
    ones = np.ones(planes.shape[1:], dtype=np.float32)
    copy = median_ms(planes.copy, 5)
    whole = median_ms(lambda: through(cube, planes, ones), 5)
    codes = planes.reshape(3, -1).copy()
    alone = median_ms(lambda: looked_up(cube, codes, in_place=True), 5)
    lines = [
        f"| a memory copy of the floats | {copy:.0f} | 1 |",
        f"| 33-cube table on code values, {CORES} cores | {alone:.0f} | {alone / copy:.2f} |",
        f"| the same from light and back | {whole:.0f} | {whole / copy:.2f} |",
    ]
    if (other := _general_engine(cube, planes)) is not None:
        lines.append(
            f"| a general colour engine, tetrahedral, one core | {other:.0f} | {other / copy:.2f} |"
        )
    return lines


def _general_engine(cube: Cube, planes: Floats) -> float | None:
    """OpenColorIO on the same table, where somebody has installed it; interleaved, as it wants it."""
    try:
        import PyOpenColorIO as ocio
    except ImportError:
        return None
    lut = ocio.Lut3DTransform(gridSize=cube.size, fileOutputBitDepth=ocio.BIT_DEPTH_F32)
    lut.setInterpolation(ocio.INTERP_TETRAHEDRAL)
    lut.setData(np.ascontiguousarray(cube.entries.transpose(2, 1, 0, 3)).ravel())
    processor = ocio.Config.CreateRaw().getProcessor(lut).getDefaultCPUProcessor()
    pixels = np.ascontiguousarray(np.moveaxis(planes, 0, -1))
    taken = []
    for _ in range(3):
        work = pixels.copy()
        start = time.perf_counter()
        processor.applyRGB(work)
        taken.append(1000.0 * (time.perf_counter() - start))
    return float(np.median(taken))


def _look_while_dragged() -> float:
    """A view of three casts and a look, while the last amount is dragged, ms."""
    photo = large_photo(6000, 4000)
    files = Bundle()
    engine = Engine(photo, assets=files)
    look = Look(table=files.keep_table(own_table(TABLE)))
    recipe = three_casts(photo, engine).model_copy(update={"look": look})
    view = View.fit(photo, 1500)
    engine.render(recipe, view)
    amounts = iter(np.linspace(0.3, 0.9, 30))
    return median_ms(lambda: engine.render(with_amount(recipe, float(next(amounts))), view), 20)


def report() -> list[str]:
    lines = [
        "| noisy scene | variation that a move of skins adds | through a narrow curve | share |",
        "|---|---|---|---|",
    ]
    for name in SCENES:
        ours, plain = added_variation(Scene(name))
        lines.append(f"| {name} | {ours:.0f} | {plain:.0f} | {ours / plain:.3f} |")
    lines += [
        "",
        f"| 24 MP, {os.cpu_count()} cores | ms | memory copies |",
        "|---|---|---|",
        *_tables(),
    ]
    lines += [
        "",
        f"Three casts and a look, 1500 x 1000, an amount moved: {_look_while_dragged():.0f} ms (70).",
    ]
    return lines
