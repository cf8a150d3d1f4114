"""The verbs: find, fix, apply, table, people, measure; those of several photos are in series.py."""

import argparse
import sys
from collections.abc import Callable, Iterator, Sequence
from contextlib import suppress
from dataclasses import asdict
from pathlib import Path
from typing import Any, NoReturn

import numpy as np

from nubilis.arrays import Codes
from nubilis.cast.direction import common_shift
from nubilis.cli.apply import apply_arguments
from nubilis.cli.camera import camera_arguments
from nubilis.cli.files import (
    protect,
    read_bytes,
    refuse_input,
    write_bytes,
    write_grey,
    write_json,
    write_text,
)
from nubilis.cli.series import agree_arguments, follow_arguments
from nubilis.cli.words import point
from nubilis.engine.engine import Engine
from nubilis.engine.sample import place_of
from nubilis.errors import NubilisError, PlaceError
from nubilis.find.adopt import AUTO_AMOUNT, all_adopted, sure_enough
from nubilis.find.face import FaceSeen, faces_seen
from nubilis.find.face_words import side_of, turn
from nubilis.find.field import Words
from nubilis.find.finding import Finding
from nubilis.find.look import look
from nubilis.look.cube import write_cube
from nubilis.mask.combine import Mask
from nubilis.mask.people import Feature
from nubilis.people.areas import part_of
from nubilis.people.nets import ModelsMissing
from nubilis.people.people import People, look_for_people
from nubilis.photo.grey import grey_file
from nubilis.photo.picture import Photo
from nubilis.photo.read import read_photo
from nubilis.photo.write import format_for, write_photo
from nubilis.planning import plan_fix, read_mask
from nubilis.proof.casts import prove
from nubilis.proof.colour_table import SIZES, colour_table
from nubilis.proof.compare import compare
from nubilis.recipe.asset import Bundle
from nubilis.recipe.document import Recipe
from nubilis.recipe.files import read_file, write_file
from nubilis.recipe.kinds import letter

MASKS: tuple[Feature, ...] = ("person", "face", "skin", "lips", "eyes")
# Options that name what is written.
WRITTEN = "out", "out_dir", "recipe_out", "map", "masks", "json"
MAP_SCALE = 8.0  # grey levels of --map for one ΔE2000


class _Parser(argparse.ArgumentParser):
    def error(self, message: str) -> NoReturn:
        raise NubilisError(message)


def main(arguments: Sequence[str] | None = None) -> int:
    """Exit code 0 when done; 2 with one line on standard error when the input is at fault."""
    try:
        options = _parser().parse_args(arguments)
        run: Callable[[argparse.Namespace], None] = options.run
        protect(_read_by(options))
        for name in WRITTEN:
            if path := getattr(options, name, None):
                refuse_input(Path(path))
        run(options)
    except (NubilisError, OSError, MemoryError) as error:
        text = str(error) or type(error).__name__
        print("nubilis: " + " ".join(text.split()), file=sys.stderr)
        return 2
    return 0


def _read_by(options: argparse.Namespace) -> Iterator[Path]:
    for name, value in vars(options).items():
        if name not in WRITTEN:
            for one in value if isinstance(value, list) else [value]:
                if isinstance(one, Path):
                    yield one


def _parser() -> argparse.ArgumentParser:
    parser = _Parser(prog="nubilis")
    verbs = parser.add_subparsers(required=True, dest="verb")
    _find_arguments(verbs.add_parser("find", help="look for casts"))
    _fix_arguments(verbs.add_parser("fix", help="neutralise casts by sampled places"))
    apply_arguments(verbs.add_parser("apply", help="apply a recipe to photos"))
    _table_arguments(verbs.add_parser("table", help="the colour part as a .cube table"))
    people = verbs.add_parser("people", help="faces, and masks of people")
    people.add_argument("photo", type=Path)
    people.add_argument("--json", default="-")
    people.add_argument("--masks", type=Path)
    people.set_defaults(run=_people)
    follow_arguments(verbs.add_parser("follow", help="carry casts through the frames of a series"))
    agree_arguments(verbs.add_parser("agree", help="find one colour in several photos"))
    camera_arguments(verbs.add_parser("camera", help="shoot the demo's scenes as raw files"))
    measure = verbs.add_parser("measure", help="what moved between two pictures")
    measure.add_argument("before", type=Path)
    measure.add_argument("after", type=Path)
    measure.add_argument("--mask", type=Path)
    measure.add_argument("--json", default="-")
    measure.set_defaults(run=_measure)
    return parser


def _places(parser: argparse.ArgumentParser, *names: str) -> None:
    for name in names:
        parser.add_argument(f"--{name}", type=point, action="append", default=[], metavar="X,Y")


def _find_arguments(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("photo", type=Path)
    _places(parser, "tainted", "reference", "neutral")
    parser.add_argument("--json")
    parser.add_argument("--map", type=Path)
    parser.add_argument("--masks", type=Path)
    parser.set_defaults(run=_find)


def _fix_arguments(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("photo", type=Path)
    parser.add_argument("--out", type=Path, required=True)
    _places(parser, "tainted", "reference", "neutral", "guard")
    parser.add_argument("--mask", type=Path)
    parser.add_argument("--amount", type=_amount)
    parser.add_argument("--auto", action="store_true")
    parser.add_argument("--choice", metavar="ID")
    parser.add_argument("--recipe-out", type=Path)
    parser.add_argument("--json")
    parser.set_defaults(run=_fix)


def _amount(text: str) -> float:
    try:
        value = float(text)
    except ValueError as error:
        raise argparse.ArgumentTypeError(f"{text!r} is not a number") from error
    if not 0.0 <= value <= 1.5:
        raise argparse.ArgumentTypeError(f"{text} is not within 0..1.5")
    return value


def _find(options: argparse.Namespace) -> None:
    photo = read_photo(options.photo)
    engine = Engine(photo)
    seen = look(engine, _words(engine, options), people=_anybody(engine))
    if options.map:
        write_grey(options.map, seen.taint * (MAP_SCALE / 255.0), photo)
    if options.masks:
        options.masks.mkdir(parents=True, exist_ok=True)
        for finding in (*seen.findings, *seen.alternatives):
            write_grey(options.masks / f"{finding.id}.png", finding.mask, photo)
    document = {
        "photo": str(options.photo),
        "width": photo.width,
        "height": photo.height,
        "findings": [_finding(f, photo) for f in (*seen.findings, *seen.alternatives)],
        "choices": [
            {"id": c.id, "findings": list(c.findings), "says": c.says} for c in seen.choices
        ],
    }
    if options.json or not (options.map or options.masks):
        write_json(options.json or "-", document)


def _words(engine: Engine, options: argparse.Namespace) -> Words:
    """What the places say: a pair or a neutral gives the direction, a tainted place says where."""
    places = tuple(place_of(engine.photo, *p) for p in options.tainted)
    if not (options.neutral or options.reference):
        return Words(places=places)
    recipe = plan_fix(engine, options.tainted, options.reference, options.neutral)
    return Words(common_shift(recipe.casts[0].heard_pairs()), places)


def _finding(finding: Finding, photo: Photo) -> dict[str, Any]:
    L, a, b = finding.cast
    reference = finding.reference
    return {
        "id": finding.id,
        "cause": finding.cause,
        "confidence": round(finding.confidence, 3),
        "severity": round(finding.severity, 2),
        "cast": {"L": round(L, 2), "a": round(a, 2), "b": round(b, 2)},
        "bbox": _pixels(finding.box, photo),
        "area": round(finding.area, 4),
        "source": {"bbox": _pixels(finding.source, photo)} if finding.source else None,
        "samples": {
            "tainted": _pixel(finding.tainted, photo),
            "reference": _pixel(reference, photo) if reference else None,
        },
        "reason": finding.reason,
        **({"alternative": True} if finding.alternative else {}),
    }


def _pixel(at: tuple[float, float], photo: Photo) -> list[int]:
    x, y = (int(v * photo.long_edge) for v in at)
    return [min(x, photo.width - 1), min(y, photo.height - 1)]


def _pixels(box: tuple[float, float, float, float], photo: Photo) -> list[int]:
    ends = (photo.width, photo.height) * 2
    return [min(round(v * photo.long_edge), end) for v, end in zip(box, ends, strict=True)]


def _fix(options: argparse.Namespace) -> None:
    photo = read_photo(options.photo)
    file_format = format_for(options.out, photo)
    assets = Bundle()
    engine = Engine(photo, assets=assets)
    if options.choice and not options.auto:
        raise NubilisError("--choice answers a question of --auto")
    plan = _auto if options.auto else _by_places
    recipe = plan(engine, assets, options)
    figures = asdict(prove(engine, recipe)) if options.json else {}
    write_photo(options.out, engine.deliver(recipe, in_place=True), file_format)
    if options.recipe_out:
        write_text(options.recipe_out, write_file(recipe, assets))
    if options.json:
        write_json(options.json, {"photo": str(options.photo), "out": str(options.out), **figures})


def _anybody(engine: Engine) -> People | None:
    """Without the networks the finder does without people."""
    with suppress(ModelsMissing):
        return look_for_people(engine.sight())
    return None


def _auto(engine: Engine, assets: Bundle, options: argparse.Namespace) -> Recipe:
    if options.mask or options.guard:
        raise NubilisError("--auto brings its own masks; leave --mask and --guard out")
    words = _words(engine, options)
    seen = look(engine, words, people=_anybody(engine))
    found = seen.findings
    if options.choice:
        found = seen.chosen(options.choice)
    elif not words.said:
        found = tuple(sure_enough(found))
    amount = AUTO_AMOUNT if options.amount is None else options.amount
    return all_adopted(engine, found, assets.keep, amount)


def _by_places(engine: Engine, assets: Bundle, options: argparse.Namespace) -> Recipe:
    mask = None
    if options.mask:
        mask = assets.keep(read_mask(options.mask, engine.photo))
    return plan_fix(
        engine,
        options.tainted,
        options.reference,
        options.neutral,
        options.guard,
        mask,
        1.0 if options.amount is None else options.amount,
    )


def _table_arguments(table: argparse.ArgumentParser) -> None:
    table.add_argument("recipe", type=Path)
    table.add_argument("photo", type=Path)
    table.add_argument("--out", type=Path, required=True)
    table.add_argument("--size", type=int, choices=SIZES, default=33)
    table.add_argument("--cast", metavar="LETTER")
    table.add_argument(
        "--codes",
        choices=("srgb", "photo"),
        default="srgb",
        help="sRGB's, or the photo's own profile's",
    )
    table.set_defaults(run=_table)


def _table(options: argparse.Namespace) -> None:
    recipe, assets = read_file(read_bytes(options.recipe))
    engine = Engine(read_photo(options.photo), assets=assets)
    cast = None
    if options.cast:
        letters = {letter(i): c.id for i, c in enumerate(recipe.casts)}
        cast = letters.get(options.cast.upper())
        if cast is None:
            raise NubilisError(f"the recipe has no cast {options.cast[:20]}")
    space = engine.photo.profile if options.codes == "photo" else None
    made = colour_table(engine, recipe, cast, options.size, space)
    write_bytes(options.out, write_cube(made.cube))
    print(f"largest {made.largest:.2f}, mean {made.mean:.3f} CIEDE2000 to the engine")
    if made.left_out:
        print(f"not in the table: {', '.join(made.left_out)}")


def _people(options: argparse.Namespace) -> None:
    engine = Engine(read_photo(options.photo))
    found = look_for_people(engine.sight())
    rgb = engine.untouched(engine.analysis_view)
    told = {f.who: f for f in faces_seen(found, rgb, (rgb.shape[1], rgb.shape[2]), 0.0)}
    faces = [
        {
            "bbox": [round(v * max(engine.size)) for v in face.box],
            "confidence": round(face.sure, 3),
            "probe": _told_by(told[who]) if who in told else None,
        }
        for who, face in enumerate(found.faces, 1)
    ]
    if options.masks:
        options.masks.mkdir(parents=True, exist_ok=True)
        for of in MASKS:
            _write_mask(engine, found, of, options.masks / f"{of}.png")
    write_json(options.json, {"faces": faces})


def _told_by(face: FaceSeen) -> dict[str, Any]:
    size, (a, b) = turn(face)
    side = side_of(face) if face.side_sure else "unsure"
    return {
        "cast": {"a": round(a, 2), "b": round(b, 2)},
        "delta_e": round(size, 2),
        "score": round(face.probe.score, 3),
        "side": side if side in ("left", "right") else "unsure",
    }


def _write_mask(engine: Engine, people: People, of: Feature, file: Path) -> None:
    """At the photo's size; black where there is nobody, or nothing of the kind."""
    assets = Bundle()
    codes: Codes = np.zeros((engine.photo.height, engine.photo.width), dtype=np.uint8)
    with suppress(PlaceError):
        part = part_of(people, engine.sight(), of, None, assets.keep, "part")
        codes = Engine(engine.photo, assets=assets).mask_codes(Mask(parts=(part,)), 8)
    write_bytes(file, grey_file(codes, "png"))


def _measure(options: argparse.Namespace) -> None:
    before, after = read_photo(options.before), read_photo(options.after)
    inside = read_photo(options.mask).codes[..., 1] > 0 if options.mask else None
    write_json(options.json, asdict(compare(before, after, inside)))
