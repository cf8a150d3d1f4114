"""OpenRaster: the photo, and a layer for each cast with its mask.

A cast's layer holds the pixels that it changed, as they are after it, and nothing elsewhere: all layers at
full opacity are the delivered picture to the bit, and the opacity of one is how much of it is seen. Its mask
is a hidden layer beside it. Over a photo with transparency a layer covers only what is there ("atop"), so
that all together have the photo's own. Source: OpenRaster specification 0.0.6 (2024).
"""

import io
import xml.etree.ElementTree as ET
from collections.abc import Callable
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any
from zipfile import ZIP_STORED, ZipFile

import numpy as np
import numpy.typing as npt

from nubilis.arrays import Codes
from nubilis.deliver.masks import mask_of
from nubilis.engine.acting import LOOK, active_casts
from nubilis.engine.engine import Engine
from nubilis.photo.export import Wanted, exported
from nubilis.photo.grey import grey_png
from nubilis.photo.picture import Photo
from nubilis.photo.write import png_of, written_beside
from nubilis.recipe.differences import letters
from nubilis.recipe.document import Cast, Recipe

MIME = b"image/openraster"
THUMBNAIL = 256  # pixels of its long edge, as the format asks


@dataclass(frozen=True)
class _Layer:
    name: str
    codes: Codes
    hidden: bool = False


def write_openraster(
    path: Path,
    engine: Engine,
    recipe: Recipe,
    wanted: Wanted,
    tell: Callable[[float], None] = lambda _: None,
) -> None:
    """tell: told the share done, 0..1; may raise to cancel. Raises RecipeError, PhotoError."""
    wanted = replace(wanted, file_format="png16" if engine.photo.bits == 16 else "png")
    casts = active_casts(recipe)
    stages = [_with(recipe, casts[:count]) for count in range(len(casts) + 1)]
    names = letters(recipe.casts) | {LOOK: ""}
    last: Photo | None = None
    with written_beside(path) as out, ZipFile(out, "w", ZIP_STORED) as packed:
        packed.writestr("mimetype", MIME)
        stack: list[tuple[str, list[_Layer]]] = []
        for done, stage in enumerate(stages):
            photo = exported(engine.deliver(stage), wanted)
            cast = casts[done - 1] if done else None
            layers = _of_cast(engine, recipe, cast, last, photo) if cast and last else None
            title = "Photo" if cast is None else _title(names[cast.id], cast)
            stack.append((title, layers or [_Layer(title, _seen(photo))]))
            _keep(packed, done, stack[-1][1], photo)
            last = photo
            tell((done + 1) / (len(stages) + 1))
        assert last is not None
        packed.writestr("stack.xml", _described(stack, last))
        packed.writestr("mergedimage.png", png_of(last, last.bits))
        small = exported(last, Wanted("png", "srgb", THUMBNAIL))
        packed.writestr("Thumbnails/thumbnail.png", png_of(small, 8))
    tell(1.0)


def _with(recipe: Recipe, acting: list[Cast]) -> Recipe:
    """The recipe with no more than some of what acts in it."""
    ids = {c.id for c in acting}
    casts = tuple(c for c in recipe.casts if c.id in ids)
    return recipe.model_copy(update={"casts": casts, "look": recipe.look if LOOK in ids else None})


def _title(letter: str, cast: Cast) -> str:
    if cast.id == LOOK:
        return "Look"
    return f"{letter}: {cast.name}" if cast.name else f"Cast {letter}"


def _seen(photo: Photo) -> Codes:
    if photo.alpha is None or photo.alpha_kind == "unspecified":
        return photo.codes
    return with_alpha(photo.codes, photo.alpha)


def with_alpha(codes: Codes, alpha: npt.NDArray[Any]) -> Codes:
    """(h, w, 4), of the colours' own type."""
    stacked: Any = np.ascontiguousarray(np.dstack([codes, alpha]), dtype=codes.dtype)
    return np.asarray(stacked)


def _of_cast(
    engine: Engine, recipe: Recipe, cast: Cast, before: Photo, after: Photo
) -> list[_Layer]:
    top = np.iinfo(after.codes.dtype).max
    moved = np.any(after.codes != before.codes, axis=2)
    alpha = np.where(moved, top, 0).astype(after.codes.dtype)
    grey = mask_of(engine, recipe, cast, after.bits, (after.width, after.height))
    return [
        _Layer("Mask", grey, hidden=True),
        _Layer("Treated", with_alpha(after.codes, alpha)),
    ]


def _keep(packed: ZipFile, number: int, layers: list[_Layer], photo: Photo) -> None:
    for i, layer in enumerate(layers):
        packed.writestr(f"data/{number}-{i}.png", _as_png(layer, photo))


def _as_png(layer: _Layer, photo: Photo) -> bytes:
    if layer.codes.ndim == 2:  # a mask is no colour and carries no profile
        return grey_png(layer.codes, 4)
    alpha = layer.codes[..., 3] if layer.codes.shape[2] == 4 else None
    own = replace(photo, codes=layer.codes[..., :3], alpha=alpha, alpha_kind="straight")
    return png_of(own, photo.bits)


def _described(stack: list[tuple[str, list[_Layer]]], photo: Photo) -> bytes:
    """Uppermost first, as the format wants it."""
    image = ET.Element("image", version="0.0.6", w=str(photo.width), h=str(photo.height))
    root = ET.SubElement(image, "stack")
    for number in reversed(range(len(stack))):
        title, layers = stack[number]
        into = ET.SubElement(root, "stack", name=title, isolation="auto") if number else root
        if number and photo.alpha is not None:
            into.set("composite-op", "svg:src-atop")
        for i, layer in enumerate(layers):
            ET.SubElement(
                into,
                "layer",
                name=layer.name,
                src=f"data/{number}-{i}.png",
                visibility="hidden" if layer.hidden else "visible",
                x="0",
                y="0",
                opacity="1.0",
            )
    out = io.BytesIO()
    ET.ElementTree(image).write(out, encoding="UTF-8", xml_declaration=True)
    return out.getvalue()
