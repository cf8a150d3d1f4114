"""Names of accounts, as they are kept and compared: folded once, where they enter."""

import unicodedata

LONGEST = 150


def folded(name: str) -> str:
    """Compatible letters as one (Unicode NFKC), capitals as small ones: Tour is tour, tóur is not."""
    return unicodedata.normalize("NFKC", unicodedata.normalize("NFKC", name).casefold())[:LONGEST]
