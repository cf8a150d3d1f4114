"""Dependencies point one way, and the core stands alone."""

import ast
import unittest
from pathlib import Path

CORE = Path(__file__).resolve().parents[1] / "nubilis"
# A package may import from those listed; "colour" knows nothing of the rest.
ALLOWED = {
    "colour": {"colour"},
    "photo": {"photo", "colour"},
    "library": {"library", "colour", "recipe"},
    "settle": {"settle", "colour", "recipe"},
    "recipe": {"recipe", "colour", "mask", "remedy", "settle"},
    "mask": {"mask", "colour", "photo", "recipe"},
    "remedy": {"remedy", "colour", "photo", "recipe"},
    "proof": {"proof", "colour", "photo", "recipe", "remedy", "mask"},
    "find": {"find", "colour", "photo", "remedy", "proof", "recipe", "settle"},
}


def imports(file: Path) -> set[str]:
    found: set[str] = set()
    for node in ast.walk(ast.parse(file.read_text())):
        if isinstance(node, ast.Import):
            found |= {alias.name for alias in node.names}
        elif isinstance(node, ast.ImportFrom):
            found.add(node.module or "")
    return found


class Architecture(unittest.TestCase):
    def test_the_core_knows_neither_django_nor_the_server(self) -> None:
        foreign = {
            "django",
            "ninja",
            "config",
            "accounts",
            "shoots",
            "studio",
            "delivery",
            "references",
            "bench",
        }
        for file in CORE.rglob("*.py"):
            roots = {name.split(".")[0] for name in imports(file)}
            self.assertFalse(roots & foreign, file)

    def test_dependencies_point_one_way(self) -> None:
        for package, allowed in ALLOWED.items():
            for file in (CORE / package).rglob("*.py"):
                for name in imports(file):
                    inner = name.split(".")
                    if inner[0] == "nubilis" and len(inner) > 1 and inner[1] in ALLOWED:
                        self.assertIn(inner[1], allowed, f"{file.name} imports {name}")
