"""Files that a recipe refers to by their content, and does not carry itself: mask pictures and tables."""

import base64
import binascii
import hashlib
from collections.abc import Callable, Iterable, Mapping
from typing import Annotated

from pydantic import Field

from nubilis.errors import RecipeError
from nubilis.look.cube import read_cube
from nubilis.photo.grey import grey_size
from nubilis.readable import Readable
from nubilis.recipe.model import Model

Sha256 = Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]
PNG = b"\x89PNG"
LONGEST_NAME = 120  # of a table
_Pixels = Annotated[int, Field(ge=1, le=2**20)]


class TableFile(Model):
    """A .cube table by the SHA-256 of its bytes; name: as a person knows it."""

    sha256: Sha256
    name: Annotated[str, Field(max_length=LONGEST_NAME), Readable] = ""


class Asset(Model):
    """A file by the SHA-256 of its bytes; width, height: of the picture in it, pixels."""

    sha256: Sha256
    width: _Pixels
    height: _Pixels


Resolver = Callable[[str], bytes]  # an asset's bytes by their SHA-256. Raises RecipeError.


def nowhere(sha256: str) -> bytes:
    """The resolver of whoever has no assets."""
    raise RecipeError("a file that the recipe refers to is not here")


def asset_of(data: bytes) -> Asset:
    """What a recipe says of a grey PNG, whose pixels are not decoded. Raises RecipeError."""
    width, height = grey_size(data)
    return Asset(sha256=hashlib.sha256(data).hexdigest(), width=width, height=height)


def table_file_of(data: bytes, name: str = "") -> TableFile:
    """What a recipe says of a .cube table. Raises TableError."""
    read_cube(data)
    return TableFile(sha256=hashlib.sha256(data).hexdigest(), name=name)


class Bundle:
    """Assets at hand, as a recipe that travels carries them."""

    def __init__(self) -> None:
        self._files: dict[str, bytes] = {}

    def __call__(self, sha256: str) -> bytes:
        return self._files.get(sha256) or nowhere(sha256)

    def keep(self, data: bytes) -> Asset:
        """Raises RecipeError for what is no mask picture."""
        asset = asset_of(data)
        self._files[asset.sha256] = data
        return asset

    def keep_table(self, data: bytes, name: str = "") -> TableFile:
        """Raises TableError for what is no table."""
        table = table_file_of(data, name)
        self._files[table.sha256] = data
        return table

    def unpack(self, packed: Mapping[str, str]) -> None:
        """Take in what `pack` wrote. Raises RecipeError, TableError when a file is not what its name says."""
        for sha256, text in packed.items():
            data = from_base64(text)
            kept = self.keep(data) if data.startswith(PNG) else self.keep_table(data)
            if kept.sha256 != sha256:
                raise RecipeError("a file of the recipe is damaged")


def pack(assets: Iterable[Asset | TableFile], resolver: Resolver) -> dict[str, str]:
    """Their files in base64, by SHA-256. Raises RecipeError."""
    return {a.sha256: base64.b64encode(resolver(a.sha256)).decode() for a in assets}


def from_base64(text: str) -> bytes:
    """Raises RecipeError."""
    try:
        return base64.b64decode(text, validate=True)
    except (binascii.Error, ValueError) as error:
        raise RecipeError("a file of the recipe is not valid base64") from error
