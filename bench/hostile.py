"""How long a web process takes to refuse recipes that are made to take long, parsing included."""

import time
from contextlib import suppress

from config.garbage import look_rarely
from core.tests.hostile import HOSTILE
from nubilis.errors import RecipeError
from nubilis.recipe.files import read_recipe


def report() -> list[str]:
    look_rarely()
    lines = ["| recipe | MB | ms |", "|---|---|---|"]
    for name, made in HOSTILE.items():
        text = made()
        took = min(_refused(text) for _ in range(3))
        lines.append(f"| {name} | {len(text) / 1e6:.1f} | {1000 * took:.0f} |")
    return lines


def _refused(text: str) -> float:
    started = time.perf_counter()
    with suppress(RecipeError):
        read_recipe(text)
        raise AssertionError("it was taken")
    return time.perf_counter() - started
