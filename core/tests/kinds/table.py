"""What the files of this folder are, and the part of the documentation that is made from them."""

import json
from dataclasses import dataclass
from itertools import groupby
from pathlib import Path

HERE = Path(__file__).parent
TABLE = HERE / "table.json"
FROM, TO = "<!-- kinds: made by core/tests/kinds/make.py -->\n", "<!-- /kinds -->\n"


@dataclass(frozen=True)
class Kind:
    """file: its name; group: the format; what: in words; by: who made the picture that is expected of it,
    which is beside it as a PNG in sRGB, "" where the file is refused; within: codes of 8 bits that may
    differ; bits, profile, alpha: of the photo; refusal: words of the line that it is refused with."""

    file: str
    group: str
    what: str
    by: str = ""
    within: int = 1
    bits: int = 8
    profile: str = "sRGB"
    alpha: bool = False
    refusal: str = ""

    @property
    def path(self) -> Path:
        return HERE / self.file

    @property
    def expected(self) -> Path:
        return HERE / f"{self.file}.expected.png"


def kinds() -> list[Kind]:
    return [Kind(**row) for row in json.loads(TABLE.read_text())]


def described(found: list[Kind]) -> str:
    """The table for docs/photos.md."""
    lines = ["| | read | refused |", "|---|---|---|"]
    for group, members in groupby(found, key=lambda k: k.group):
        own = list(members)
        read = "; ".join(k.what for k in own if not k.refusal)
        refused = "; ".join(f"{k.what} (“{k.refusal}”)" for k in own if k.refusal)
        lines.append(f"| {group} | {read} | {refused} |")
    return "\n".join(lines) + "\n"
