"""How long a web process takes to refuse recipes that are made to take long, parsing included.

By hand: .venv/bin/python -m bench.hostile.
"""

import time

from config.garbage import look_rarely
from core.tests.hostile import HOSTILE
from nubilis.errors import RecipeError
from nubilis.recipe.files import read_recipe


def main() -> None:
    look_rarely()
    for name, made in HOSTILE.items():
        text, took = made(), []
        for _ in range(3):
            started = time.perf_counter()
            try:
                read_recipe(text)
                told = "taken"
            except RecipeError as error:
                told = str(error)
            took.append(time.perf_counter() - started)
        print(f"{name:34} {len(text) / 1e6:4.1f} MB {1000 * min(took):5.0f} ms  {told[:70]}")


if __name__ == "__main__":
    main()
