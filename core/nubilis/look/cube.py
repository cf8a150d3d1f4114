"""Tables of colours in the open text format .cube: read, checked, written.

Lines of keyword and values, then one line of three numbers for each entry; in three dimensions red runs
fastest. Comments begin with #. Source: "Cube LUT Specification 1.0" (2013).
"""

import math
from dataclasses import dataclass
from itertools import chain
from typing import Literal

import numpy as np

from nubilis.arrays import Floats
from nubilis.errors import TableError

MOST_3D, MOST_1D = 65, 65536
MOST_BYTES = 30 * 2**20
MOST_LINES, LONGEST_LINE = 400_000, 1000  # the largest table has 274,625
_ENDS = b"\n\r\x0b\x0c\x1c\x1d\x1e"  # of lines
LARGEST = 1e4  # of any number
Dimensions = Literal[1, 3]
_SIZES: dict[str, Dimensions] = {"LUT_1D_SIZE": 1, "LUT_3D_SIZE": 3}
_IGNORED = ("LUT_1D_INPUT_RANGE", "LUT_3D_INPUT_RANGE")


@dataclass(frozen=True, eq=False)
class Cube:
    """entries: float32 (n, 3), or (n, n, n, 3) over blue, green and red; low, high: its domain."""

    title: str
    dimensions: Dimensions
    entries: Floats
    low: tuple[float, float, float] = (0.0, 0.0, 0.0)
    high: tuple[float, float, float] = (1.0, 1.0, 1.0)

    @property
    def size(self) -> int:
        return int(self.entries.shape[0])


def identity(size: int) -> Floats:
    """(size, size, size, 3): every entry its own place."""
    steps = np.linspace(0.0, 1.0, size, dtype=np.float32)
    blue, green, red = np.meshgrid(steps, steps, steps, indexing="ij")
    return np.stack([red, green, blue], axis=-1)


def read_cube(data: bytes) -> Cube:
    """Raises TableError with one line that names the first fault."""
    if len(data) > MOST_BYTES:
        raise TableError(f"a table of more than {MOST_BYTES // 2**20} MB is not read")
    lines = _split(data)
    said = _lines(lines)
    head, first = _head(said, len(lines))
    dimensions, size = head.size
    wanted = size**dimensions
    rows = [(i, text) for i, text in said if i >= first]
    if len(rows) != wanted:
        raise TableError(f"the table has {len(rows)} entries; its size {size} asks for {wanted}")
    entries = _numbers(rows)
    shape = (size, 3) if dimensions == 1 else (size, size, size, 3)
    return Cube(head.title, dimensions, entries.reshape(shape), head.low, head.high)


def _split(data: bytes) -> list[str]:
    """Its lines, when they are as many and as long as those of a table may be."""
    too_many = TableError(f"this is not a .cube table: it has more than {MOST_LINES} lines")
    if sum(data.count(end) for end in _ENDS) > 2 * MOST_LINES:  # some end them in two
        raise too_many
    try:
        lines = data.decode("utf-8-sig").splitlines()
    except UnicodeDecodeError as error:
        raise TableError("this is not a .cube table: it is not text") from error
    if len(lines) > MOST_LINES:
        raise too_many
    for i, line in enumerate(lines):
        if len(line) > LONGEST_LINE:
            raise TableError(f"line {i + 1}: longer than any line of a .cube table")
    return lines


def write_cube(cube: Cube) -> bytes:
    """read_cube gives the same back, to six decimals."""
    keyword = next(k for k, d in _SIZES.items() if d == cube.dimensions)
    lines = [f'TITLE "{cube.title}"', f"{keyword} {cube.size}"]
    for name, values in (("DOMAIN_MIN", cube.low), ("DOMAIN_MAX", cube.high)):
        lines.append(f"{name} " + " ".join(f"{v:g}" for v in values))
    rows = (f"{r:.6f} {g:.6f} {b:.6f}" for r, g, b in cube.entries.reshape(-1, 3).tolist())
    return ("\n".join([*lines, *rows]) + "\n").encode()


@dataclass
class _Head:
    title: str = ""
    said: tuple[Dimensions, int] | None = None
    low: tuple[float, float, float] = (0.0, 0.0, 0.0)
    high: tuple[float, float, float] = (1.0, 1.0, 1.0)

    @property
    def size(self) -> tuple[Dimensions, int]:
        if self.said is None:
            raise TableError("this is not a .cube table: it has no size")
        return self.said


def _lines(lines: list[str]) -> list[tuple[int, str]]:
    """Those that say something, with their places, from 0."""
    return [
        (i, t) for i, t in ((i, line.strip()) for i, line in enumerate(lines)) if t and t[0] != "#"
    ]


def _head(said: list[tuple[int, str]], lines: int) -> tuple[_Head, int]:
    """What stands before the entries, and the line of the first one."""
    head, first = _Head(), lines
    for i, text in said:
        if text[0] in "+-.0123456789":
            first = i
            break
        _take(head, i, text)
    _check_domain(head)
    return head, first


def _take(head: _Head, i: int, text: str) -> None:
    """One line of the head."""
    keyword, _, rest = text.partition(" ")
    if keyword == "TITLE":
        head.title = rest.strip().strip('"')[:120]
    elif keyword in _SIZES:
        if head.said is not None:
            raise TableError("this is not a .cube table: it has more than one size")
        head.said = _SIZES[keyword], _size(i, _SIZES[keyword], rest)
    elif keyword in ("DOMAIN_MIN", "DOMAIN_MAX"):
        low, high, third = _three(i, rest)
        setattr(head, "low" if keyword == "DOMAIN_MIN" else "high", (low, high, third))
    elif keyword in _IGNORED:
        values = rest.split()
        if len(values) != 2:
            raise TableError(f"line {i + 1}: {keyword} takes two numbers")
        low, high, _ = _three(i, f"{rest} 0")
        head.low, head.high = (low,) * 3, (high,) * 3
    else:
        raise TableError(f"line {i + 1}: {keyword[:40]!r} is no word of a .cube table")


def _size(i: int, dimensions: Dimensions, text: str) -> int:
    most = MOST_1D if dimensions == 1 else MOST_3D
    number = text.strip()
    if not number.isdecimal() or not 2 <= int(number[:9]) <= most:
        raise TableError(f"line {i + 1}: the size lies between 2 and {most}")
    return int(number)


def _three(i: int, text: str) -> tuple[float, float, float]:
    try:
        one, two, three = (float(v) for v in text.split())
    except ValueError as error:
        raise TableError(f"line {i + 1}: three numbers belong here") from error
    if not all(math.isfinite(v) and abs(v) <= LARGEST for v in (one, two, three)):
        raise TableError(f"line {i + 1}: a number is not finite, or far too large")
    return one, two, three


def _check_domain(head: _Head) -> None:
    if any(h - l < 1e-6 for l, h in zip(head.low, head.high, strict=True)):
        raise TableError("the domain ends before it begins")


def _numbers(rows: list[tuple[int, str]]) -> Floats:
    """All entries at once; one by one only to name the line that is wrong."""
    fields = [text.split() for _, text in rows]
    if all(len(f) == 3 for f in fields):
        try:
            numbers = map(float, chain.from_iterable(fields))
            entries = np.fromiter(numbers, np.float64, 3 * len(fields)).reshape(-1, 3)
            if np.isfinite(entries).all() and np.abs(entries).max() <= LARGEST:
                return entries.astype(np.float32)
        except ValueError:
            pass
    return np.array([_three(i, text) for i, text in rows], dtype=np.float32)
