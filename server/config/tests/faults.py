"""A disk that refuses: everything that is done to files below a folder is counted, and one of it fails."""

import builtins
import errno
import io
import os
import shutil
from collections.abc import Callable, Iterator
from contextlib import ExitStack, contextmanager
from pathlib import Path
from typing import Any
from unittest import mock

WRITING = set("wax+")
FULL = errno.ENOSPC


class Disk:
    """failing_at: the number of what fails, from 0; None: nothing does. done: what was done, in order."""

    def __init__(self, folder: Path, failing_at: int | None = None, number: int = FULL) -> None:
        self.folder, self.failing_at, self.number = str(folder), failing_at, number
        self.done: list[str] = []

    def meets(self, what: str, path: Any) -> None:
        place = len(self.done)
        self.done.append(f"{what} {Path(str(path)).name}")
        if place == self.failing_at:
            raise OSError(self.number, os.strerror(self.number), str(path))

    def is_ours(self, path: Any) -> bool:
        return isinstance(path, str | os.PathLike) and os.fspath(path).startswith(self.folder)

    @contextmanager
    def watched(self) -> Iterator["Disk"]:
        with ExitStack() as stack:
            for owner, name, made in (
                (builtins, "open", self._open),
                (io, "open", self._open),
                (os, "open", self._os_open),
                (os, "fsync", self._by_number),
                (os, "replace", self._of_paths),
                (os, "rename", self._of_paths),
                (os, "link", self._of_paths),
                (os, "mkdir", self._of_paths),
            ):
                real = getattr(owner, name)
                stack.enter_context(mock.patch.object(owner, name, made(real, name)))
            # Copied in a way that can be watched.
            stack.enter_context(mock.patch.object(shutil, "_USE_CP_SENDFILE", False))
            yield self

    def _open(self, real: Callable[..., Any], name: str) -> Callable[..., Any]:
        def opened(file: Any, mode: str = "r", *more: Any, **named: Any) -> Any:
            if not self.is_ours(file) or not WRITING & set(mode):
                return real(file, mode, *more, **named)
            self.meets("open", file)
            return Written(self, real(file, mode, *more, **named), file)

        return opened

    def _os_open(self, real: Callable[..., Any], name: str) -> Callable[..., Any]:
        def opened(path: Any, flags: int, *more: Any, **named: Any) -> int:
            if self.is_ours(path) and flags & (os.O_WRONLY | os.O_RDWR | os.O_CREAT):
                self.meets("os.open", path)
            return int(real(path, flags, *more, **named))

        return opened

    def _by_number(self, real: Callable[..., Any], name: str) -> Callable[..., Any]:
        def synced(descriptor: int) -> None:
            path = os.readlink(f"/proc/self/fd/{descriptor}")
            if self.is_ours(path):
                self.meets(name, path)
            real(descriptor)

        return synced

    def _of_paths(self, real: Callable[..., Any], name: str) -> Callable[..., Any]:
        def moved(*paths: Any, **named: Any) -> Any:
            if any(self.is_ours(p) for p in paths):
                self.meets(name, paths[-1] if name != "mkdir" else paths[0])
            return real(*paths, **named)

        return moved


class Written:
    """An open file each of whose writes may be what fails."""

    def __init__(self, disk: Disk, file: Any, path: Any) -> None:
        self._disk, self._file, self._path = disk, file, path

    def write(self, data: Any) -> Any:
        self._disk.meets("write", self._path)
        return self._file.write(data)

    def __getattr__(self, name: str) -> Any:
        return getattr(self._file, name)

    def __enter__(self) -> "Written":
        self._file.__enter__()
        return self

    def __exit__(self, *told: Any) -> Any:
        return self._file.__exit__(*told)

    def __iter__(self) -> Iterator[Any]:
        return iter(self._file)
