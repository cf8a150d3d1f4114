"""Requests that are understood and refused, with what the person should know."""

import errno

from django.db import DatabaseError

# MariaDB's numbers: an error in writing a file, out of disk space, a file that cannot grow, a table that
# cannot, a temporary one.
DATABASE_FULL = (3, 1021, 1026, 1114, 1878, 1030)
UNFORESEEN = "Something went wrong; the server's log has the whole of it"
DISK_FULL = "The disk is full; nothing was lost, but this was not stored"


def one_line(error: object) -> str:
    """What is said of it, without line breaks."""
    return " ".join(str(error).split())


CLOSED = "The server's folder may not be written to; nothing was lost, but this was not stored"


def told_of_disk(error: BaseException) -> str | None:
    """What is said when the disk is at fault, also behind another error; None when it is not."""
    if error.__cause__ is not None and (told := told_of_disk(error.__cause__)):
        return told
    if is_disk_full(error):
        return DISK_FULL
    closed = (errno.EACCES, errno.EPERM, errno.EROFS)
    return CLOSED if isinstance(error, OSError) and error.errno in closed else None


def is_disk_full(error: BaseException) -> bool:
    """Ours, or the database's."""
    if isinstance(error, DatabaseError):
        return bool(error.args) and error.args[0] in DATABASE_FULL
    return isinstance(error, OSError) and error.errno in (errno.ENOSPC, errno.EDQUOT)


class Refused(Exception):
    """status: as HTTP counts; more: further fields of the answer."""

    def __init__(self, text: str, status: int, **more: object) -> None:
        super().__init__(text)
        self.status = status
        self.more = more


class Missing(Refused):
    """What is not there, or is somebody else's."""

    def __init__(self) -> None:
        super().__init__("There is nothing here, or it is not yours", 404)
