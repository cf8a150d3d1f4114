"""TLS front, nginx, two web processes: where a request comes from is known, whatever people claim."""

import http.client
import json
import os
import ssl
import subprocess
from typing import Any

from accounts.models import SignedIn, User
from accounts.services import throttle
from core.tests.effort import long_tier
from launch.database import free_port, port_is_free
from launch.router import Router, nginx_program, nginx_ready
from launch.services import Started, WebServer
from shoots.models import Shoot

from .farm import Farm

FRONT = """\
{user}daemon off;
pid {folder}/front.pid;
worker_processes 1;
events {{ }}
http {{
    access_log off;
    client_body_temp_path {folder}/front-body;
    proxy_temp_path {folder}/front-proxy;
    fastcgi_temp_path {folder}/front-fastcgi;
    uwsgi_temp_path {folder}/front-uwsgi;
    scgi_temp_path {folder}/front-scgi;
    server {{
        listen 127.0.0.1:{port} ssl;
        ssl_certificate {folder}/front.crt;
        ssl_certificate_key {folder}/front.key;
        location / {{
            proxy_pass http://127.0.0.1:{behind};
            proxy_set_header Host $http_host;
            proxy_set_header X-Forwarded-For $proxy_add_x_forwarded_for;
            proxy_set_header X-Forwarded-Proto $scheme;
        }}
    }}
}}
"""
SELF_SIGNED = ("-x509", "-newkey", "rsa:2048", "-nodes", "-days", "2", "-subj", "/CN=localhost")
# Addresses of this machine that are not the front's.
HERE, THERE = "127.0.0.7", "127.0.0.8"
FORGED = {
    "X-Forwarded-For": "127.0.0.1",
    "X-Forwarded-Proto": "http",
    "X-Real-IP": "127.0.0.1",
    "Forwarded": "for=127.0.0.1;proto=http",
}


class Front(Started):
    name = "front"

    def __init__(self, folder: str, behind: int) -> None:
        self.port, self.folder, self.behind = free_port(), folder, behind

    def begin(self) -> None:
        key = ["-keyout", f"{self.folder}/front.key", "-out", f"{self.folder}/front.crt"]
        subprocess.run(["openssl", "req", *SELF_SIGNED, *key], check=True, capture_output=True)
        user = "user root;\n" if os.geteuid() == 0 else ""
        told = FRONT.format(user=user, folder=self.folder, port=self.port, behind=self.behind)
        with open(f"{self.folder}/front.conf", "w") as settings:
            settings.write(told)
        log = f"{self.folder}/front.log"
        program = nginx_program()
        assert program is not None
        words = [program, "-p", self.folder, "-c", f"{self.folder}/front.conf", "-e", log]
        self.run(words, dict(os.environ))


class Visitor:
    """From an address of their own, with what they forge."""

    def __init__(self, port: int, address: str, *, tls: bool = True) -> None:
        self.port, self.address, self.tls, self.cookies = port, address, tls, {}

    def ask(
        self, method: str, path: str, body: object = None, **headers: str
    ) -> http.client.HTTPResponse:
        where: dict[str, Any] = {"timeout": 300, "source_address": (self.address, 0)}
        if self.tls:
            trusting = ssl._create_unverified_context()
            link = http.client.HTTPSConnection("localhost", self.port, context=trusting, **where)
        else:
            link = http.client.HTTPConnection("127.0.0.1", self.port, **where)
        own = {
            "Cookie": "; ".join(f"{k}={v}" for k, v in self.cookies.items()),
            "X-CSRFToken": self.cookies.get("__Host-csrftoken", ""),
            "Referer": f"https://localhost:{self.port}/",
            "Content-Type": "application/json",
        }
        link.request(method, path, json.dumps(body) if body else None, own | headers)
        answer = link.getresponse()
        for line in answer.headers.get_all("Set-Cookie") or ():
            name, _, value = line.split(";")[0].partition("=")
            self.cookies[name] = value
        answer.data = answer.read()  # type: ignore[attr-defined]
        link.close()
        return answer

    def sign_in(self, password: str = "hand and rod", **headers: str) -> int:
        self.ask("GET", "/api/session", **headers)
        known = {"name": "ida", "password": password}
        return self.ask("POST", "/api/session", known, **headers).status


@long_tier
class Chain(Farm):
    def setUp(self) -> None:
        super().setUp()
        nginx_ready()
        near = {"NUBILIS_TLS": "1", "NUBILIS_HOPS": "1", "NUBILIS_PROXY": "127.0.0.1"}
        self.figures = [free_port(), free_port()]
        self.two = [self.web(near, port) for port in self.figures]
        ports = [w.port for w in self.two]
        self.router = Router(free_port(), ports, self.folder / "nginx", near)
        self.front = Front(str(self.folder), self.router.port)
        for service in (self.router, self.front):
            service.start()
            self.addCleanup(service.stop)
            self.until(lambda service=service: not port_is_free(service.port))

    def web(self, near: dict[str, str], figures: int) -> WebServer:
        port = free_port()
        own = {"NUBILIS_PUBLIC_PORT": "1", "NUBILIS_METRICS_PORT": str(figures)}
        hosts = {"NUBILIS_HOSTS": "localhost", "NUBILIS_ORIGINS": "https://localhost"}
        web = WebServer(port, self.env | near | own | hosts, f"web {port}")
        web.start()
        self.addCleanup(web.stop)
        self.until(lambda: not port_is_free(port))
        return web

    def visitor(self, address: str = HERE) -> Visitor:
        return Visitor(self.front.port, address)

    def test_browsers_are_told_to_stay_with_tls(self) -> None:
        visitor = self.visitor()
        answer = visitor.ask("GET", "/", **FORGED)
        self.assertIn("max-age=", answer.headers["Strict-Transport-Security"])
        self.assertEqual(visitor.sign_in(**FORGED), 200)
        self.assertIn("__Host-sessionid", visitor.cookies)

    def test_where_a_request_comes_from_cannot_be_forged(self) -> None:
        self.assertEqual(self.visitor(THERE).sign_in(**FORGED), 200)
        self.assertEqual(SignedIn.objects.get(person__isnull=False).address, THERE)
        for headers in ({}, FORGED, {"X-Forwarded-For": "127.0.0.1, 127.0.0.1, 127.0.0.1"}):
            self.assertEqual(self.visitor().ask("GET", "/metrics", **headers).status, 404)

    def test_wrong_passwords_lock_nobody_else_out(self) -> None:
        """Each with another claim of where it comes from."""
        for i in range(throttle.ADDRESS):
            claim = {"X-Forwarded-For": f"198.51.100.{i}"}
            self.visitor().sign_in(f"wrong {i}", **claim)
        self.assertEqual(self.visitor().sign_in(), 429)
        self.assertEqual(self.visitor(THERE).sign_in(), 200)

    def test_nobody_goes_round_the_front(self) -> None:
        past = Visitor(self.router.port, HERE, tls=False)
        self.assertEqual(past.ask("GET", "/api/session", **FORGED).status, 403)

    def test_people_are_spread_over_the_processes(self) -> None:
        Shoot.objects.create(owner=self.person, name="Again")
        before = [self.answers(port) for port in self.figures]
        for i in range(12):
            User.objects.filter(id=self.person.id).update(last_name=str(i))
            visitor = self.visitor()
            self.assertEqual(visitor.sign_in(), 200)
            self.assertEqual(visitor.ask("GET", "/api/shoots").status, 200)
        after = [self.answers(port) for port in self.figures]
        for was, now in zip(before, after, strict=True):
            self.assertGreaterEqual(now - was, 1)

    def answers(self, port: int) -> int:
        told = Visitor(port, "127.0.0.1", tls=False).ask("GET", "/metrics")
        lines = told.data.decode().splitlines()  # type: ignore[attr-defined]
        return sum(int(n.split()[-1]) for n in lines if n.startswith("nubilis_answers_total"))
