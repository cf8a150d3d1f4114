"""Photo + recipe + view -> pixels. The same ones at every size, and nothing moved outside the masks."""

import threading
from collections.abc import Callable, Sequence
from dataclasses import replace
from functools import cache, partial
from itertools import takewhile

import numpy as np

from nubilis.arrays import Codes, Floats
from nubilis.cache import Cache, array_cache
from nubilis.mask.combine import Mask
from nubilis.mask.edges import Trace
from nubilis.mask.part import Part
from nubilis.mask.sight import Sight
from nubilis.photo.picture import Photo
from nubilis.photo.pyramid import ANALYSIS_EDGE, Pyramid, Region, View, around, overlap, pixel_at
from nubilis.photo.sampling import decode, encode_changes
from nubilis.recipe.document import Cast, Recipe, Sample
from nubilis.remedy.amount import AmountField
from nubilis.remedy.even_out import smooth_lightness
from nubilis.remedy.neutralise import read_amount
from nubilis.remedy.remedy import Evidence, Place, Remedy
from nubilis.settle.apply import settled
from nubilis.settle.base import RESTING, Base
from nubilis.treatment import Pass, Treated, treat

CACHE_BYTES = 500 * 2**20
TRACE_BYTES = 100 * 2**20
TILE = (256, 1024)  # rows, columns of delivery: what the masks miss costs next to nothing
_PLANS_KEPT = 24


class Engine:
    """Everything computed about one photo. Safe under threads."""

    def __init__(self, photo: Photo, cache_bytes: int = CACHE_BYTES) -> None:
        self.photo = photo
        self.pyramid = Pyramid(photo)
        self._cache = array_cache(cache_bytes)
        self._plans: Cache[tuple[tuple[Pass, ...], Treated]] = Cache(_PLANS_KEPT)
        self._lightness: Cache[AmountField] = Cache(1)
        self._found: Cache[Trace] = Cache(TRACE_BYTES, lambda trace: trace.planes.nbytes)
        self._planning = threading.RLock()

    @property
    def analysis_view(self) -> View:
        return View.fit(self.photo, ANALYSIS_EDGE)

    def untouched(self, view: View) -> Floats:
        """The photo as it came, float32 (3, h, w) linear Rec. 2020. Raises PlaceError."""
        if view == self.analysis_view:
            return self.pyramid.analysis
        return self._cache.get(("untouched", view), lambda: self.pyramid.read(view))

    def settled(self, view: View, base: Base) -> Floats:
        """The photo under its base, float32 (3, h, w) linear Rec. 2020. Raises PlaceError."""
        rgb = self.untouched(view)
        if not base.active:
            return rgb
        return self._cache.get(("settled", base, view), lambda: settled(rgb, base))

    def mask(self, mask: Mask, view: View, base: Base = RESTING) -> Floats:
        """A mask over a view of the settled photo, 0..1, float32 (h, w). Parts are cached one by one."""

        def coverage(part: Part, over: View) -> Floats:
            bare = part.model_copy(update={"invert": False, "strength": 1.0, "join": "add"})
            return self._cache.get(
                (bare, base, over),
                lambda: part.coverage(self.settled(over, base), over, self.traces(part, base)),
            )

        return mask.cover(view, coverage, lambda over: self.settled(over, base))

    def _read(self, view: View, base: Base) -> Floats:
        """As settled, but not through the cache: what one looks at would be thrown out for it."""
        return settled(self.pyramid.read(view), base)

    def traces(self, part: Part, base: Base = RESTING) -> tuple[Trace, ...]:
        """What a part finds in the photo; each thing is looked for once."""
        sight = Sight((self.photo.width, self.photo.height), lambda view: self._read(view, base))
        return tuple(
            self._found.get((look, base), partial(look.trace, sight)) for look in part.looks
        )

    def mask_codes(self, mask: Mask, bits: int, base: Base = RESTING) -> Codes:
        """A mask over the whole photo at full size, code values of 8 or 16 bits (h, w)."""
        photo, top = self.photo, np.float32(2**bits - 1)
        codes = np.empty((photo.height, photo.width), dtype=np.uint8 if bits == 8 else np.uint16)

        def coverage(part: Part, over: View) -> Floats:
            return part.coverage(self._read(over, base), over, self.traces(part, base))

        for y0 in range(0, photo.height, TILE[0]):
            region = 0, y0, photo.width, min(y0 + TILE[0], photo.height)
            view = View((photo.width, photo.height), region)
            cover = mask.cover(view, coverage, lambda over: self._read(over, base))
            codes[y0 : region[3]] = cover * top + np.float32(0.5)
        return codes

    def render(self, recipe: Recipe, view: View) -> Floats:
        """The treated photo over a view, float32 (3, h, w) linear Rec. 2020, unclipped.

        Equal to settled(view) to the bit wherever no cast's mask reaches. Raises PlaceError.
        """
        return self._after(recipe.base, active_casts(recipe), view)

    def _after(self, base: Base, casts: list[Cast], view: View) -> Floats:
        if not casts:
            return self.settled(view, base)
        key = ("after", base, tuple(casts), view)

        def make() -> Floats:
            return self._treated(base, casts, self._after(base, casts[:-1], view), view)

        return self._cache.get(key, make)

    def evidence(self, base: Base, casts: list[Cast], remedy: str) -> Evidence:
        """The samples of the last of some active casts, as one of its remedies finds them: their colours
        after what acts earlier there, from the analysis size."""
        cast = casts[-1]
        earlier = tuple(r for r in takewhile(lambda r: r.id != remedy, cast.remedies) if acts(r))
        before_it = [cast.model_copy(update={"remedies": earlier})] if earlier else []
        if not before_it and not casts[:-1]:
            return cast.evidence
        view = self.analysis_view
        before, after = self.settled(view, base), self._after(base, casts[:-1] + before_it, view)

        def left(sample: Sample) -> Sample:
            if sample.at is None:
                return sample
            spot = around_place(sample.at, view)
            moved = (after[spot] - before[spot]).mean(axis=(1, 2))
            red, green, blue = (float(c + d) for c, d in zip(sample.rgb, moved, strict=True))
            return sample.model_copy(update={"rgb": (red, green, blue)})

        # What a sample carries of the cast is what it carried when it came.
        return replace(cast.resampled(left).evidence, carried=cast.evidence.carried)

    def _treated(self, base: Base, casts: list[Cast], rgb: Floats, view: View) -> Floats:
        """rgb: what all but the last of the casts left."""
        came, before = self.untouched(view), self.settled(view, base)
        evidence = _evidence(base, casts)
        mask = self.mask(casts[-1].mask, view, base)

        def amount(number: int, step: Pass, soften: float) -> Floats:
            key = ("amount", evidence, number, soften, view)
            return self._cache.get(
                key, lambda: read_amount(step.softened(soften), before, mask, view)
            )

        def passes(soften: float) -> list[tuple[tuple[float, float], Floats]]:
            steps = self.passes(base, casts)
            return [(step.shift, amount(i, step, soften)) for i, step in enumerate(steps)]

        def lightness() -> Floats:
            key = ("lightness", base, casts[-1].mask, view)
            field = self._lightness_field(base)
            return self._cache.get(key, lambda: read_amount(field, before, mask, view))

        place = Place(came, before, partial(self.evidence, base, casts), passes, lightness)
        done = apply_remedies(casts[-1], place, mask, rgb)
        return done if done is not rgb else rgb.copy()

    def _lightness_field(self, base: Base) -> AmountField:
        """OKLab lightness without its detail, to be read at any zoom."""
        return self._lightness.get(
            base, lambda: smooth_lightness(self.settled(self.analysis_view, base))
        )

    def passes(self, base: Base, casts: list[Cast]) -> tuple[Pass, ...]:
        """The passes of the last of some active casts."""
        return self._plan(base, casts)[0]

    def _plan(self, base: Base, casts: list[Cast]) -> tuple[tuple[Pass, ...], Treated]:
        view = self.analysis_view
        if not casts:
            return (), Treated(self.settled(view, base))

        def plan() -> tuple[tuple[Pass, ...], Treated]:
            _, before = self._plan(base, casts[:-1])
            return treat(casts[-1], self.mask(casts[-1].mask, view, base), before)

        # Held while working: picture, figures and readout ask at once, and one answer serves all.
        with self._planning:
            return self._plans.get(_evidence(base, casts), plan)

    def deliver(
        self,
        recipe: Recipe,
        *,
        in_place: bool = False,
        progress: Callable[[float], None] = lambda _: None,
    ) -> Photo:
        """The photo at full size with the recipe applied, code values untouched outside the masks.

        in_place: write into this engine's own photo, which saves a copy; the engine is of no use after.
        progress: told the share done, 0..1; may raise to cancel.
        """
        photo = self.photo
        active, base = active_casts(recipe), recipe.base
        plans = [self.passes(base, active[: i + 1]) for i in range(len(active))]
        evidence = [
            cache(partial(self.evidence, base, active[: i + 1])) for i in range(len(active))
        ]
        reaches = [c.mask.reach((photo.width, photo.height)) for c in active]
        # Such masks look around each tile, at pixels that must be as they came.
        in_place = in_place and not any(c.mask.looks_around for c in active)
        codes = photo.codes if in_place else photo.codes.copy()
        for y0 in range(0, photo.height, TILE[0]):
            y1 = min(y0 + TILE[0], photo.height)
            for x0 in range(0, photo.width, TILE[1]):
                tile = x0, y0, min(x0 + TILE[1], photo.width), y1
                near = [i for i, reach in enumerate(reaches) if overlap(reach, tile)]
                touched = overlap(around(reaches[i] for i in near), tile) if near else None
                touched = tile if base.active else touched
                if touched:
                    casts = [(active[i], plans[i], evidence[i]) for i in near]
                    self._deliver_tile(base, casts, touched, codes)
            progress(y1 / photo.height)
        return replace(photo, codes=codes)

    def _deliver_tile(
        self,
        base: Base,
        casts: Sequence[tuple[Cast, tuple[Pass, ...], Callable[[str], Evidence]]],
        region: Region,
        codes: Codes,
    ) -> None:
        view = View((self.photo.width, self.photo.height), region)
        tile = codes[region[1] : region[3], region[0] : region[2]]
        untouched = decode(tile, self.photo.profile)
        before = rgb = settled(untouched, base)

        def rgb_of(over: View) -> Floats:
            return before if over == view else self._read(over, base)

        def coverage(part: Part, over: View) -> Floats:
            return part.coverage(rgb_of(over), over, self.traces(part, base))

        for cast, passes, evidence_for in casts:
            mask = cast.mask.cover(view, coverage, rgb_of)
            if mask.any():
                read = partial(read_amount, rgb_linear=before, mask=mask, view=view)
                place = Place(
                    untouched,
                    before,
                    evidence_for,
                    partial(_read_passes, passes, read),
                    lambda read=read: read(self._lightness_field(base)),  # type: ignore[misc]
                )
                rgb = apply_remedies(cast, place, mask, rgb)
        if rgb is not untouched:
            encode_changes(untouched, rgb, tile, self.photo.profile)


def _read_passes(
    passes: tuple[Pass, ...], read: Callable[[AmountField], Floats], soften: float
) -> list[tuple[tuple[float, float], Floats]]:
    return [(step.shift, read(step.softened(soften))) for step in passes]


def apply_remedies(cast: Cast, place: Place, mask: Floats, rgb: Floats) -> Floats:
    """One cast's remedies over a region, in order; `rgb` itself when there is nothing to do."""
    for remedy in cast.remedies:
        if acts(remedy):
            rgb = remedy.applied(rgb, mask, place)
    return rgb


def acts(remedy: Remedy) -> bool:
    return remedy.on and remedy.amount > 0.0


def around_place(at: tuple[float, float], view: View) -> tuple[slice, slice, slice]:
    """The pixels of a whole-photo view next to a place."""
    x, y = pixel_at(at, view.shape)
    return np.s_[:, max(y - 1, 0) : y + 2, max(x - 1, 0) : x + 2]


def active_casts(recipe: Recipe) -> list[Cast]:
    """Casts that do something, switched on and with a remedy that is, as the base shows their samples."""
    return [c for c in recipe.settled_casts() if c.on and any(r.on for r in c.remedies)]


def casts_until(recipe: Recipe, cast_id: str) -> list[Cast]:
    """Active casts up to and with one; empty when that one is not active."""
    casts = active_casts(recipe)
    at = next((i for i, c in enumerate(casts) if c.id == cast_id), -1)
    return casts[: at + 1]


def _evidence(base: Base, casts: list[Cast]) -> tuple[object, ...]:
    """What the passes depend on: not the amounts."""
    return base, tuple((c.pairs, c.guards, c.mask, c.follows) for c in casts)
