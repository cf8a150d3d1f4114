"""Services do the work and know nothing of HTTP, which only translates."""

import ast
from collections.abc import Iterator
from pathlib import Path
from unittest import TestCase

SERVER = Path(__file__).resolve().parents[2]
# Where HTTP is spoken: routers, pages, middleware, and what starts the web server.
SPEAKING = ("http/", "api.py", "config/", "management/commands/web.py")
FOREIGN = (
    "django.http",
    "django.shortcuts",
    "django.views",
    "ninja",
    "config.api",
    "config.requests",
)


def imports(file: Path) -> Iterator[str]:
    for node in ast.walk(ast.parse(file.read_text())):
        if isinstance(node, ast.Import):
            yield from (alias.name for alias in node.names)
        elif isinstance(node, ast.ImportFrom):
            yield node.module or ""


def speaks_http(name: str) -> bool:
    inner = name.split(".")
    return name.startswith(FOREIGN) or inner[-1] == "api" or "http" in inner[1:]


class Architecture(TestCase):
    def files(self) -> list[Path]:
        return [p for p in SERVER.rglob("*.py") if "tests" not in p.parts]

    def test_services_models_and_all_else_import_no_http_module(self) -> None:
        silent = [
            p for p in self.files() if not any(s in f"{p.relative_to(SERVER)}" for s in SPEAKING)
        ]
        self.assertGreater(len([p for p in silent if p.parent.name == "services"]), 15)
        for file in silent:
            for name in imports(file):
                self.assertFalse(speaks_http(name), f"{file.relative_to(SERVER)} imports {name}")

    def test_routers_leave_the_files_of_the_store_to_services(self) -> None:
        for file in self.files():
            if "http" in file.parts or file.name == "api.py":
                names = set(imports(file))
                self.assertFalse(names & {"django.db", "shutil", "threading"}, file)
