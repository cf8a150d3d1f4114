"""Which tests run, and how hard those look that could go on for ever.

The default tier is ./nubilis test; the long one, by --all, has more tests and more examples of the same
seeds; ./nubilis fuzz looks longer still, at random.
"""

import os
import random
from typing import TypeVar

T = TypeVar("T")

LONG = os.environ.get("NUBILIS_TIER") == "long"
FUZZ = int(os.environ.get("NUBILIS_FUZZ", "0"))  # how many times as long as the long tier
TIMES = max(4 * FUZZ, 4 if LONG else 1)


def long_tier(test: T) -> T:
    """A test, or a class of tests, that is left to the long tier. Django's runner reads the tag."""
    test.tags = {"long", *getattr(test, "tags", ())}  # type: ignore[attr-defined]
    return test


def examples(count: int) -> int:
    """Of a property: so many in the long tier."""
    return max(count * TIMES // 4, 3)


def chances(name: str) -> random.Random:
    """The same in every run; others whenever one looks at random."""
    return random.Random(None if FUZZ else name)
