"""The verbs of several photos: follow, agree."""

import argparse
from collections.abc import Sequence
from contextlib import suppress
from functools import lru_cache
from pathlib import Path
from typing import Any

from nubilis.cli.files import read_bytes, write_bytes, write_json, write_text
from nubilis.cli.words import point
from nubilis.engine.engine import Engine
from nubilis.engine.sample import place_of, sampled
from nubilis.errors import NubilisError
from nubilis.people.nets import ModelsMissing
from nubilis.people.people import People, look_for_people
from nubilis.photo.grey import grey_file
from nubilis.photo.read import read_photo
from nubilis.recipe.asset import Asset, Bundle
from nubilis.recipe.document import Recipe
from nubilis.recipe.files import read_file, write_file
from nubilis.recipe.kinds import letter
from nubilis.series.agree import Sought, apart
from nubilis.series.carry import Carried, Follower
from nubilis.series.frame import frame_of

OPEN = 2  # photos that are held at once


def follow_arguments(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("recipe", type=Path, help="made on the first frame")
    parser.add_argument("frames", type=Path, nargs="+", metavar="FRAME")
    parser.add_argument("--out-dir", type=Path, required=True)
    parser.set_defaults(run=_follow)


def agree_arguments(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("photos", type=Path, nargs="+", metavar="PHOTO")
    parser.add_argument("--at", type=point, required=True, metavar="X,Y")
    parser.add_argument("--in", type=int, default=1, dest="clicked", metavar="NUMBER")
    parser.add_argument("--json", default="-")
    parser.set_defaults(run=_agree)


class _Photos:
    """Several photos, of which few are held at once."""

    def __init__(self, paths: Sequence[Path], assets: Bundle) -> None:
        self.paths = paths
        self._assets = assets
        self.engine = lru_cache(OPEN)(self._engine)
        self.people = lru_cache(maxsize=None)(self._people)

    def _engine(self, i: int) -> Engine:
        return Engine(read_photo(self.paths[i]), assets=self._assets)

    def _people(self, i: int) -> People | None:
        with suppress(ModelsMissing):
            return look_for_people(self.engine(i).sight())
        return None


def _follow(options: argparse.Namespace) -> None:
    recipe, assets = read_file(read_bytes(options.recipe))
    frames: list[Path] = options.frames
    stems = [path.stem for path in frames]
    if len(set(stems)) < len(stems):
        raise NubilisError("two frames have the same name, and their recipes would overwrite")
    photos = _Photos(frames, assets)

    def keep(_: int, data: bytes) -> Asset:
        return assets.keep(data)

    follower = Follower(photos.engine, stems, {0: recipe}, keep)
    options.out_dir.mkdir(parents=True, exist_ok=True)
    told = []
    carried = (step for step in follower.carried() if isinstance(step, Carried))
    for i, one in enumerate(carried):
        own = recipe.model_copy(update={"casts": one.casts})
        _write_frame(options.out_dir, stems[i], own, photos.engine(i), assets)
        told.append(
            {
                "photo": str(frames[i]),
                "confidence": round(one.confidence, 3),
                "check": one.check,
                "followed": one.followed,
            }
        )
    write_json(str(options.out_dir / "follow.json"), told)


def _write_frame(folder: Path, stem: str, recipe: Recipe, engine: Engine, assets: Bundle) -> None:
    write_text(folder / f"{stem}.json", write_file(recipe, assets))
    for number, cast in enumerate(recipe.casts):
        codes = engine.mask_codes(cast.mask, 8, recipe.state)
        write_bytes(folder / f"{stem}-{letter(number)}.png", grey_file(codes, "png"))


def _agree(options: argparse.Namespace) -> None:
    paths: list[Path] = options.photos
    if not 1 <= options.clicked <= len(paths):
        raise NubilisError(f"there is no photo {options.clicked} among {len(paths)}")
    photos, clicked = _Photos(paths, Bundle()), options.clicked - 1
    at = place_of(photos.engine(clicked).photo, *options.at)
    chosen = sampled(photos.engine(clicked), at)
    sought = Sought(
        len(paths), lambda i: frame_of(photos.engine(i).sight()), photos.people, clicked, at
    )
    told: dict[int, dict[str, Any]] = {}
    for i, place in sought.places():
        told[i] = {"photo": str(paths[i]), "found": place is not None}
        told[i] |= {"at": None, "lab": None, "distance": None}
        if place is not None:
            engine = photos.engine(i)
            lab, distance = apart(sampled(engine, place).rgb, chosen.rgb)
            edge = max(engine.size)
            told[i]["at"] = [int(place[0] * edge), int(place[1] * edge)]
            told[i]["lab"] = [round(v, 2) for v in lab]
            told[i]["distance"] = round(distance, 2)
    document = [told[i] for i in range(len(paths))]
    write_json(options.json, document)
