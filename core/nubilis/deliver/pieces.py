"""What a delivered photo comes to: its file, and beside it what whoever goes on elsewhere needs."""

from collections.abc import Callable
from dataclasses import dataclass
from functools import partial
from pathlib import Path
from typing import Literal

from nubilis.deliver.masks import mask_of
from nubilis.deliver.openraster import write_openraster
from nubilis.engine.acting import acting_casts
from nubilis.engine.engine import Engine
from nubilis.look.cube import write_cube
from nubilis.photo.export import Wanted, exported
from nubilis.photo.grey import BITS as MASK_BITS
from nubilis.photo.grey import grey_file
from nubilis.photo.left_out import left_out
from nubilis.photo.write import LOSSY, SUFFIX, write_photo, written_beside
from nubilis.proof.colour_table import colour_table
from nubilis.proof.compare import unchanged_share
from nubilis.recipe.differences import letters
from nubilis.recipe.document import Cast, Recipe
from nubilis.recipe.files import write_file

MaskFormat = Literal["png", "png16", "tiff", "tiff16"]
RENDERED = 0.7  # share of the work that is done when every pixel is there
Tell = Callable[[float], None]


@dataclass(frozen=True)
class Beside:
    """masks: one grey picture for each cast, of the file's own size; table: a .cube of the colour part, in
    sRGB's codes; recipe: with all that it refers to inside."""

    masks: MaskFormat | None = None
    table: bool = False
    recipe: bool = False


NOTHING = Beside()


@dataclass(frozen=True)
class Written:
    """unchanged: the share of pixels that are exactly the original's, None where that has no meaning; notes:
    sentences about what the file has no place for."""

    unchanged: float | None = None
    notes: tuple[str, ...] = ()


@dataclass(frozen=True)
class Piece:
    """tail: what follows the name, with its ending; write: makes the file, telling the share done."""

    tail: str
    write: Callable[[Path, Tell], Written]


def pieces(
    engine: Engine,
    recipe: Recipe,
    wanted: Wanted,
    beside: Beside = NOTHING,
    *,
    in_place: bool = False,
) -> list[Piece]:
    """The photo first. in_place: when nothing is wanted beside it, the engine's own photo may be written
    into. Writing one raises PhotoError, RecipeError, PlaceError."""
    spent = in_place and beside == NOTHING
    found = [Piece(SUFFIX[wanted.file_format], partial(_photo, engine, recipe, wanted, spent))]
    casts, names = acting_casts(recipe), letters(recipe.casts)
    if beside.masks is not None:
        for cast in casts:
            write = partial(_mask, engine, recipe, cast, wanted, beside.masks)
            found.append(Piece(f"-{names[cast.id]}{SUFFIX[beside.masks]}", write))
    if beside.table:
        found.append(Piece(".cube", partial(_table, engine, recipe)))
    if beside.recipe:
        found.append(Piece(".json", partial(_recipe, engine, recipe)))
    return found


def _photo(
    engine: Engine, recipe: Recipe, wanted: Wanted, spent: bool, path: Path, tell: Tell
) -> Written:
    if wanted.file_format == "ora":
        write_openraster(path, engine, recipe, wanted, tell)
        return Written()
    done = engine.deliver(
        recipe,
        bits=wanted.depth_of(engine.photo),
        in_place=spent,
        progress=lambda share: tell(RENDERED * share),
    )
    made = exported(done, wanted)
    write_photo(path, made, wanted.file_format, wanted.coding)
    counted = not spent and wanted.leaves(engine.photo) and wanted.file_format not in LOSSY
    unchanged = unchanged_share(engine.photo, done) if counted else None
    return Written(unchanged, left_out(made, wanted.file_format))


def _mask(
    engine: Engine,
    recipe: Recipe,
    cast: Cast,
    wanted: Wanted,
    file_format: MaskFormat,
    path: Path,
    tell: Tell,
) -> Written:
    size = wanted.size_of(engine.photo)
    codes = mask_of(engine, recipe, cast, MASK_BITS[file_format], size)
    with written_beside(path) as out:
        out.write(grey_file(codes, file_format))
    tell(1.0)
    return Written()


def _table(engine: Engine, recipe: Recipe, path: Path, tell: Tell) -> Written:
    with written_beside(path) as out:
        out.write(write_cube(colour_table(engine, recipe).cube))
    tell(1.0)
    return Written()


def _recipe(engine: Engine, recipe: Recipe, path: Path, tell: Tell) -> Written:
    with written_beside(path) as out:
        out.write(write_file(recipe, engine.assets).encode())
    tell(1.0)
    return Written()
