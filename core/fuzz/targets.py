"""What is given bytes from anywhere: each takes them, or says in one line why not."""

from collections.abc import Callable
from pathlib import Path

from nubilis.errors import NubilisError
from nubilis.library.exchange import read_references
from nubilis.look.cube import read_cube
from nubilis.mask.named_key import read_keys
from nubilis.photo.grey import read_grey
from nubilis.photo.read import read_photo
from nubilis.recipe.files import read_file, read_recipe

CORPUS = Path(__file__).parent / "corpus"
Target = Callable[[bytes], object]


def _text(data: bytes) -> str:
    return data.decode("utf-8", "replace")


TARGETS: dict[str, Target] = {
    "photo": read_photo,
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
