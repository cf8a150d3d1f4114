"""Logs that others write are turned over while they run."""

import contextlib
import io
import socket
import tempfile
import time
import unittest
from pathlib import Path
from unittest import mock

from launch import common, logs
from launch.database import Database, free_port, port_is_free
from launch.logs import KEPT, turned_over
from launch.router import Router, nginx_ready
from launch.services import Broker
from launch.supervise import Service, Watched


class TurnedOver(unittest.TestCase):
    def setUp(self) -> None:
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory(dir=common.VAR)))

    def test_a_full_one_is_put_aside_and_the_oldest_goes(self) -> None:
        log = self.folder / "some.log"
        self.assertFalse(turned_over(log))
        with mock.patch.object(logs, "BYTES", 3):
            for number in range(KEPT + 3):
                log.write_text("no")
                self.assertFalse(turned_over(log))
                log.write_text(f"log {number}")
                self.assertTrue(turned_over(log))
        self.assertFalse(log.exists())
        kept = sorted(self.folder.iterdir())
        self.assertEqual([p.name for p in kept], [f"some.log.{i + 1}" for i in range(KEPT)])
        self.assertEqual(
            [p.read_text() for p in kept], [f"log {KEPT + 2 - i}" for i in range(KEPT)]
        )

    def goes_on_in_another(self, service: Service) -> None:
        with contextlib.redirect_stderr(io.StringIO()):
            service.start()
        self.addCleanup(service.stop)
        assert service.log is not None
        watched = Watched(service, 1.0)
        watched.turn_log_over()
        before = service.log.read_bytes()
        with mock.patch.object(logs, "BYTES", 1):
            watched.turn_log_over()
        service.stop()
        aside = service.log.with_name(service.log.name + ".1")
        self.assertEqual(aside.read_bytes()[: len(before)], before)
        self.assertIn(b"hutdown", service.log.read_bytes())
        self.assertNotIn(b"hutdown", aside.read_bytes())

    def test_the_database_goes_on_in_another(self) -> None:
        database = Database(self.folder.name, free_port())
        database.log = self.folder / "database.log"
        self.goes_on_in_another(database)

    def test_the_broker_goes_on_in_another(self) -> None:
        broker = Broker(free_port(), self.folder / "redis")
        broker.log = self.folder / "broker.log"
        self.goes_on_in_another(broker)

    def test_the_router_goes_on_in_another(self) -> None:
        nginx_ready()
        behind = self.enterContext(socket.create_server(("127.0.0.1", 0)))
        router = Router(free_port(), [behind.getsockname()[1]], self.folder / "nginx")
        router.log = self.folder / "nginx.log"
        with contextlib.redirect_stdout(io.StringIO()):
            router.start()
        self.addCleanup(router.stop)
        while port_is_free(router.port):
            time.sleep(0.02)
        router.log.write_text("no upstream")
        with mock.patch.object(logs, "BYTES", 1):
            Watched(router, 1.0).turn_log_over()
        while not router.log.exists():
            time.sleep(0.02)
