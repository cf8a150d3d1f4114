"""What parts share that are found in the photo as a whole."""

from nubilis.arrays import Floats
from nubilis.mask.edges import Trace, read_trace
from nubilis.mask.part import Part
from nubilis.mask.sight import Look, Sight
from nubilis.photo.pyramid import View


class FoundPart(Part):
    """Looked for once, and read from its trace at every view."""

    @property
    def looks(self) -> tuple[Look, ...]:
        return (self,)

    def trace(self, sight: Sight) -> Trace:
        raise NotImplementedError

    def coverage(self, rgb_linear: Floats, view: View, traces: tuple[Trace, ...] = ()) -> Floats:
        return read_trace(traces[0], rgb_linear, view)
