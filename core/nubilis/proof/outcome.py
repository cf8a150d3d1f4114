"""A photo before and after a recipe, as every figure and every picture of a figure reads it."""

import math
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import cv2
import numpy as np
import numpy.typing as npt

from nubilis.arrays import Floats
from nubilis.cast.field import read_amount
from nubilis.colour.cielab import lab_planes
from nubilis.colour.difference import difference_plane
from nubilis.engine.acting import casts_until
from nubilis.engine.engine import Engine
from nubilis.engine.treatment import Pass
from nubilis.people.people import Face
from nubilis.photo.pyramid import View
from nubilis.proof.judgement import Change
from nubilis.proof.known_skin import known_skin
from nubilis.recipe.document import Cast, Recipe

CLIPPED = 0.9999
CODE_8_BIT = 0.5  # CIELAB of one code value, about: .39 in lightness, more in colour
AROUND = 24  # pixels: as far as blurs reach in which a place is judged
BESIDE = 0.15  # of its size, shown around what is looked at closely
FULL = 0.5  # coverage: where a mask counts as on
ANOTHER_CALM = 0.012  # of the long edge: what is smaller is no cast
CLEAN = 0.1  # amount of the cast: what carries less counts as not tainted

Spans = tuple[slice, slice]


@dataclass(frozen=True, eq=False)
class Outcome:
    """At the analysis size, of all casts together; each plane is computed once, when it is asked for. faces:
    of the people who are known."""

    engine: Engine
    recipe: Recipe
    faces: tuple[Face, ...] = ()

    @property
    def view(self) -> View:
        return self.engine.analysis_view

    @cached_property
    def pictures(self) -> tuple[Floats, Floats]:
        """Linear Rec. 2020 (3, h, w) of the photo with base and look alone, and of the treated one."""
        before, after = (
            self.engine.render(r, self.view) for r in (self.recipe.uncast, self.recipe)
        )
        return before, after

    @cached_property
    def lab(self) -> tuple[Floats, Floats]:
        """The same in CIELAB D50."""
        before, after = self.pictures
        return lab_planes(before), lab_planes(after)

    @cached_property
    def moved(self) -> Floats:
        """CIEDE2000 from before to after, float32 (h, w)."""
        return difference_plane(*self.lab)

    @cached_property
    def area(self) -> Spans:
        """Rows and columns that hold all that the masks reach, and as much around as judging looks at."""
        spans = []
        for axis, size in ((1, self.view.shape[0]), (0, self.view.shape[1])):
            there = np.flatnonzero(self.reached.any(axis=axis))
            first, last = (int(there[0]), int(there[-1])) if there.size else (0, -1)
            spans.append(slice(max(first - AROUND, 0), min(last + 1 + AROUND, size)))
        return spans[0], spans[1]

    @cached_property
    def change(self) -> Change:
        """Within the area: nothing changes beyond it."""
        rows, columns = self.area
        before, after = (np.ascontiguousarray(v[:, rows, columns]) for v in self.lab)
        code = CODE_8_BIT if self.engine.photo.bits == 8 else 0.0
        origin, long_edge = (columns.start, rows.start), max(self.view.shape)
        skin = known_skin(self.recipe, self.faces, self.view)[rows, columns]
        return Change(before, after, self._newly_clipped(), code, origin, long_edge, skin)

    @cached_property
    def masks(self) -> dict[str, Floats]:
        """By cast, 0..1 (h, w), also of those that are switched off."""
        state = self.recipe.state
        return {c.id: self.engine.mask(c.mask, self.view, state) for c in self.recipe.casts}

    @cached_property
    def reached(self) -> npt.NDArray[np.bool_]:
        """Where the mask of any cast that is on reaches."""
        reached = np.zeros(self.view.shape, dtype=np.bool_)
        for cast in self.recipe.casts:
            if cast.on:
                reached |= self.masks[cast.id] > 0.0
        return reached

    def clean(self, cast: Cast) -> npt.NDArray[np.bool_] | None:
        """Where the photo carries none of a cast's taint; None for one that nothing was worked out for."""
        passes = self._passes(cast)
        if not passes:
            return None
        before = self.engine.settled(self.view, self.recipe.state)
        mask = self.masks[cast.id]
        amounts = [read_amount(step.field, before, mask, self.view) for step in passes]
        return np.asarray(np.max(amounts, axis=0) < CLEAN)

    def another(self, cast: Cast) -> Floats:
        """By how much another cast, that no other mask takes care of, explains what is masked better than
        this one, nats (h, w); 0 for one that nothing was worked out for."""
        passes = self._passes(cast)
        nothing = np.zeros(self.view.shape, dtype=np.float32)
        if not passes:
            return nothing
        coarse = np.min([step.another for step in passes], axis=0)
        calm = cv2.GaussianBlur(coarse, (0, 0), ANOTHER_CALM * max(coarse.shape))
        plane = cv2.resize(calm, self.view.shape[::-1], interpolation=cv2.INTER_LINEAR)
        others = [self.masks[c.id] for c in self.recipe.casts if c.on and c.id != cast.id]
        return np.asarray(plane * (np.float32(1.0) - np.max([nothing, *others], axis=0)))

    def _passes(self, cast: Cast) -> tuple[Pass, ...]:
        """What was worked out for a cast; none for one that does nothing."""
        casts = casts_until(self.recipe, cast.id)
        return self.engine.passes(self.recipe.state, casts) if casts else ()

    def close_view(self, cast: Cast, long_edge: int) -> View | None:
        """The photo around what a cast's mask holds, not enlarged; None where it holds nothing."""
        rows, columns = (
            np.flatnonzero((self.masks[cast.id] > FULL).any(axis=axis)) for axis in (1, 0)
        )
        if not rows.size:
            return None
        part = max(int(rows[-1] - rows[0]), int(columns[-1] - columns[0])) + 1
        part = max(round(part * (1.0 + 2.0 * BESIDE)), 1)
        photo = self.engine.photo
        view = View.fit(photo, round(long_edge * max(self.view.shape) / part))
        scale = max(view.size) / max(self.view.shape)
        x0, y0, x1, y1 = (v * scale for v in (columns[0], rows[0], columns[-1] + 1, rows[-1] + 1))
        by = round(BESIDE * max(x1 - x0, y1 - y0))
        close = View(view.size, (math.floor(x0), math.floor(y0), math.ceil(x1), math.ceil(y1)))
        return close.grown(by)

    def whole(self, plane: npt.NDArray[Any]) -> Floats:
        """A plane of the area, with nothing around it."""
        whole = np.zeros(self.view.shape, dtype=np.float32)
        whole[self.area] = plane
        return whole

    def _newly_clipped(self) -> npt.NDArray[np.bool_]:
        rows, columns = self.area
        was, now = (self._clipped(v[:, rows, columns]) for v in self.pictures)
        return now & ~was

    def _clipped(self, rgb: Floats) -> npt.NDArray[np.bool_]:
        """Where a channel lies at an end of the photo's own gamut."""
        device = np.tensordot(self.engine.photo.profile.encoding_matrix, rgb, axes=1)
        return np.asarray(((device > CLIPPED) | (device < -1e-4)).any(axis=0))
