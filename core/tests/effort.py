"""How hard tests look that could go on for ever: a little in every run, long by ./nubilis fuzz."""

import os
import random

TIMES = int(os.environ.get("NUBILIS_FUZZ", "1"))


def chances(name: str) -> random.Random:
    """The same in every run; others whenever one looks long."""
    return random.Random(name if TIMES == 1 else None)
