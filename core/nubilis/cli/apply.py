"""The verb that applies a recipe to photos and writes what is wanted of them."""

import argparse
import sys
from pathlib import Path

from nubilis.cli.files import is_input, read_bytes
from nubilis.deliver.names import Said, checked, free, named
from nubilis.deliver.pieces import Beside, pieces
from nubilis.engine.acting import acting_casts
from nubilis.engine.engine import Engine
from nubilis.errors import NubilisError
from nubilis.photo.about import ABOUTS
from nubilis.photo.coding import LEAST_KB, LEAST_QUALITY, MOST_KB, MOST_QUALITY, Coding
from nubilis.photo.export import FEWEST, LARGEST, MOST_MEGAPIXELS, SMALLEST, SPACES, Wanted
from nubilis.photo.grey import BITS as MASK_FORMATS
from nubilis.photo.metadata import when_taken
from nubilis.photo.picture import Photo
from nubilis.photo.read import read_photo
from nubilis.photo.write import SUFFIX, default_format
from nubilis.recipe.asset import LONGEST_NAME, Bundle
from nubilis.recipe.differences import letters
from nubilis.recipe.document import Recipe
from nubilis.recipe.files import read_file
from nubilis.remedy.look import Look

SUBSAMPLINGS = ("444", "422", "420")


def apply_arguments(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("recipe", type=Path, help='"-" for none')
    parser.add_argument("photos", type=Path, nargs="+")
    parser.add_argument("--out-dir", type=Path, required=True)
    parser.add_argument("--look", type=Path)
    parser.add_argument("--format", choices=SUFFIX, help="the photo's own unless given")
    parser.add_argument("--profile", choices=SPACES, default="keep")
    parser.add_argument("--long-edge", type=int, metavar="PIXELS")
    parser.add_argument("--megapixels", type=float)
    parser.add_argument("--quality", type=int, help="of JPEG and AVIF")
    parser.add_argument("--subsampling", choices=SUBSAMPLINGS, default="444", help="of JPEG")
    parser.add_argument("--limit", type=int, metavar="KB", help="the largest that a JPEG may be")
    parser.add_argument("--about", choices=ABOUTS, default="all", help="which metadata go along")
    parser.add_argument("--names", default="{name}", metavar="PATTERN")
    parser.add_argument("--masks", choices=MASK_FORMATS, help="of each cast, as grey pictures")
    parser.add_argument("--table", action="store_true", help="the colour part as .cube")
    parser.add_argument("--recipe", dest="with_recipe", action="store_true", help="beside each")
    parser.add_argument(
        "--overwrite", action="store_true", help="files that are there, never what is read"
    )
    parser.set_defaults(run=_apply)


def _within(value: float | None, low: float, high: float, name: str) -> None:
    if value is not None and not low <= value <= high:
        raise NubilisError(f"--{name} must be within {low:g}..{high:g}")


def _check(options: argparse.Namespace) -> None:
    _within(options.long_edge, SMALLEST, LARGEST, "long-edge")
    _within(options.megapixels, FEWEST, MOST_MEGAPIXELS, "megapixels")
    _within(options.quality, LEAST_QUALITY, MOST_QUALITY, "quality")
    _within(options.limit, LEAST_KB, MOST_KB, "limit")
    checked(options.names)


def _apply(options: argparse.Namespace) -> None:
    _check(options)
    recipe, assets = _recipe(options)
    beside = Beside(options.masks, options.table, options.with_recipe)
    options.out_dir.mkdir(parents=True, exist_ok=True)
    taken: set[str] = set()
    for number, path in enumerate(options.photos, 1):
        photo = read_photo(path)
        name = named(options.names, _said(path, photo, recipe, number))
        engine = Engine(photo, assets=assets)
        wanted = _wanted(options, photo)
        todo = pieces(engine, recipe, wanted, beside, in_place=True)
        name = free(name, [p.tail for p in todo], lambda file: _is_taken(file, taken, options))
        for piece in todo:
            taken.add((name + piece.tail).lower())
            for note in piece.write(options.out_dir / (name + piece.tail), lambda _: None).notes:
                print(f"{name + piece.tail}: {note}", file=sys.stderr)


def _is_taken(file: str, taken: set[str], options: argparse.Namespace) -> bool:
    """By this run, by what is read, or by a file that is there. File systems may not tell capitals apart."""
    path: Path = options.out_dir / file
    there = not options.overwrite and path.exists()
    return file.lower() in taken or is_input(path) or there


def _recipe(options: argparse.Namespace) -> tuple[Recipe, Bundle]:
    none = str(options.recipe) == "-"
    recipe, assets = (Recipe(), Bundle()) if none else read_file(read_bytes(options.recipe))
    if options.look:
        table = assets.keep_table(read_bytes(options.look), options.look.stem[:LONGEST_NAME])
        recipe = recipe.model_copy(update={"look": Look(table=table)})
    return recipe, assets


def _wanted(options: argparse.Namespace, photo: Photo) -> Wanted:
    file_format = options.format or default_format(photo)
    if file_format == "jxl" and photo.bits == 16:
        file_format = "jxl16"
    coding = Coding(options.quality, options.subsampling, options.limit)
    size = options.long_edge, options.megapixels
    return Wanted(file_format, options.profile, *size, options.about, coding)


def _said(path: Path, photo: Photo, recipe: Recipe, number: int) -> Said:
    names = letters(recipe.casts)
    return Said(
        name=path.stem,
        title=path.stem,
        shoot=path.resolve().parent.name,
        number=number,
        casts="".join(names[c.id] for c in acting_casts(recipe)),
        size=(photo.width, photo.height),
        taken=when_taken(photo.metadata),
    )
