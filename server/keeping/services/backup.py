"""Everything that people have made, in one file; and back onto an empty machine.

A zip: manifest.json, rows/TABLE.jsonl, and files/KIND/SHA256, which never change: a further backup into the
same file takes only those that are new. The rows are those of one moment, whatever goes on meanwhile.
"""

import hashlib
import io
import json
import shutil
from collections.abc import Callable, Iterator
from functools import partial
from pathlib import Path
from typing import Any, BinaryIO
from uuid import uuid4
from zipfile import ZIP_DEFLATED, ZIP_STORED, BadZipFile, ZipFile, ZipInfo

from django.db import connection, transaction
from django.utils import timezone

from accounts.models import User
from config.errors import Refused
from keeping.services import rows
from nubilis.whole import take_place
from shoots import files
from shoots.models import Stored
from shoots.store import stored_name

FORMAT, VERSION = "nubilis-backup", 1
MANIFEST = "manifest.json"
CHUNK = 2**20
TIMES = 5  # that a moment is looked for in which no file goes
Tell = Callable[[str], None]


def backup(file: Path, tell: Tell = lambda _: None) -> dict[str, Any]:
    """Write or bring up to date; the manifest. The file is whole or as it was; files that are missing in the
    store are named in it, and left out. Raises Refused, OSError."""
    part = file.with_name(f".{file.name}.{uuid4().hex}.part")
    try:
        known = _begin(file, part)
        for left in range(TIMES - 1, -1, -1):
            try:
                # What is missing may have been removed for good since the rows were read.
                manifest = _written(part, known, tell, goes_on=not left)
                break
            except FileNotFoundError:
                continue
        _check(part, manifest)
        take_place(part, file)
        return manifest
    finally:
        part.unlink(missing_ok=True)


def _begin(file: Path, part: Path) -> set[str]:
    """Names of files that an earlier backup has, which is copied to go on with."""
    part.touch(mode=0o600)
    if not file.exists():
        return set()
    try:
        with ZipFile(file) as packed:
            _manifest_of(packed)
    except (BadZipFile, KeyError, ValueError) as error:
        raise Refused(f"{file.name} is there and is no backup; choose another name", 409) from error
    shutil.copyfile(file, part)
    return _kept_names(part)


def _kept_names(part: Path) -> set[str]:
    with ZipFile(part) as packed:
        return {n for n in packed.namelist() if n.startswith("files/")}


def _written(part: Path, known: set[str], tell: Tell, *, goes_on: bool) -> dict[str, Any]:
    """goes_on: also when a file is missing. Raises FileNotFoundError."""
    said: dict[str, Any] = {
        "format": FORMAT,
        "version": VERSION,
        "made": timezone.now().isoformat(timespec="seconds"),
        "tables": {},
        "files": {},
        "missing": [],
    }
    moment: dict[str, bytes] = {}
    with _one_moment():
        said["migrations"] = rows.migrations()
        for table in rows.tables():
            data = "\n".join(rows.dumped(table)).encode()
            moment[f"rows/{table}.jsonl"] = data
            said["tables"][table] = hashlib.sha256(data).hexdigest()
        there = list(Stored.objects.filter(there=True).order_by("kind", "sha256"))
        wanted = [(s.kind, s.sha256, s.size_bytes) for s in there if s.uses.exists()]
    _without_rows(part)
    with ZipFile(part, "a", allowZip64=True) as packed:
        for number, (kind, sha256, size) in enumerate(wanted, 1):
            name = f"files/{kind}/{sha256}"
            if name not in known:
                try:
                    with (
                        files.reading(stored_name(kind, sha256)) as path,
                        path.open("rb") as source,
                    ):
                        _pack_file(packed, name, source, sha256)
                except FileNotFoundError:
                    if not goes_on:
                        raise
                    said["missing"].append(name)
                    continue
                known.add(name)
            said["files"][name] = size
            if number % 100 == 0:
                tell(f"{number} of {len(wanted)} files")
        for name, data in moment.items():
            packed.writestr(name, data, ZIP_DEFLATED)
        packed.writestr(MANIFEST, json.dumps(said, indent=1), ZIP_DEFLATED)
    return said


class _one_moment:
    """A transaction that sees the database as it was when it began."""

    def __enter__(self) -> None:
        connection.close()
        with connection.cursor() as cursor:
            cursor.execute("SET SESSION TRANSACTION ISOLATION LEVEL REPEATABLE READ")
            cursor.execute("START TRANSACTION WITH CONSISTENT SNAPSHOT, READ ONLY")

    def __exit__(self, *_: object) -> None:
        with connection.cursor() as cursor:
            cursor.execute("ROLLBACK")
        connection.close()


def _without_rows(part: Path) -> None:
    """Files stay where they are; what is said anew is left out of the directory at the end."""
    if not part.stat().st_size:
        return
    with ZipFile(part, "a") as packed:
        kept = [info for info in packed.filelist if info.filename.startswith("files/")]
        if len(kept) == len(packed.filelist):
            return
        end = max((_end_of(packed, info) for info in kept), default=0)
        packed.filelist[:] = kept
        packed.NameToInfo = {info.filename: info for info in kept}
        packed.start_dir = end
        packed._didModify = True  # type: ignore[attr-defined]


def _end_of(packed: ZipFile, info: ZipInfo) -> int:
    """Where a member's data end: after its own header, whose length stands in it (APPNOTE 6.3.10, 4.3.7)."""
    source = packed.fp
    assert source is not None
    source.seek(info.header_offset + 26)
    lengths = source.read(4)
    name, extra = int.from_bytes(lengths[:2], "little"), int.from_bytes(lengths[2:], "little")
    end = info.header_offset + 30 + name + extra + info.compress_size
    return end + 24 if info.flag_bits & 0x08 else end  # sizes that were told afterwards


def _pack_file(packed: ZipFile, name: str, source: BinaryIO, sha256: str) -> None:
    """Raises Refused when it is not what its name says any more."""
    digest = hashlib.sha256()
    info = ZipInfo(name)
    info.compress_type = ZIP_STORED
    with packed.open(info, "w", force_zip64=True) as out:
        while chunk := source.read(CHUNK):
            digest.update(chunk)
            out.write(chunk)
    if digest.hexdigest() != sha256:
        raise Refused(
            f"a stored file is damaged: {sha256[:12]}; ./nubilis doctor says whose it is", 409
        )


def _manifest_of(packed: ZipFile) -> dict[str, Any]:
    """Raises KeyError, ValueError."""
    said = json.loads(packed.read(MANIFEST))
    if not isinstance(said, dict) or said.get("format") != FORMAT or said.get("version") != VERSION:
        raise ValueError("no backup of this kind")
    return said


def _check(file: Path, manifest: dict[str, Any]) -> None:
    """Read all of it once more. Raises Refused."""
    with ZipFile(file) as packed:
        for table, sha256 in manifest["tables"].items():
            if hashlib.sha256(packed.read(f"rows/{table}.jsonl")).hexdigest() != sha256:
                raise Refused(f"the backup is damaged at {table}", 422)
        for name in manifest["files"]:
            digest = hashlib.sha256()
            for chunk in _chunks(packed, name):
                digest.update(chunk)
            if digest.hexdigest() != name.rpartition("/")[2]:
                raise Refused(f"the backup is damaged at {name}", 422)


def _chunks(packed: ZipFile, name: str) -> Iterator[bytes]:
    with packed.open(name) as source:
        while chunk := source.read(CHUNK):
            yield chunk


def restore(file: Path, tell: Tell = lambda _: None) -> dict[str, Any]:
    """Onto a machine on which nobody has anything yet. Raises Refused; then nothing is changed but files that
    nobody sees."""
    if User.objects.exists():
        raise Refused("There are accounts here already; restoring needs an empty machine", 409)
    try:
        with ZipFile(file) as packed:
            manifest = _manifest_of(packed)
            _same_version(manifest)
            tell("Checking")
            _check(file, manifest)
            for name in manifest["files"]:
                kind, sha256 = name.split("/")[1:]
                files.put(stored_name(kind, sha256), partial(_unpack, packed, name))
            _load(packed, manifest)
    except (BadZipFile, KeyError, ValueError, EOFError) as error:
        raise Refused(f"{file.name} is no backup, or damaged", 422) from error
    return manifest


def _same_version(manifest: dict[str, Any]) -> None:
    if manifest["migrations"] != rows.migrations():
        raise Refused(
            "the backup is of another version of Nubilis; restore it with that one, then upgrade",
            409,
        )


def _unpack(packed: ZipFile, name: str, to: Path) -> None:
    with to.open("wb") as out:
        for chunk in _chunks(packed, name):
            out.write(chunk)


def _load(packed: ZipFile, manifest: dict[str, Any]) -> None:
    """All rows or none."""
    with transaction.atomic(), connection.cursor() as cursor:
        cursor.execute("SET foreign_key_checks = 0")
        try:
            for table in manifest["tables"]:
                cursor.execute(f"DELETE FROM `{table}`")  # what setting up made
                data = packed.read(f"rows/{table}.jsonl").decode()
                rows.loaded(table, io.StringIO(data))
        finally:
            cursor.execute("SET foreign_key_checks = 1")
