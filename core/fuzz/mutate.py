"""Changes of files, and of documents that leave them documents, so that more is reached than the reader of
JSON."""

import json
import random
from collections.abc import Iterator
from typing import Any

ODD: tuple[Any, ...] = (
    None, True, "", "a", 0, -1, 1, 0.5, -0.0, 5e-324, 1e308, -1e308, 2**31, 2**63, 10**400, [], {},
    [[]], "\u0000", "é" * 300, [0.0, 0.0], [1e9, -1e9],
)  # fmt: skip
Place = tuple[Any, Any]  # a list or an object, and where in it


def places(node: Any) -> Iterator[Place]:
    """Of everything in a document."""
    inside = node.items() if isinstance(node, dict) else enumerate(node)
    for key, value in list(inside):
        yield node, key
        if isinstance(value, dict | list):
            yield from places(value)


def changed(document: Any, rng: random.Random) -> Any:
    """One thing in it is odd, doubled, gone, or somewhere else's."""
    there = list(places(document)) if isinstance(document, dict | list) else []
    if not there:
        return rng.choice(ODD)
    holder, key = rng.choice(there)
    match rng.randrange(5):
        case 0:
            holder[key] = rng.choice(ODD)
        case 1 if isinstance(holder, list):
            holder.insert(key, json.loads(json.dumps(holder[key])))
        case 2:
            del holder[key]
        case 3:
            other, where = rng.choice(there)
            holder[key] = json.loads(json.dumps(other[where]))
        case _ if isinstance(holder[key], int | float):
            holder[key] = holder[key] * rng.choice((-1, 0, 0.5, 2, 1e6, 1e-6))
        case _:
            holder[key] = rng.choice(ODD)
    return document


def damaged(data: bytes, rng: random.Random) -> bytes:
    """Bytes changed, cut out, doubled or made extreme; at the beginning more often, where sizes stand."""
    made = bytearray(data)
    for _ in range(rng.choice((1, 2, 5, 20))):
        at = rng.randrange(min(len(made), 200) if rng.random() < 0.6 else len(made))
        match rng.randrange(5):
            case 0:
                made[at] = rng.randrange(256)
            case 1:
                made[at : at + 4] = rng.choice((b"\xff\xff\xff\xff", bytes(4), b"\x7f\xff\xff\xff"))
            case 2:
                del made[at : at + rng.randrange(1, 30)]
            case 3:
                made[at:at] = made[at : at + rng.randrange(1, 30)]
            case _:
                made = made[: max(at, 1)]
        if not made:
            break
    return bytes(made)


def mutator(data: bytes, most: int, seed: int) -> bytes:
    """For atheris: a document stays one, nearly always."""
    rng = random.Random(seed)
    try:
        made = json.dumps(changed(json.loads(data), rng)).encode()
    except (ValueError, KeyError, RecursionError, OverflowError):
        made = damaged(data or b" ", rng)
    return made[:most]
