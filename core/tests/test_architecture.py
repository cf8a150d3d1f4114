"""Dependencies point one way, and the core stands alone."""

import ast
import unittest
from pathlib import Path

CORE = Path(__file__).resolve().parents[1] / "nubilis"
# What everything may use, and which of these each of them uses itself.
BELOW = {
    "errors": set(),
    "arrays": {"errors"},
    "cores": set(),
    "kernel_types": set(),
    "kernels": {"cores"},
    "readable": set(),
    "wanted": set(),
    "cache": {"arrays", "wanted"},
    "whole": set(),
}
# A package, or a module at the root, may import from those listed, from itself, and from what lies below.
ALLOWED = {
    "colour": set(),
    "photo": {"colour"},
    "cast": {"colour", "photo"},
    "settle": {"colour", "recipe"},
    "mask": {"colour", "photo", "recipe"},
    "look": {"colour"},
    "people": {"cast", "colour", "mask", "photo", "recipe"},
    "remedy": {"cast", "colour", "look", "mask", "photo", "recipe", "settle"},
    "recipe": {"cast", "colour", "look", "mask", "photo", "remedy", "settle"},
    "library": {"colour", "look", "recipe", "remedy"},
    "engine": {"cast", "colour", "look", "mask", "photo", "recipe", "remedy", "settle"},
    "proof": {
        "cast", "colour", "engine", "look", "mask", "people", "photo", "recipe", "remedy", "settle",
    },
    "find": {
        "cast", "colour", "engine", "mask", "people", "photo", "proof", "recipe", "remedy", "settle",
    },
    "series": {"colour", "engine", "mask", "people", "photo", "recipe", "remedy"},
    "camera": {"colour", "photo"},
    "deliver": {"engine", "look", "photo", "proof", "recipe"},
    "planning": {"cast", "engine", "mask", "photo", "recipe", "remedy"},
    "cli": {
        "camera", "cast", "deliver", "engine", "find", "look", "mask", "people", "photo", "remedy",
        "planning", "proof", "recipe", "series",
    },
    "precompile": set(),
}  # fmt: skip


def imports(file: Path) -> set[str]:
    found: set[str] = set()
    for node in ast.walk(ast.parse(file.read_text())):
        if isinstance(node, ast.Import):
            found |= {alias.name for alias in node.names}
        elif isinstance(node, ast.ImportFrom):
            found.add(node.module or "")
    return found


def inner_imports(file: Path) -> set[str]:
    """Packages and root modules of the core that a file imports."""
    names = (name.split(".") for name in imports(file))
    return {inner[1] for inner in names if inner[0] == "nubilis" and len(inner) > 1}


class Architecture(unittest.TestCase):
    def test_the_core_knows_neither_django_nor_the_server(self) -> None:
        server = CORE.parents[1] / "server"
        apps = {p.name for p in server.iterdir() if (p / "__init__.py").is_file()}
        foreign = {"django", "ninja", "bench", "launch", *apps}
        self.assertIn("studio", foreign)
        for file in CORE.rglob("*.py"):
            roots = {name.split(".")[0] for name in imports(file)}
            self.assertFalse(roots & foreign, file)

    def test_every_package_and_every_loose_module_has_its_place(self) -> None:
        packages = {p.parent.name for p in CORE.glob("*/__init__.py")}
        modules = {p.stem for p in CORE.glob("*.py")} - {"__init__"}
        self.assertEqual(packages | modules, set(ALLOWED) | set(BELOW))

    def test_dependencies_point_one_way(self) -> None:
        for name, allowed in (ALLOWED | BELOW).items():
            whole = CORE / name
            files = list(whole.rglob("*.py")) if whole.is_dir() else [whole.with_suffix(".py")]
            may = allowed | {name} | (set(BELOW) if name in ALLOWED else set())
            for file in files:
                self.assertFalse(inner_imports(file) - may, file)
