"""What is given bytes from anywhere: each takes them, or says in one line why not."""

from collections.abc import Callable
from pathlib import Path

from nubilis.engine.engine import Engine
from nubilis.errors import NubilisError
from nubilis.find.look import look
from nubilis.library.exchange import read_references
from nubilis.library.looks import OWN, own_table
from nubilis.look.cube import read_cube
from nubilis.mask.named_key import read_keys
from nubilis.photo.grey import read_grey
from nubilis.photo.pyramid import View
from nubilis.photo.read import read_photo
from nubilis.planning import plan_fix
from nubilis.proof.casts import prove
from nubilis.recipe.asset import Bundle
from nubilis.recipe.files import read_file, read_recipe
from nubilis.remedy.look import Look

MOST_PIXELS = 64 * 64  # that are worked on
CORPUS = Path(__file__).parent / "corpus"
Target = Callable[[bytes], object]


def _text(data: bytes) -> str:
    return data.decode("utf-8", "replace")


def work(data: bytes) -> None:
    """All that one does with a photo: opened, seen, looked for casts, treated, proved, delivered."""
    photo = read_photo(data)
    if photo.width * photo.height > MOST_PIXELS:
        return
    files = Bundle()
    engine = Engine(photo, assets=files)
    middle = photo.width / 2, photo.height / 2
    recipe = plan_fix(engine, [middle])
    laid = Look(table=files.keep_table(own_table(OWN[0].name)))
    recipe = recipe.model_copy(update={"look": laid})
    engine.render(recipe, View.fit(photo, 64))
    look(engine)
    prove(engine, recipe)
    engine.deliver(recipe)


TARGETS: dict[str, Target] = {
    "photo": read_photo,
    "work": work,
    "mask-picture": read_grey,
    "recipe": read_recipe,
    "recipe-file": read_file,
    "table": read_cube,
    "references": lambda data: read_references(_text(data)),
    "keys": lambda data: read_keys(_text(data)),
}


def tried(target: Target, data: bytes) -> None:
    """Raises what nobody foresaw, and nothing else."""
    try:
        target(data)
    except NubilisError as error:
        if "\n" in str(error):
            raise AssertionError(f"more than one line: {error!r}") from error
