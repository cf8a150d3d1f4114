"""Recipes that are made to take long, of 4 MB at most: what the server reads."""

import json
import random
from collections.abc import Callable
from typing import Any

from nubilis.recipe.document import VERSION

Made = dict[str, Any]


def _recipe(**more: object) -> str:
    return json.dumps({"format": "nubilis-recipe", "version": VERSION, **more})


def _cast(number: int, *parts: Made, **more: object) -> Made:
    return {"id": f"c{number}", "mask": {"parts": list(parts)}, **more}


def _strokes(count: int, points: int, *, size: float = 0.01, place: object = (0.5, 0.5)) -> Made:
    stroke = {"size": size, "points": [[place, 1]] * points}
    return {"kind": "brush", "id": "b", "strokes": [stroke] * count}


def _criss_cross(count: int, points: int) -> Made:
    rng = random.Random(1)
    brush = _strokes(count, points, size=0.5)
    line = [[[round(rng.random(), 3), round(rng.random(), 3)], 1] for _ in range(points)]
    brush["strokes"] = [stroke | {"points": line} for stroke in brush["strokes"]]
    return brush


def _ovals(count: int, centre: object) -> list[Made]:
    oval = {"kind": "oval", "centre": centre, "radii": [0.3, 0.2]}
    return [oval | {"id": f"o{i}"} for i in range(count)]


HOSTILE: dict[str, Callable[[], str]] = {
    "130,000 points": lambda: _recipe(casts=[_cast(0, _strokes(7, 18_571))]),
    "60,000 points criss-cross": lambda: _recipe(casts=[_cast(0, _criss_cross(3, 20_000))]),
    "2,000 wide strokes of 30 points": lambda: _recipe(
        casts=[_cast(0, _strokes(2000, 30, size=1.5))]
    ),
    "2,000 strokes of 65 points": lambda: _recipe(casts=[_cast(0, _strokes(2000, 65))]),
    "120,000 nodes": lambda: _recipe(
        casts=[
            _cast(0, *({"kind": "path", "id": f"p{i}", "nodes": [{"at": [0.1, 0.1]}] * 2000}
                       for i in range(60)))
        ]
    ),
    "40,000 parts": lambda: _recipe(casts=[_cast(0, *_ovals(40_000, [0.4, 0.2]))]),
    "40,000 wrong parts": lambda: _recipe(casts=[_cast(0, *_ovals(40_000, "x"))]),
    "50,000 casts": lambda: _recipe(casts=[_cast(i) for i in range(50_000)]),
    "200,000 casts without anything": lambda: _recipe(casts=[{}] * 200_000),
    "90,000 dismissed without anything": lambda: _recipe(dismissed=[{}] * 90_000),
    "20,000 wrong points": lambda: _recipe(casts=[_cast(0, _strokes(1, 20_000, place="x"))]),
    "400,000 wrong points": lambda: _recipe(casts=[_cast(0, _strokes(40, 10_000, place="x"))]),
    "800,000 numbers": lambda: _recipe(casts=[0.1] * 800_000),
    "200,000 unknown fields": lambda: _recipe(**{f"k{i}": i for i in range(200_000)}),
    "2,000,000 lists in each other": lambda: '{"format":' + "[" * 2_000_000,
    "300,000 objects in each other": lambda: '{"format":' + '{"a":' * 300_000,
    "a name of 4 MB": lambda: _recipe(casts=[_cast(0, name="x" * 3_900_000)]),
    "a number of a million digits": lambda: '{"format":"","version":' + "9" * 10**6 + "}",
}  # fmt: skip
