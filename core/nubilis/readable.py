"""Names that people give: what may stand in them wherever they are written."""

import unicodedata

from pydantic import AfterValidator

# They turn the direction in which what follows is read, or break the line.
TURNING = "\u061c\u200e\u200f\u2028\u2029\u202a\u202b\u202c\u202d\u202e\u2066\u2067\u2068\u2069"


def readable(text: str) -> str:
    """A name that may be written anywhere as it is. Raises ValueError."""
    if text != made_readable(text):
        raise ValueError("a name has no control characters, and none that turn its direction")
    return text


Readable = AfterValidator(readable)


def made_readable(text: str) -> str:
    """Without what no name may have: of names that come with files."""
    return "".join(c for c in text if c not in TURNING and _is_letter(c))


def _is_letter(character: str) -> bool:
    return unicodedata.category(character) not in ("Cc", "Cs")


def cut(text: str, most: int) -> str:
    """Its beginning, in whole characters that take so many bytes of UTF-8 at most."""
    return text.encode()[:most].decode(errors="ignore")
