"""A person's client, without a browser."""

import json
import urllib.request
from http.cookiejar import CookieJar
from typing import Any

PATIENCE = 300  # seconds, on the slowest machine


class Client:
    def __init__(self, port: int) -> None:
        self.port = port
        self.cookies = CookieJar()
        self.opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(self.cookies))

    def fetch(
        self, method: str, path: str, body: bytes = b"", kind: str = "application/json"
    ) -> bytes:
        token = next((c.value for c in self.cookies if c.name == "csrftoken"), "") or ""
        headers = {"Content-Type": kind, "X-CSRFToken": token}
        request = urllib.request.Request(
            f"http://127.0.0.1:{self.port}/api{path}", body or None, headers, method=method
        )
        with self.opener.open(request, timeout=PATIENCE) as answer:
            return bytes(answer.read())

    def ask(self, method: str, path: str, body: bytes = b"", kind: str = "application/json") -> Any:
        return json.loads(self.fetch(method, path, body, kind))

    def send(self, path: str, body: object, method: str = "POST") -> Any:
        return self.ask(method, path, json.dumps(body).encode())

    def sign_in(self) -> None:
        self.ask("GET", "/session")
        self.send("/session", {"name": "ida", "password": "hand and rod"})

    def upload(self, shoot: int, data: bytes, name: str) -> int:
        line = "what-parts-them"
        head = f'--{line}\r\nContent-Disposition: form-data; name="file"; filename="{name}"\r\n\r\n'
        body = head.encode() + data + f"\r\n--{line}--\r\n".encode()
        kind = f"multipart/form-data; boundary={line}"
        return int(self.ask("POST", f"/shoots/{shoot}/photos", body, kind)["photo"]["id"])
