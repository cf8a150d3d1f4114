"""Names of delivered files by a pattern of words and {fields}."""

import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import datetime

from nubilis.errors import PatternError
from nubilis.readable import cut, made_readable

PATTERN = "{name}-nubilis"
LONGEST_PATTERN = 120  # characters
LONGEST = 180  # bytes: file systems take 255, with an ending and a count
FIELDS = ("name", "title", "shoot", "date", "time", "number", "casts", "width", "height")
_FIELD = re.compile(r"\{([a-z]+)(?::(\d))?\}")
# What no file system of a client's minds; the rest becomes a dash.
_REFUSED = re.compile(r'[\x00-\x1f\x7f<>:"/\\|?*]+')
_RESERVED = re.compile(r"^(con|prn|aux|nul|com\d|lpt\d)(\.|$)", re.IGNORECASE)


@dataclass(frozen=True)
class Said:
    """What the fields stand for. name: of the photo's own file, without its ending; number: in the delivery,
    from 1; casts: letters of those that act; taken: None where the camera does not say."""

    name: str
    title: str
    shoot: str
    number: int
    casts: str
    size: tuple[int, int]
    taken: datetime | None = None


def checked(pattern: str) -> str:
    """The pattern. Raises PatternError with what is wrong with it."""
    if not pattern.strip() or len(pattern) > LONGEST_PATTERN:
        raise PatternError(f"a pattern of names has 1 to {LONGEST_PATTERN} characters")
    for field, digits in _FIELD.findall(pattern):
        if field not in FIELDS:
            raise PatternError(f"{{{field}}} is no field; there are {', '.join(FIELDS)}")
        if digits and field != "number":
            raise PatternError("only {number} can be told how many digits it has")
    left = _FIELD.sub("", pattern)
    if "{" in left or "}" in left:
        raise PatternError("a brace in the pattern belongs to no field")
    return pattern


def named(pattern: str, said: Said) -> str:
    """A file's name without its ending, safe on every common file system. Raises PatternError."""
    values = {
        "name": said.name,
        "title": said.title,
        "shoot": said.shoot,
        "date": said.taken.date().isoformat() if said.taken else "undated",
        "time": f"{said.taken:%H%M%S}" if said.taken else "",
        "casts": said.casts or "none",
        "width": str(said.size[0]),
        "height": str(said.size[1]),
    }

    def fill(found: re.Match[str]) -> str:
        field, digits = found.groups()
        return str(said.number).zfill(int(digits or 1)) if field == "number" else values[field]

    return safe(_FIELD.sub(fill, checked(pattern)))


def safe(text: str) -> str:
    """A name for one file or folder on every common file system, never empty."""
    text = cut(made_readable(_REFUSED.sub("-", text)).strip(" ."), LONGEST).strip(" .")
    return f"_{text}" if _RESERVED.match(text) or not text else text


def free(name: str, tails: Sequence[str], is_taken: Callable[[str], bool]) -> str:
    """The name, counted up until none of the files that it has with these tails is taken."""
    found, count = name, 2
    while any(is_taken(found + tail) for tail in tails):
        found, count = f"{name}-{count}", count + 1
    return found
