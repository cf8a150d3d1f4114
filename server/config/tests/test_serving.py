"""The web server's border: bodies are refused before they are read, silent connections end."""

import contextlib
import json
import shutil
import socket
import threading
import time
from unittest import mock

from django.conf import settings
from django.test import Client, TransactionTestCase, override_settings

from accounts.models import User
from accounts.sessions import SessionStore
from config import serving
from config.tests.cases import glowing_wall, own_storage, png_bytes, recipe_document
from config.turns import turns
from nubilis.engine.engine import Engine
from nubilis.wanted import check_wanted
from shoots.models import Shoot
from shoots.services.add_photo import add_photo


class Border(TransactionTestCase):
    def setUp(self) -> None:
        self.server = serving.web_server(0)
        self.thread = threading.Thread(target=self._run)
        self.thread.start()
        self.addCleanup(self._stop)
        self.port = self.server.socket.getsockname()[1]

    def _run(self) -> None:
        with contextlib.suppress(OSError):  # closed under it
            self.server.run()

    def _stop(self) -> None:
        self.server.close()
        self.server.task_dispatcher.shutdown()
        self.thread.join(10.0)

    def opened(self) -> socket.socket:
        one = socket.create_connection(("127.0.0.1", self.port), timeout=60.0)
        self.addCleanup(one.close)
        return one

    def answer(self, head: str, body: bytes = b"") -> bytes:
        one = self.opened()
        one.sendall(head.replace("\n", "\r\n").encode() + b"\r\n\r\n")
        if body:
            with contextlib.suppress(BrokenPipeError, ConnectionResetError):
                one.sendall(body)
        found = b""
        try:
            while chunk := one.recv(65536):
                found += chunk
        except ConnectionResetError:
            pass
        return found

    def test_a_photo_of_a_stranger_is_refused_before_it_is_sent(self) -> None:
        size = 300 * 2**20
        head = f"POST /api/shoots/1/photos HTTP/1.1\nHost: localhost\nContent-Length: {size}"
        self.assertIn(b" 401 ", self.answer(head).split(b"\r\n")[0])
        made_up = f"{head}\nCookie: sessionid=abcdefghijklmnopqrstuvwxyz123456"
        self.assertIn(b" 401 ", self.answer(made_up).split(b"\r\n")[0])

    def test_whose_it_is_is_known_without_the_database(self) -> None:
        """It would freeze every connection while the database stalls."""
        store = SessionStore()
        store.create()
        key = str(store.session_key)
        name = settings.SESSION_COOKIE_NAME
        with self.assertNumQueries(0):
            self.assertTrue(serving._is_known(f"a=b; {name}={key}"))
            other = key[:-1] + ("0" if key[-1] != "0" else "1")
            for made_up in (other, key[1:] + "a", key[:20], "", "a" * 40):
                self.assertFalse(serving._is_known(f"{name}={made_up}"), made_up)

    def test_what_is_no_file_is_small(self) -> None:
        size = serving.SMALL + 1
        for path in ("/api/session", "/api/photos/1/recipe", "/api/photos/1/picture", "/"):
            head = f"POST {path} HTTP/1.1\nHost: localhost\nContent-Length: {size}"
            self.assertIn(b" 413 ", self.answer(head).split(b"\r\n")[0], path)

    def test_a_body_in_pieces_that_goes_on_and_on_ends(self) -> None:
        head = "POST /api/session HTTP/1.1\nHost: localhost\nTransfer-Encoding: chunked"
        piece = b"100000\r\n" + bytes(2**20) + b"\r\n"
        told = self.answer(head, piece * 8)
        self.assertTrue(not told or b" 413 " in told.split(b"\r\n")[0], told[:100])

    def test_who_is_signed_in_sends_photos(self) -> None:
        person = User.objects.create_user("ida", password="hand and rod")
        shoot = Shoot.objects.create(owner=person, name="Rehearsal")
        store = SessionStore()
        store["_auth_user_id"] = str(person.id)
        store.create()
        size = 200 * 2**20
        head = (
            f"POST /api/shoots/{shoot.id}/photos HTTP/1.1\nHost: localhost\nContent-Length: {size}\n"
            f"Cookie: {settings.SESSION_COOKIE_NAME}={store.session_key}"
        )
        one = self.opened()
        one.sendall(head.replace("\n", "\r\n").encode() + b"\r\n\r\n")
        one.sendall(png_bytes(glowing_wall()))
        one.settimeout(1.0)
        with self.assertRaises(TimeoutError):  # it waits for the rest
            one.recv(1)

    def test_what_nobody_waits_for_any_more_is_not_computed_to_its_end(self) -> None:
        self.enterContext(own_storage())
        self.addCleanup(shutil.rmtree, settings.ORIGINALS.parent, ignore_errors=True)
        person = User.objects.create_user("ida", password="hand and rod")
        shoot = Shoot.objects.create(owner=person, name="Rehearsal")
        path = settings.ORIGINALS.parent / "wall.png"
        path.write_bytes(png_bytes(glowing_wall()))
        photo, _ = add_photo(shoot, path, path.name)
        client = Client()
        client.force_login(person)
        body = json.dumps({"recipe": recipe_document(), "size": [60, 40], "region": [0, 0, 60, 40]})
        head = (
            f"POST /api/photos/{photo.id}/picture HTTP/1.1\nHost: localhost\n"
            f"Content-Type: application/json\nContent-Length: {len(body)}\nX-CSRFToken: {'a' * 32}\n"
            f"Cookie: csrftoken={'a' * 32}; "
            f"{settings.SESSION_COOKIE_NAME}={client.cookies[settings.SESSION_COOKIE_NAME].value}"
        )
        began = threading.Event()

        def endless(*_: object, **__: object) -> None:
            began.set()
            while True:
                check_wanted()
                time.sleep(0.01)

        gone, done = turns.gone, turns.done
        with mock.patch.object(Engine, "render", endless):
            one = self.opened()
            one.sendall(head.replace("\n", "\r\n").encode() + b"\r\n\r\n" + body.encode())
            self.assertTrue(began.wait(300.0))
            self.assertEqual(turns.done, done)
            one.close()
            given_up = time.monotonic() + 300.0
            while turns.done == done:
                self.assertLess(time.monotonic(), given_up)
                time.sleep(0.02)
        self.assertEqual(turns.gone, gone + 1)

    def test_many_silent_connections_lock_nobody_out(self) -> None:
        silent = [self.opened() for _ in range(300)]
        for one in silent:
            one.sendall(b"GET / HTTP/1.1\r\nHost: local")
        told = self.answer("GET /health/live HTTP/1.1\nHost: localhost\nConnection: close")
        self.assertIn(b" 200 ", told.split(b"\r\n")[0])

    @override_settings()
    def test_who_says_nothing_is_hung_up_on(self) -> None:
        self.server.adj.channel_timeout = 1
        self.server.adj.cleanup_interval = 1
        one = self.opened()
        one.sendall(b"GET / HTTP/1.1\r\n")
        ends = time.monotonic() + 120.0
        one.settimeout(1.0)
        while True:
            self.assertLess(time.monotonic(), ends)
            # What else happens on the server lets it look around.
            self.answer("GET /health/live HTTP/1.1\nHost: localhost\nConnection: close")
            try:
                if one.recv(1) == b"":
                    break
            except TimeoutError:
                continue
            except ConnectionResetError:
                break
