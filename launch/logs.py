"""Logs of the programs that write their own: a full one is put aside, as our own processes do with theirs."""

from pathlib import Path

BYTES, KEPT = 5 * 2**20, 5  # of one file, and of those before it


def turned_over(log: Path) -> bool:
    """Whether it was full; it is the newest of those before it now, and the program must begin another."""
    if not log.is_file() or log.stat().st_size < BYTES:
        return False
    for number in range(KEPT - 1, 0, -1):
        older = _before(log, number)
        if older.is_file():
            older.replace(_before(log, number + 1))
    log.replace(_before(log, 1))
    return True


def _before(log: Path, number: int) -> Path:
    return log.with_name(f"{log.name}.{number}")
