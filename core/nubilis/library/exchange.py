"""Reference colours as open text: JSON with a format line, or CSV with CIELAB D50 values."""

import csv
import io
import json
from collections.abc import Iterable, Sequence
from itertools import islice
from typing import Annotated, Literal

from pydantic import Field, ValidationError

from nubilis.errors import LibraryError
from nubilis.library.reference import Reference
from nubilis.recipe.model import Model, first_fault

COLUMNS = ("name", "group", "L", "a", "b", "note")
MOST, MOST_CHARACTERS = 2000, 4_000_000


class Library(Model):
    """The JSON document, version 1."""

    format: Literal["nubilis-references"] = "nubilis-references"
    version: Literal[1] = 1
    references: Annotated[tuple[Reference, ...], Field(max_length=MOST)] = ()


def to_json(references: Iterable[Reference]) -> str:
    return Library(references=tuple(references)).model_dump_json(indent=1) + "\n"


def to_csv(references: Iterable[Reference]) -> str:
    """A header and a line each; CIELAB D50."""
    out = io.StringIO()
    table = csv.writer(out)
    table.writerow(COLUMNS)
    for one in references:
        table.writerow((cell(one.name), one.group, *one.lab, cell(one.note).strip()))
    return out.getvalue()


def cell(text: str) -> str:
    """Text as a table may hold it: a spreadsheet would take one that starts so for a formula."""
    return f"'{text}" if text.startswith(("=", "+", "-", "@")) else text


def read_references(text: str) -> list[Reference]:
    """JSON or CSV, told apart by their first character. Raises LibraryError, with the line of a fault."""
    if len(text) > MOST_CHARACTERS:
        raise LibraryError("the file is far longer than any library of colours")
    text = text.removeprefix("\N{ZERO WIDTH NO-BREAK SPACE}").strip()
    if not text:
        raise LibraryError("the file is empty")
    return _from_json(text) if text[0] in "{[" else _from_csv(text)


def _from_json(text: str) -> list[Reference]:
    try:
        document = json.loads(text)
    except (ValueError, RecursionError) as error:
        raise LibraryError("the file is not valid JSON") from error
    if not isinstance(document, dict) or document.get("format") != "nubilis-references":
        raise LibraryError("this is not a file of Nubilis references")
    try:
        return list(Library.model_validate(document).references)
    except ValidationError as error:
        place, text = first_fault(error)
        raise LibraryError(f"the file is not valid at {place}: {text}") from error


def _from_csv(text: str) -> list[Reference]:
    rows = csv.reader(io.StringIO(text))
    try:
        header = [h.strip() for h in next(rows)]
        missing = [c for c in COLUMNS[:-1] if c not in header]
        if missing:
            raise LibraryError(f"the table has no column {missing[0]}")
        said = (row for row in rows if any(v.strip() for v in row))
        found = [_row(header, row, rows.line_num) for row in islice(said, MOST)]
        if next(said, None) is not None:
            raise LibraryError(f"the table has more than {MOST} colours")
    except csv.Error as error:
        raise LibraryError(f"line {rows.line_num}: {error}") from error
    return found


def _row(header: Sequence[str], row: Sequence[str], line: int) -> Reference:
    if len(row) < len(header) - ("note" in header):
        raise LibraryError(f"line {line}: {len(row)} values, not {len(header)}")
    values = dict(zip(header, (v.strip() for v in row), strict=False))
    name, note = (
        v[1:] if v[:1] == "'" and v[1:2] in ("=", "+", "-", "@") else v
        for v in (values["name"], values.get("note", ""))
    )
    lab = values["L"], values["a"], values["b"]
    try:
        return Reference.model_validate(
            {"name": name, "group": values["group"], "lab": lab, "note": note}
        )
    except ValidationError as error:
        place, text = first_fault(error)
        raise LibraryError(f"line {line}: {place}: {text}") from error
