"""Small pictures made in memory, and recipes for them."""

import io
import tempfile
from pathlib import Path
from typing import Any

import numpy as np
import numpy.typing as npt
from PIL import Image

from nubilis.arrays import Floats
from nubilis.colour.profile import srgb
from nubilis.mask.brush import Brush, Stroke
from nubilis.mask.colour_key import ColourKey, Range
from nubilis.mask.combine import AnyPart, Mask
from nubilis.mask.whole import Whole
from nubilis.photo.picture import Photo
from nubilis.photo.write import write_photo
from nubilis.recipe.document import Cast, Pair, Recipe, Sample
from nubilis.remedy.neutralise import Neutralise

RED_LIGHT = (1.35, 0.92, 0.80)


def random_codes(h: int, w: int, bits: int = 8, seed: int = 1) -> npt.NDArray[Any]:
    """Code values (h, w, 3) without structure."""
    top = 2**bits
    return np.random.default_rng(seed).integers(0, top, (h, w, 3)).astype(f"uint{bits}")


def random_light(h: int, w: int, seed: int = 1) -> Floats:
    """Linear Rec. 2020 (3, h, w) within 0..1."""
    return np.random.default_rng(seed).random((3, h, w), dtype=np.float32)


def wall_photo(h: int = 200, w: int = 300, bits: int = 8) -> Photo:
    """A textured grey wall whose left part glows in reddish light, fading to nothing by two fifths."""
    rng = np.random.default_rng(7)
    x = np.linspace(0.0, 1.0, w)
    glow = np.clip(1.0 - x / 0.4, 0.0, 1.0)[None, :, None]
    wall = 0.30 + 0.10 * np.linspace(0.0, 1.0, h)[:, None, None] + rng.normal(0, 0.004, (h, w, 1))
    light = 1.0 + glow * (np.array(RED_LIGHT) - 1.0)
    encoded = np.clip(wall * light, 0.0, 1.0) ** (1 / 2.2)
    codes = np.ascontiguousarray((encoded * (2**bits - 1) + 0.5).astype(f"uint{bits}"))
    return Photo(codes, srgb())


def skin_with_noise(h: int = 160, w: int = 240) -> Photo:
    """A cheek: shading from side to side, a blush that turns its hue, and noise in single pixels."""
    rng = np.random.default_rng(11)
    xs, ys = np.meshgrid(np.linspace(0.0, 1.0, w), np.linspace(0.0, 1.0, h))
    blush = np.exp(-((xs - 0.6) ** 2 + (ys - 0.5) ** 2) / 0.05)[..., None]
    skin = np.array([0.52, 0.33, 0.24]) * (0.6 + 0.6 * xs[..., None])
    light = skin * (1.0 + blush * np.array([0.06, -0.08, -0.04]))
    encoded = np.clip(light, 0.0, 1.0) ** (1 / 2.2) * 255 + rng.normal(0.0, 4.0, (h, w, 3))
    return Photo(np.clip(np.rint(encoded), 0, 255).astype(np.uint8), srgb())


def written(photo: Photo, file_format: str) -> bytes:
    """A photo's file."""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "photo"
        write_photo(path, photo, file_format)
        return path.read_bytes()


def whole(remedy: Any) -> Cast:
    """A cast of the whole photo with one remedy."""
    return Cast(id="c", mask=Mask(parts=(Whole(id="m"),)), remedies=(remedy,))


def any_range() -> Range:
    return Range(core=(0.0, 100.0), fade=(0.0, 0.0))


def brush(size: float = 0.5, feather: float = 0.5, **more: Any) -> Brush:
    points = more.pop("points", (((0.1, 0.1), 1.0), ((0.1, 0.6), 1.0)))
    return Brush(id="brush", strokes=(Stroke(size=size, feather=feather, points=points, **more),))


def warm_key() -> ColourKey:
    hue = Range(core=(0.0, 80.0), fade=(20.0, 20.0))
    wide = Range(core=(0.0, 100.0), fade=(0.0, 0.0))
    return ColourKey(id="key", hue=hue, saturation=wide, luminance=wide, join="intersect")


def recipe_for(photo: Photo, *parts: AnyPart, amount: float = 1.0) -> Recipe:
    """Neutralise the wall's glow: a sample at the left against one at the right of the same row."""
    from nubilis.engine.engine import Engine
    from nubilis.planning import sample_at

    engine = Engine(photo)
    y = photo.height * 0.5
    tainted: Sample = sample_at(engine, (photo.width * 0.05, y))
    reference = sample_at(engine, (photo.width * 0.9, y))
    cast = Cast(
        id="cast",
        pairs=(Pair(id="pair", tainted=tainted, reference=reference),),
        mask=Mask(parts=parts or (brush(),)),
        remedies=(Neutralise(id="remedy", amount=amount),),
    )
    return Recipe(casts=(cast,))


def file_of(codes: npt.NDArray[Any], file_format: str, **more: Any) -> bytes:
    """A file's bytes, written by a library of another make than ours."""
    out = io.BytesIO()
    Image.fromarray(codes).save(out, file_format, **more)
    return out.getvalue()
