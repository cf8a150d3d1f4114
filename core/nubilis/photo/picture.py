"""A decoded photo: its code values as they came, upright, and what they mean."""

from dataclasses import dataclass, field
from typing import Literal

from nubilis.arrays import Codes
from nubilis.colour.profile import Profile
from nubilis.photo.metadata import Metadata

# How a file has its fourth channel: beside the colours, in them as a factor, or as nobody says what.
AlphaKind = Literal["straight", "associated", "unspecified"]


@dataclass(frozen=True, eq=False)
class Photo:
    """codes: uint8 or uint16 (h, w, 3), upright, free of any alpha; alpha: (h, w) of the same type, or None;
    alpha_kind: what a file that can say so says again.

    notes: sentences that a person should know, such as "No colour profile: read as sRGB".
    """

    codes: Codes = field(repr=False)
    profile: Profile
    metadata: Metadata = field(default_factory=Metadata)
    alpha: Codes | None = field(default=None, repr=False)
    format: str = "PNG"
    notes: tuple[str, ...] = ()
    alpha_kind: AlphaKind = "straight"

    @property
    def width(self) -> int:
        return int(self.codes.shape[1])

    @property
    def height(self) -> int:
        return int(self.codes.shape[0])

    @property
    def long_edge(self) -> int:
        return max(self.width, self.height)

    @property
    def bits(self) -> int:
        return 8 * self.codes.dtype.itemsize
