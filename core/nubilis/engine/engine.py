"""Photo + recipe + view -> pixels. The same ones at every size, and nothing moved outside the masks."""

import threading
from collections.abc import Callable, Hashable, Iterator, Sequence
from dataclasses import replace
from functools import partial
from typing import Any

import cv2
import numpy as np

from nubilis.arrays import Codes, Floats
from nubilis.cache import Cache, array_cache
from nubilis.cast.amount import Solved
from nubilis.cast.field import AmountField
from nubilis.cast.guard import guard_field
from nubilis.cores import each_on_one_core
from nubilis.engine.acting import acting_before, active_casts, casts_until, roughly
from nubilis.engine.grain import measure_grain
from nubilis.engine.reading import Reading, look_of
from nubilis.engine.treatment import Pass, Treated, treat
from nubilis.errors import RecipeError
from nubilis.look.cube import Cube, read_cube
from nubilis.mask.combine import Mask
from nubilis.mask.edges import Trace
from nubilis.mask.part import Part
from nubilis.mask.sight import Sight
from nubilis.photo.depth import at_depth
from nubilis.photo.grey import read_grey
from nubilis.photo.picture import Photo
from nubilis.photo.pyramid import ANALYSIS_EDGE, Pyramid, Region, View, around, overlap, pixel_at
from nubilis.photo.sampling import encode_changes
from nubilis.recipe.asset import Asset, Resolver, nowhere
from nubilis.recipe.document import Cast, Recipe, Sample
from nubilis.remedy.look import Look
from nubilis.remedy.remedy import Drawing, Evidence, Grain, Statistic
from nubilis.settle.state import AS_IT_CAME, Settled

CACHE_BYTES = 500 * 2**20
TRACE_BYTES = 100 * 2**20
PICTURE_BYTES = 200 * 2**20  # of mask pictures, as code values
TILE = (256, 1024)  # rows, columns of delivery: what the masks miss costs next to nothing
_PLANS_KEPT = 24
PLANES_OF_A_PLAN = 12  # arrays of the analysis size, about
# Bytes of parts and results, of what was found, of mask pictures, with which a handle moves as fast as ever.
WORKING_SET = (100 * 2**20, 20 * 2**20, 30 * 2**20)
_MEASURED_KEPT = 48
_TABLES_KEPT = 16


class Engine:
    """Everything computed about one photo. Safe under threads. assets: where the files are that recipes
    refer to."""

    def __init__(
        self, photo: Photo, cache_bytes: int = CACHE_BYTES, assets: Resolver = nowhere
    ) -> None:
        self.photo = photo
        self.pyramid = Pyramid(photo)
        self.assets = assets
        self._cache = array_cache(cache_bytes)
        self._plans: Cache[tuple[tuple[Pass, ...], Treated]] = Cache(_PLANS_KEPT)
        self._solved: Cache[Solved] = Cache(_PLANS_KEPT)
        self._measured: Cache[Any] = Cache(_MEASURED_KEPT)
        self._evidence: Cache[Evidence] = Cache(_MEASURED_KEPT)
        self._guards: Cache[AmountField] = Cache(_MEASURED_KEPT)
        self._grains: Cache[Grain | None] = Cache(_MEASURED_KEPT)
        self._found: Cache[Trace] = Cache(TRACE_BYTES, lambda trace: trace.planes.nbytes)
        self._tables: Cache[Cube] = Cache(_TABLES_KEPT)
        self._pictures: Cache[Codes] = Cache(PICTURE_BYTES, lambda codes: codes.nbytes)
        self._planning, self._decoding = threading.RLock(), threading.Lock()

    @property
    def size(self) -> tuple[int, int]:
        """The photo's (width, height)."""
        return self.photo.width, self.photo.height

    @property
    def to_device(self) -> Floats:
        """Linear Rec. 2020 to the photo's own primaries, float32 (3, 3)."""
        return self.photo.profile.encoding_matrix

    @property
    def analysis_view(self) -> View:
        return View.fit(self.photo, ANALYSIS_EDGE)

    @property
    def held_bytes(self) -> int:
        """Code values, half-size levels, what is kept of parts and results; what is worked out for a cast
        counts as planes of the analysis size."""
        photo = self.photo
        codes = photo.codes.nbytes + (0 if photo.alpha is None else photo.alpha.nbytes)
        plane = 4 * self.analysis_view.shape[0] * self.analysis_view.shape[1]
        worked_out = PLANES_OF_A_PLAN * self._plans.size + 2 * self._solved.size
        worked_out += self._measured.size + self._evidence.size + self._guards.size
        kept = self._cache.size + self._found.size + self._pictures.size
        return codes + self.pyramid.held_bytes + kept + worked_out * plane

    def let_go(self, *, all_of_it: bool) -> None:
        """Of what can be made again from the photo: all, or what one who works on does not need next."""
        parts, found, pictures = (0, 0, 0) if all_of_it else WORKING_SET
        self._cache.shrink(parts)
        self._found.shrink(found)
        self._pictures.shrink(pictures)
        if not all_of_it:
            return
        worked_out: tuple[Cache[Any], ...] = (
            self._plans, self._solved, self._measured, self._evidence, self._guards, self._grains,
            self._tables,
        )  # fmt: skip
        for cache in worked_out:
            cache.shrink(0)

    def came(self, view: View) -> Floats:
        """The photo as it came, read anew; untouched() keeps it."""
        return self.pyramid.analysis if view == self.analysis_view else self.pyramid.read(view)

    def untouched(self, view: View) -> Floats:
        """The photo as it came, float32 (3, h, w) linear Rec. 2020. Raises PlaceError."""
        return self._looking(AS_IT_CAME).came(view)

    def settled(self, view: View, state: Settled) -> Floats:
        """The photo before its casts, float32 (3, h, w) linear Rec. 2020. Raises PlaceError."""
        return self._looking(state).settled(view)

    def mask(self, mask: Mask, view: View, state: Settled = AS_IT_CAME) -> Floats:
        """A mask over a view of the settled photo, 0..1, float32 (h, w)."""
        return self._looking(state).mask(mask, view)

    def _looking(self, state: Settled) -> Reading:
        return Reading(self, state, self._cache.get)

    def _once(self, state: Settled) -> Reading:
        """For a region that is made once and forgotten, beside what is being looked at."""
        kept: dict[Hashable, Floats] = {}

        def keep(key: Hashable, make: Callable[[], Floats]) -> Floats:
            if key not in kept:
                kept[key] = make()
            return kept[key]

        return Reading(self, state, keep)

    def codes_of(self, asset: Asset) -> Codes:
        """Code values (h, w) of a picture that a recipe refers to, decoded once; of one that is larger than
        the photo, an average of the photo's size. Raises RecipeError."""

        def decoded() -> Codes:
            codes = read_grey(self.assets(asset.sha256))
            if codes.shape != (asset.height, asset.width):
                raise RecipeError("a mask picture is not of the size that the recipe says")
            if codes.size <= self.photo.width * self.photo.height:
                return codes
            return np.asarray(cv2.resize(codes, self.size, interpolation=cv2.INTER_AREA))

        with self._decoding:
            return self._pictures.get(asset, decoded)

    def sight(self, state: Settled = AS_IT_CAME) -> Sight:
        """The photo as it stands before its casts, for what is found in it."""

        def read(view: View) -> Floats:
            return state.applied(self.pyramid.read(view))

        return Sight(self.size, read, self.codes_of)

    def traces(self, part: Part | Drawing, state: Settled = AS_IT_CAME) -> tuple[Trace, ...]:
        """What a part or a drawing finds in the photo; each thing is looked for once, however joined."""
        sight = self.sight(state)
        return tuple(
            self._found.get((look, state), partial(look.trace, sight)) for look in part.looks
        )

    def measured(self, statistic: Statistic, state: Settled, mask: Mask) -> Any:
        """A statistic of the settled photo; mask: of the cast that it is asked for."""
        view = self.analysis_view

        def measure() -> Any:
            picture = self.settled(view, state)
            return statistic.of(picture, lambda: self.mask(mask, view, state))

        key = statistic, state, mask if statistic.of_mask else None
        return self._measured.get(key, measure)

    def mask_codes(self, mask: Mask, bits: int, state: Settled = AS_IT_CAME) -> Codes:
        """A mask over the whole photo at full size, code values of 8 or 16 bits (h, w)."""
        photo, top = self.photo, np.float32(2**bits - 1)
        codes = np.empty((photo.height, photo.width), dtype=np.uint8 if bits == 8 else np.uint16)
        for y0 in range(0, photo.height, TILE[0]):
            region = 0, y0, photo.width, min(y0 + TILE[0], photo.height)
            view = View((photo.width, photo.height), region)
            cover = self._once(state).mask(mask, view)
            codes[y0 : region[3]] = cover * top + np.float32(0.5)
        return codes

    def render(self, recipe: Recipe, view: View) -> Floats:
        """The treated photo over a view, float32 (3, h, w) linear Rec. 2020, unclipped.

        Equal to settled(view) to the bit wherever no cast's mask reaches. Raises PlaceError, RecipeError.
        """
        return self._after(recipe.state, active_casts(recipe), view)

    def _after(self, state: Settled, casts: Sequence[Cast], view: View) -> Floats:
        wide = grown_by_margins(view, casts)
        return cut(self._whole_after(state, casts, wide), wide, view)

    def _whole_after(self, state: Settled, casts: Sequence[Cast], view: View) -> Floats:
        """The same, but for what some remedies miss at the rim."""
        if not casts:
            return self.settled(view, state)

        def make() -> Floats:
            left = self._whole_after(state, casts[:-1], view)
            return self._looking(state).treated(casts, left, view)

        return self._cache.get(("after", state, tuple(casts), view), make)

    def evidence(self, state: Settled, casts: Sequence[Cast], remedy: str) -> Evidence:
        """The samples of the last of some active casts, as one of its remedies finds them: their colours
        after what acts earlier there, from the analysis size."""
        cast, acting = casts[-1], acting_before(casts, remedy)
        if not acting:
            return cast.evidence
        view = self.analysis_view
        key = state, tuple(acting), cast.pairs, cast.guards
        return self._evidence.get(key, lambda: self._left_of(state, acting, cast, view))

    def grain(self, state: Settled, casts: Sequence[Cast], remedy: str) -> Grain | None:
        """The noise in the mask of the last of some active casts and around it, as one of its remedies finds
        it; None where nothing is masked."""
        acting = [roughly(c) for c in acting_before(casts, remedy)]
        view = self.analysis_view
        once = self._once(state)
        masked = [c.mask for c in casts if not look_of(c)]  # a look has no place of its own

        def now(region: View) -> Floats:
            wide = grown_by_margins(region, acting)
            chain = [acting[: i + 1] for i in range(len(acting))]
            return cut(once.in_turn(chain, wide), wide, region)

        def measure() -> Grain | None:
            masks = [self.mask(m, view, state) for m in masked]
            settled, others = self.settled(view, state), np.max(masks, axis=0)
            return measure_grain(
                self.size, self.to_device, settled, masks[-1], others, now, once.settled
            )

        key = state, tuple(acting), tuple(masked)
        return self._grains.get(key, measure)

    def found_by(self, state: Settled, casts: Sequence[Cast], remedy: str, view: View) -> Floats:
        """The photo as one remedy of the last of some casts finds it, (3, h, w). Raises PlaceError."""
        return self._after(state, acting_before(casts, remedy), view)

    def guards(self, state: Settled, cast: Cast) -> AmountField | None:
        """Where the colours that a cast keeps lie on the settled photo, None without any."""
        places = tuple(g.sample.at for g in cast.guards if g.sample.at is not None)
        if not places:
            return None

        def found() -> AmountField:
            return guard_field(self.settled(self.analysis_view, state), places)

        return self._guards.get((state, places), found)

    def _left_of(self, state: Settled, acting: Sequence[Cast], cast: Cast, view: View) -> Evidence:
        """What some casts leave of another's samples."""
        before, after = self.settled(view, state), self._after(state, acting, view)

        def left(sample: Sample) -> Sample:
            if sample.at is None:
                return sample
            spot = around_place(sample.at, view)
            moved = (after[spot] - before[spot]).mean(axis=(1, 2))
            red, green, blue = (float(c + d) for c, d in zip(sample.rgb, moved, strict=True))
            return sample.model_copy(update={"rgb": (red, green, blue)})

        # What a sample carries of the cast is what it carried when it came.
        return replace(cast.resampled(left).evidence, carried=cast.evidence.carried)

    def amounts(
        self, recipe: Recipe, cast_id: str, view: View
    ) -> list[tuple[tuple[float, float], Floats]]:
        """Of a cast that is active, for each direction: the shift of amount 1, log chroma, and how much of it
        lies where (h, w); where the mask is not, that is not told. Raises PlaceError."""
        casts = casts_until(recipe, cast_id)
        return self._looking(recipe.state).amounts(casts, view) if casts else []

    def table(self, sha256: str) -> Cube:
        """A table that a recipe refers to, read once. Raises RecipeError, TableError."""
        return self._tables.get(sha256, lambda: read_cube(self.assets(sha256)))

    def _looked(self, look: Look, rgb: Floats) -> Floats:
        """A picture (3, h, w) with the photo's look."""
        return look.seen(rgb, np.ones(rgb.shape[1:], np.float32), self.table(look.table.sha256))

    def passes(self, state: Settled, casts: Sequence[Cast]) -> tuple[Pass, ...]:
        """The passes of the last of some active casts."""
        return self._plan(state, casts)[0]

    def _plan(self, state: Settled, casts: Sequence[Cast]) -> tuple[tuple[Pass, ...], Treated]:
        view = self.analysis_view
        if not casts:
            return (), Treated(self.settled(view, state))

        def plan() -> tuple[tuple[Pass, ...], Treated]:
            _, before = self._plan(state, casts[:-1])
            if look := look_of(casts[-1]):
                return (), before.looked(partial(self._looked, look))
            untouched = casts[-1].model_copy(update={"touches": ()})
            first = partial(self._solved.get, _said(state, [*casts[:-1], untouched]))
            return treat(casts[-1], self.mask(casts[-1].mask, view, state), before, first)

        # Held while working: picture, figures and readout ask at once, and one answer serves all.
        with self._planning:
            return self._plans.get(_said(state, casts), plan)

    def deliver(
        self,
        recipe: Recipe,
        *,
        bits: int | None = None,
        in_place: bool = False,
        progress: Callable[[float], None] = lambda _: None,
    ) -> Photo:
        """The photo at full size with the recipe applied, code values untouched outside the masks.

        bits: of the code values, 8 or 16, None for the photo's own; at more than those what changes is as
        fine as it was computed, and the rest as exact as it came. in_place: write into this engine's own
        photo, which saves a copy; the engine is of no use after. progress: told the share done, 0..1; may
        raise to cancel. Raises RecipeError.
        """
        photo, state, active = self.photo, recipe.state, active_casts(recipe)
        size = self.size
        # Such casts look around each tile, at pixels that must be as they came.
        looking = any(c.mask.looks_around or margin_of(c) for c in active)
        in_place = in_place and not looking
        codes = at_depth(photo.codes, bits or photo.bits)
        if codes is photo.codes and not in_place:
            codes = codes.copy()
        if active:
            self._work_out(state, active)
        tiles = list(self._touched_tiles(state, [c.mask.reach(size) for c in active]))

        def make(tile: tuple[Region, list[int]]) -> None:
            region, near = tile
            upto = [active[: i + 1] for i in near]
            self._deliver_tile(state, upto, View(size, region), codes)

        for done, _ in enumerate(each_on_one_core(make, tiles), start=1):
            progress(done / len(tiles))
        progress(1.0)
        alpha = None if photo.alpha is None else at_depth(photo.alpha, bits or photo.bits)
        return replace(photo, codes=codes, alpha=alpha)

    def _work_out(self, state: Settled, casts: Sequence[Cast]) -> None:
        """What delivery wants known of the whole photo: before anything is written, and with all cores."""
        self.settled(self.analysis_view, state)
        for i, cast in enumerate(casts):
            upto = casts[: i + 1]
            if cast.follows:
                self.passes(state, upto)
            self.guards(state, cast)
            for remedy in cast.remedies:
                if remedy.acts and remedy.measures_grain:
                    self.grain(state, upto, remedy.id)

    def _touched_tiles(
        self, state: Settled, reaches: Sequence[Region]
    ) -> Iterator[tuple[Region, list[int]]]:
        """Where delivery has work, and which casts reach there; reaches: of the active casts' masks."""
        wide, tall = self.size
        for y0 in range(0, tall, TILE[0]):
            for x0 in range(0, wide, TILE[1]):
                tile = x0, y0, min(x0 + TILE[1], wide), min(y0 + TILE[0], tall)
                near = [i for i, reach in enumerate(reaches) if overlap(reach, tile)]
                touched = overlap(around(reaches[i] for i in near), tile) if near else None
                if touched := tile if state.active else touched:
                    yield touched, near

    def _deliver_tile(
        self, state: Settled, casts: Sequence[Sequence[Cast]], view: View, codes: Codes
    ) -> None:
        """casts: those whose masks reach there, each behind the ones before it."""
        reading = self._once(state)
        wide = grown_by_margins(view, [upto[-1] for upto in casts])
        came, rgb = reading.came(wide), reading.in_turn(casts, wide)
        if rgb is not came:
            x0, y0, x1, y1 = view.region
            came, rgb = cut(came, wide, view), cut(rgb, wide, view)
            encode_changes(came, rgb, codes[y0:y1, x0:x1], self.photo.profile)


def margin_of(cast: Cast) -> int:
    """Pixels of the photo that its remedies look around each place."""
    return sum(r.margin for r in cast.remedies if r.acts)


def grown_by_margins(view: View, casts: Sequence[Cast]) -> View:
    """With all that some casts look at to make a view; where its pixels are larger than the photo's, with
    more than enough."""
    margin = sum(map(margin_of, casts))
    return view.grown(margin) if margin else view


def cut(rgb: Floats, wide: View, view: View) -> Floats:
    """A view out of a wider one."""
    if wide == view:
        return rgb
    left, top = wide.region[:2]
    x0, y0, x1, y1 = view.region
    return np.ascontiguousarray(rgb[:, y0 - top : y1 - top, x0 - left : x1 - left])


def around_place(at: tuple[float, float], view: View) -> tuple[slice, slice, slice]:
    """The pixels of a whole-photo view next to a place."""
    x, y = pixel_at(at, view.shape)
    return np.s_[:, max(y - 1, 0) : y + 2, max(x - 1, 0) : x + 2]


def _said(state: Settled, casts: Sequence[Cast]) -> tuple[object, ...]:
    """What the passes depend on: not the amounts, but all of a look, through which later casts are seen."""
    return state, tuple(
        (c.pairs, c.guards, c.touches, c.mask, c.follows, look_of(c)) for c in casts
    )
