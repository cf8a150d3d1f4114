"""Files that a shoot does not take: noted, so that the reason can be read later."""

from collections.abc import Iterator
from contextlib import contextmanager

from config.errors import Refused, one_line
from nubilis.errors import NubilisError
from nubilis.readable import made_readable
from shoots.models import Refusal, Shoot

MOST = 1000  # of one shoot


@contextmanager
def noting_refusals(shoot: Shoot, file_name: str) -> Iterator[None]:
    """What is raised within goes on; a file that is taken after all has no refusal any more."""
    file_name = made_readable(file_name)[-255:]
    try:
        yield
    except (NubilisError, Refused) as error:
        old = shoot.refusals.filter(file_name=file_name)
        old.delete()
        if shoot.refusals.count() < MOST:
            Refusal.objects.create(shoot=shoot, file_name=file_name, reason=one_line(error)[:500])
        raise
    shoot.refusals.filter(file_name=file_name).delete()
