"""Do long work that others ask for, until told to stop."""

import socket
import warnings
from argparse import ArgumentParser

from django.core.management.base import BaseCommand

from config.queue import app

AT_ONCE = 2


class Command(BaseCommand):
    """manage.py worker --number N."""

    help = __doc__

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("--number", type=int, default=1)
        parser.add_argument("--at-once", type=int, default=AT_ONCE)

    def handle(self, *args: object, **options: object) -> None:
        # Threads, never forks: what numba's threads do after a fork is undefined.
        warnings.filterwarnings("ignore", message=".*superuser privileges.*")
        app.worker_main(
            [
                "--quiet",
                "worker",
                "--pool=threads",
                f"--concurrency={options['at_once']}",
                "--loglevel=WARNING",
                "--without-gossip",
                "--without-mingle",
                f"--hostname=worker-{options['number']}@{socket.gethostname()}",
            ]
        )
