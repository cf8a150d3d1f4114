"""Casts of one frame of a series, laid on the others: what was drawn moves with what it lies on, what was
found is followed, places that were sampled are found again, colours are those of that one frame."""

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from nubilis.arrays import Floats
from nubilis.engine.engine import Engine
from nubilis.engine.sample import sampled
from nubilis.mask.combine import AnyPart, Mask
from nubilis.mask.edges import read_trace, traced
from nubilis.mask.move import Move
from nubilis.mask.people import People
from nubilis.mask.picture import Picture
from nubilis.mask.snap import Snap
from nubilis.photo.grey import grey_png
from nubilis.photo.pyramid import View
from nubilis.recipe.asset import Asset
from nubilis.recipe.document import Cast, Pair, Recipe, Sample
from nubilis.recipe.model import Place
from nubilis.series.again import with_keys_anew
from nubilis.series.follow import CHECK, Followed, Series
from nubilis.series.frame import EDGE, Frame, as_pixel, as_place, frame_of, nearest
from nubilis.series.motion import Moved, undone

FINE = 1600  # pixels of the long edge that a followed mask is kept at
MOST = 200  # frames of one series
NEAR = 24  # pixels around where a sample would be, that its material is looked for in
DRAWN = "drawn"  # stands for all parts of a mask that are drawn

Keep = Callable[[int, bytes], Asset]


@dataclass(frozen=True)
class Carried:
    """casts: for that frame; confidence: 0..1; followed: else they lie unmoved, switched off; key: whether
    they are the frame's own."""

    casts: tuple[Cast, ...]
    confidence: float
    followed: bool
    key: bool = False

    @property
    def check(self) -> bool:
        return not self.key and self.confidence < CHECK


class Follower:
    """A series whose casts are known on one frame or several. engine_of: the i-th frame's; keys: the casts as
    they stand on those that were treated by hand, with their recipes; of the first key are those that are
    followed; titles: of the frames; keep: where a frame's mask pictures go."""

    def __init__(
        self,
        engine_of: Callable[[int], Engine],
        titles: Sequence[str],
        keys: Mapping[int, Recipe],
        keep: Keep,
    ) -> None:
        self._engine_of, self._titles, self._keys, self._keep = engine_of, titles, keys, keep
        self._small: dict[int, tuple[Floats, View]] = {}
        self._series = Series(len(titles), self._frame)
        self._found: dict[tuple[str, str], list[Followed]] = {}

    def carried(self) -> Iterator[float | Carried]:
        """Yields the share done, and the frames' casts in their order."""
        first = self._keys[min(self._keys)]
        work = [(c, name) for c in first.casts for name in _followed_by(c)]
        for done, (cast, name) in enumerate(work):
            yield 0.8 * done / len(work)
            self._found[cast.shared_id, name] = self._follow(cast, name)
        for i in range(len(self._titles)):
            yield 0.8 + 0.2 * i / len(self._titles)
            yield self._on(i, first.casts)

    def _frame(self, i: int) -> Frame:
        """Kept small: frames are asked for again for every mask."""
        if i not in self._small:
            frame = frame_of(self._engine_of(i).sight())
            self._small[i] = frame.rgb.astype(np.float16), frame.view
            return frame
        rgb, view = self._small[i]
        return Frame(rgb.astype(np.float32), view)

    def _follow(self, cast: Cast, name: str) -> list[Followed]:
        planes = {}
        for i, recipe in self._keys.items():
            own = _own(recipe, cast)
            part = own and next((p for p in own.mask.parts if p.id == name), None)
            engine, state = self._engine_of(i), recipe.state
            view = engine.sight().fit(EDGE)
            if own and name == DRAWN:
                planes[i] = engine.mask(own.mask, view, state)
            elif part:
                bare = part.model_copy(update={"join": "add", "invert": False, "strength": 1.0})
                planes[i] = engine.mask(Mask(parts=(bare,)), view, state)
        return self._series.follow(planes, loose=True if name == DRAWN else None)

    def _on(self, i: int, casts: Sequence[Cast]) -> Carried:
        if i in self._keys:
            return Carried(self._keys[i].casts, 1.0, followed=True, key=True)
        key = min(self._keys, key=lambda k: (abs(k - i), k))
        own = [(_own(self._keys[key], c) or c, self._of(c, i)) for c in casts]
        steps = [f for _, found in own for f in found.values()]
        sure = min((f.confidence for f in steps), default=self._alike(key, i))
        if any(f.mask is None for f in steps) or not sure:
            off = (c.abroad(self._keys[key].base, self._titles[key], places=True) for c, _ in own)
            return Carried(
                tuple(c.model_copy(update={"on": False}) for c in off), 0.0, followed=False
            )
        return Carried(tuple(self._cast(c, f, key, i) for c, f in own), sure, followed=True)

    def _of(self, cast: Cast, i: int) -> dict[str, Followed]:
        return {n: found[i] for (c, n), found in self._found.items() if c == cast.shared_id}

    def _alike(self, key: int, i: int) -> float:
        """Of a mask without places nothing is to be followed; it still belongs to the same things only."""
        step = 1 if i > key else -1
        between = range(key + step, i + step, step)
        return float(all(self._series.motion(j, j - step) is not None for j in between))

    def _cast(self, cast: Cast, found: dict[str, Followed], key: int, i: int) -> Cast:
        move = self._move(found, i)
        parts = tuple(self._part(p, found, move, i) for p in cast.mask.parts)
        base = self._keys[key].base
        there = cast.abroad(base, self._titles[key], places=True)
        pairs = zip(cast.pairs, there.pairs, strict=True)
        brought = there.model_copy(
            update={
                "mask": cast.mask.model_copy(update={"parts": parts}),
                "pairs": tuple(self._pair(own, far, move, (key, i)) for own, far in pairs),
                "touches": tuple(
                    t.model_copy(update={"at": move.place(t.at)}) for t in cast.touches
                ),
                "remedies": tuple(r.moved(move) for r in cast.remedies),
            }
        )
        return with_keys_anew(cast, brought)

    def _move(self, found: dict[str, Followed], i: int) -> Move:
        if not found:
            return Move()
        # What is drawn goes with the whole mask; without anything drawn, with what was found first.
        one = found.get(DRAWN) or next(iter(found.values()))
        return _move_of(undone(one.moved), self._frame(i).view.long_edge)

    def _part(self, part: AnyPart, found: dict[str, Followed], move: Move, i: int) -> AnyPart:
        if part.id not in found:
            return part.moved(move)
        mask = found[part.id].mask
        assert mask is not None
        data = grey_png((self._fine(mask, i) * 255.0 + 0.5).astype(np.uint8))
        told = {name: getattr(part, name) for name in ("id", "join", "on", "invert", "strength")}
        return Picture(asset=self._keep(i, data), **told)

    def _fine(self, mask: Floats, i: int) -> Floats:
        """A followed mask drawn to the frame's edges."""
        frame, sight = self._frame(i), self._engine_of(i).sight()
        view = sight.fit(FINE)
        return read_trace(traced(frame.rgb, mask, frame.view), sight.read(view), view)

    def _pair(self, own: Pair, abroad: Pair, move: Move, way: tuple[int, int]) -> Pair:
        tainted = self._sample(own.tainted, move, *way)
        return abroad if tainted is None else abroad.model_copy(update={"tainted": tainted})

    def _sample(self, sample: Sample, move: Move, key: int, i: int) -> Sample | None:
        """The same place on another frame, or one of the same material near where it would be; None where
        neither is to be seen."""
        if sample.at is None:
            return None
        places = (self._place(at, move, key, i) for at in (sample.at, *sample.further))
        seen = [at for at in places if at is not None]
        if not seen:
            return None
        measured = sampled(self._engine_of(i), seen[0], sample.radius, seen[1:])
        return measured.model_copy(update={"kind": sample.kind})

    def _place(self, at: Place, move: Move, key: int, i: int) -> Place | None:
        frame, first = self._series.frame(i), self._series.frame(key)
        edge = frame.view.long_edge
        was, moved = (as_pixel(one, edge) for one in (at, move.place(at)))
        there = self._series.track(was, key, i)
        if there is None:
            x, y = nearest(was, first.shape)
            there = frame.like(first.signs[y, x], moved, NEAR)
        return there and as_place(there, edge)


def _own(recipe: Recipe, cast: Cast) -> Cast | None:
    """The cast as it stands in another frame's recipe."""
    return next((c for c in recipe.casts if c.shared_id == cast.shared_id), None)


def _followed_by(cast: Cast) -> list[str]:
    """What of a mask is followed: pictures one by one, and all that is drawn together."""
    pictures = [p.id for p in cast.mask.parts if isinstance(p, Picture | People | Snap)]
    drawn = any(p.has_places for p in cast.mask.parts if p.id not in pictures)
    return pictures + ([DRAWN] if drawn else [])


def _move_of(moved: Moved, edge: int) -> Move:
    """In fractions of the long edge; moved: in pixels, whose centres are whole numbers."""
    a, b = float(moved[0, 0]), float(moved[1, 0])
    half = 0.5 / edge
    dx = float(moved[0, 2]) / edge + half - (a * half - b * half)
    dy = float(moved[1, 2]) / edge + half - (b * half + a * half)
    return Move(a, b, dx, dy)
