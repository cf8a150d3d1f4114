"""How a lossy format is written."""

from dataclasses import dataclass
from typing import Literal

Subsampling = Literal["444", "422", "420"]
LEAST_QUALITY, MOST_QUALITY = 30, 100
LEAST_KB, MOST_KB = 10, 500_000


@dataclass(frozen=True)
class Coding:
    """quality: 30..100, None for the format's own; subsampling: of colour in a JPEG (J:a:b); limit_kb: the
    largest that a JPEG may become, in units of 1,000 bytes; its quality sinks as far as that needs."""

    quality: int | None = None
    subsampling: Subsampling = "444"
    limit_kb: int | None = None


AS_USUAL = Coding()
