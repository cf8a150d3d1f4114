"""Serve the application: one process with threads, so that decoded photos are kept once."""

import signal
from argparse import ArgumentParser
from types import FrameType

from django.conf import settings
from django.core.management.base import BaseCommand

from accounts.demo import DEMO_NAME, DEMO_PASSWORD
from config.garbage import look_rarely
from config.serving import serve_figures, web_server
from config.sweeping import Sweeper, sweep_all, sweep_at_start
from tether.services.watch import Watcher


class Command(BaseCommand):
    """manage.py web --port N."""

    help = __doc__

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("--port", type=int, default=8642)

    def handle(self, *args: object, **options: object) -> None:
        if settings.BROKER:
            sweep_all()
        else:
            sweep_at_start()
        Sweeper().start()
        Watcher().start()
        serve_figures()
        server = web_server(int(str(options["port"])))
        signal.signal(signal.SIGTERM, _stop)
        self._say(options["port"])
        self.stdout.flush()
        look_rarely()
        try:
            server.run()
        except (SystemExit, KeyboardInterrupt):
            server.close()

    def _say(self, port: object) -> None:
        if settings.ROUTED:
            self.stdout.write(f"A web process listens on port {port}")
            return
        self.stdout.write(f"Nubilis is ready: http://{settings.BIND}:{port}/")
        if settings.DEMO:
            text = f"Demo account: {DEMO_NAME}, password {DEMO_PASSWORD} (or one click on the page)"
            self.stdout.write(text)
        self.stdout.write("Ctrl-C stops it.")


def _stop(number: int, frame: FrameType | None) -> None:
    raise SystemExit(0)
