"""What every operation of the API may be asked with, so that tests can go through all of them."""

from collections.abc import Iterator
from typing import Any

from config.api import api

# What ids in addresses are, besides a photo's and a shoot's.
NAMED = {"version_id": 1, "finding_id": "a", "share_id": 1, "form": "json", "who": 1}


def bodies(photo: int, shoot: int, recipe: dict[str, Any]) -> dict[str, dict[str, Any]]:
    """What would change something, by the end of an address."""
    some = {"photos": [photo]}
    order = {"order": {"file_format": "png"}}
    level = {"at": [0.2, 0.3], "wanted": [0.3, 0.3, 0.3], "name": "wall"}
    return {
        "shoots/{shoot_id}": {"name": "Mine"},
        "remove": some,
        "put-back": some,
        "move": some | {"to": shoot},
        "shares": {"person": "otto", "may": "work"},
        "recipe": {"revision": 1, "recipe": recipe},
        "undo": {"revision": 1},
        "redo": {"revision": 1},
        "copy": {"casts": None, "to": [photo], "mask_only": False},
        "carry-over": {"cast": "a"},
        "agree": some | {"chosen": {"lab": [50.0, 0.0, 0.0]}},
        "level": level,
        "go-to": {"revision": 1, "number": 1},
        "versions": {"name": "Kept"},
        "{version_id}": {"name": "Kept"},
        "take": {"revision": 1},
        "people/part": {"id": "p", "of": "skin"},
        "photos/{photo_id}/deliveries": order | {"revision": 1},
        "shoots/{shoot_id}/deliveries": order | some,
        "batches": some | {"kind": "adopt"},
        "looks/own": {"name": "Candle warmth"},
        "watch": {"source": None},
    }


def body_of(path: str, known: dict[str, dict[str, Any]]) -> dict[str, Any]:
    end = max((e for e in known if path.endswith(e)), key=len, default="")
    return known.get(end, {})


def operations() -> Iterator[tuple[str, str, list[str]]]:
    """Address, with names in braces, method, and what may stand behind a question mark."""
    for path, ways in api.get_openapi_schema()["paths"].items():
        for way, told in ways.items():
            given = told.get("parameters", [])
            yield path, way, [p["name"] for p in given if p["in"] == "query"]
