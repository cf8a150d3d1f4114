"""Two web processes behind the router and two workers are as one process, to the bit."""

import hashlib
import json
from collections.abc import Callable
from typing import Any

from accounts.models import User
from config.tests.cases import glowing_wall, png_bytes, recipe_document
from core.tests.effort import long_tier
from launch.database import free_port, port_is_free
from launch.router import Router, nginx_ready
from launch.services import WebServer
from shoots.models import Shoot

from .client import Client
from .farm import Farm


@long_tier
class Routed(Farm):
    def setUp(self) -> None:
        super().setUp()
        nginx_ready()
        self.alone = self.web()
        self.two = [self.web(NUBILIS_PUBLIC_PORT="1") for _ in range(2)]
        self.router = Router(free_port(), [w.port for w in self.two], self.folder / "nginx")
        self.router.start()
        self.addCleanup(self.router.stop)
        self.until(lambda: not port_is_free(self.router.port))

    def web(self, **env: str) -> WebServer:
        web = WebServer(free_port(), self.env | env)
        web.start()
        self.addCleanup(web.stop)
        self.until(lambda: not port_is_free(web.port))
        return web

    def signed_in(self, port: int) -> Client:
        client = Client(port)
        client.sign_in()
        return client

    def work(self, client: Client, shoot: Shoot) -> dict[str, str]:
        """All that one does with a photo; SHA-256 of what came of it."""
        photo = client.upload(shoot.id, png_bytes(glowing_wall(200, 300)), "wall.png")
        found: dict[str, Any] = {}
        for i, amount in enumerate((0.4, 0.9, 1.2)):
            body = {"revision": i, "recipe": recipe_document(amount)}
            client.send(f"/photos/{photo}/recipe", body, "PUT")
            view = {
                "recipe": recipe_document(amount),
                "size": [300, 200],
                "region": [0, 0, 300, 200],
            }
            found[f"view {i}"] = client.fetch(
                "POST", f"/photos/{photo}/picture", json.dumps(view).encode()
            )
        found["proof"] = client.fetch(
            "POST", f"/photos/{photo}/proof", json.dumps({"recipe": recipe_document(1.2)}).encode()
        )
        body = {"revision": 3, "order": {"file_format": "png16", "masks": "png16"}}
        job = client.send(f"/photos/{photo}/deliveries", body)
        self.until(self.over(client, job["id"]))
        told = client.ask("GET", f"/jobs/{job['id']}")
        self.assertEqual(told["state"], "done", told)
        found["delivery"] = client.fetch("GET", f"/deliveries/{told['delivery']}")
        look = client.send(f"/shoots/{shoot.id}/look", {})
        self.until(self.over(client, look["id"]))
        seen = client.ask("GET", f"/photos/{photo}/look")
        found["findings"] = json.dumps(seen, sort_keys=True).encode()
        return {name: hashlib.sha256(data).hexdigest() for name, data in found.items()}

    def over(self, client: Client, job: str) -> Callable[[], bool]:
        return lambda: bool(client.ask("GET", f"/jobs/{job}")["over"])

    def test_the_same_photo_through_both_is_the_same_as_through_one(self) -> None:
        self.worker()
        self.worker()
        one = self.work(self.signed_in(self.alone.port), self.shoot)
        other = Shoot.objects.create(owner=self.person, name="Again")
        routed = self.work(self.signed_in(self.router.port), other)
        self.assertEqual(one, routed)
        # And straight through each of the two, in turn.
        both = Shoot.objects.create(owner=self.person, name="In turn")
        first, second = (self.signed_in(w.port) for w in self.two)
        turns = Turns(first, second)
        self.assertEqual(self.work(turns, both), one)

    def test_one_of_them_killed_is_hardly_noticed(self) -> None:
        client = self.signed_in(self.router.port)
        photo = client.upload(self.shoot.id, png_bytes(glowing_wall()), "wall.png")
        gone = self.two[0]
        assert gone.process is not None
        gone.process.kill()
        gone.process.wait()
        for path in ("/shoots", f"/photos/{photo}", f"/shoots/{self.shoot.id}"):
            self.assertTrue(client.ask("GET", path))
        body = {"revision": 0, "recipe": recipe_document()}
        self.assertEqual(client.send(f"/photos/{photo}/recipe", body, "PUT")["revision"], 1)
        self.assertEqual(User.objects.count(), 1)


class Turns(Client):
    """Every request through the other of two."""

    def __init__(self, *clients: Client) -> None:
        self._clients = list(clients)

    def fetch(
        self, method: str, path: str, body: bytes = b"", kind: str = "application/json"
    ) -> bytes:
        self._clients.reverse()
        return self._clients[0].fetch(method, path, body, kind)
