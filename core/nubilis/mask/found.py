"""What parts share that are found in the photo as a whole."""

from nubilis.arrays import Floats
from nubilis.mask.edges import Trace, read_trace
from nubilis.mask.part import NOTHING, Given, Part
from nubilis.mask.sight import Look, Sight
from nubilis.photo.pyramid import View


class FoundPart(Part):
    """Looked for once, and read from its trace at every view."""

    @property
    def looks(self) -> tuple[Look, ...]:
        return (self.bare,)

    def trace(self, sight: Sight) -> Trace:
        raise NotImplementedError

    def coverage(self, rgb_linear: Floats, view: View, given: Given = NOTHING) -> Floats:
        return read_trace(given.traces[0], rgb_linear, view)
