"""The promises over random recipes of all kinds of remedies together."""

import unittest
from typing import Any, get_args
from unittest import mock

import cv2
import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from nubilis.colour.cielab import lab_planes
from nubilis.colour.difference import difference_plane
from nubilis.colour.profile import srgb
from nubilis.engine import engine as engine_module
from nubilis.engine.engine import Engine
from nubilis.mask.combine import Mask
from nubilis.mask.whole import Whole
from nubilis.photo.picture import Photo
from nubilis.photo.pyramid import View
from nubilis.planning import sample_at
from nubilis.recipe.document import Cast, Guard, Recipe
from nubilis.remedy.kinds import AnyRemedy

from .effort import examples
from .pictures import brush, recipe_for, wall_photo

share = st.floats(0.0, 1.0)
signed = st.floats(-1.0, 1.0)
colour = st.tuples(*[st.floats(0.02, 0.8)] * 3)
modest = st.tuples(*[st.floats(0.2, 0.4)] * 3)
place = st.tuples(st.floats(0.0, 1.0), st.floats(0.0, 0.66))


spot = st.tuples(st.floats(-0.2, 0.2), st.floats(-0.2, 0.2))
row = st.tuples(*[st.floats(-0.5, 1.5)] * 3)
bend = st.tuples(st.floats(0.2, 0.8), st.floats(0.2, 0.8)).map(lambda p: [p])


def numbered(all_: list[dict[str, Any]]) -> list[dict[str, Any]]:
    return [{"id": str(i)} | one for i, one in enumerate(all_)]


def strokes() -> Any:
    one = st.fixed_dictionaries(
        {
            "size": st.floats(0.05, 0.5),
            "opacity": st.floats(0.05, 1.0),
            "points": st.lists(st.tuples(place, st.just(1.0)), min_size=1, max_size=3),
            "erase": st.booleans(),
        },
        optional={"tone": colour},
    )
    return st.lists(one, max_size=4).map(numbered)


KINDS: dict[str, dict[str, Any]] = {
    "neutralise": {"follow": share, "soften": share},
    "match": {"follow": share, "hold_luminance": share},
    "shift": {"hue": st.floats(-60.0, 60.0), "saturation": signed, "luminance": st.floats(-0.2, 0.2)},
    # Evened towards a much stronger colour, a grey wall's noise becomes one of hues; views average that.
    "even-out": {"target": modest, "hue": signed, "saturation": signed, "lightness": share},
    "recolour": {"target": colour, "variation": share, "lightness": share},
    "wash": {"strokes": strokes()},
    "glaze": {"target": colour},
    "zones": {
        "shadows_red": st.floats(-0.1, 0.1), "mids_yellow": st.floats(-0.1, 0.1),
        "lights_saturation": signed, "shadows_light": st.floats(-0.2, 0.2),
    },
    "tone": {"exposure": st.floats(-1.0, 1.0), "contrast": signed, "local": signed, "detail": signed},
    "calm": {"colour": st.floats(0.0, 2.0), "lightness": st.floats(0.0, 2.0)},
    "by-hue": {"points": st.lists(
        st.fixed_dictionaries({
            "hue": st.floats(0.0, 360.0), "turn": st.floats(-40.0, 40.0), "saturation": signed,
            "light": st.floats(-0.2, 0.2),
        }), max_size=3).map(numbered)},
    "in-plane": {"points": st.lists(
        st.fixed_dictionaries({
            "start": spot, "end": spot, "light": st.floats(-0.2, 0.2),
            "reach": st.sampled_from(("all", "dark", "light")),
        }), max_size=3).map(numbered), "crossover": share},
    "curves": {"lightness": bend, "red": bend, "black": bend},
    "channel-mix": {"red": row, "green": row, "hold_luminance": st.booleans()},
    "restore": {"colour_only": st.booleans()},
}  # fmt: skip
# Those that leave luminance alone, with the settings that they have here.
COLOUR_ONLY = ("glaze", "recolour", "wash")


def remedy(kind: str) -> Any:
    fields = {"kind": st.just(kind), "amount": st.floats(0.0, 1.2), **KINDS[kind]}
    return st.fixed_dictionaries(fields)


def some(kinds: tuple[str, ...] = tuple(KINDS), most: int = 4) -> Any:
    one = st.sampled_from(kinds).flatmap(remedy)
    return st.lists(one, min_size=1, max_size=most)


def with_remedies(recipe: Recipe, documents: list[dict[str, Any]], **more: Any) -> Recipe:
    cast = recipe.casts[0].model_dump(mode="json")
    cast["remedies"] = [{"id": f"r{i}"} | d for i, d in enumerate(documents)]
    return Recipe(casts=(Cast.model_validate(cast).model_copy(update=more),))


def patched_photo(h: int = 240, w: int = 360) -> Photo:
    """The wall with a blue and a dark patch on it."""
    photo = wall_photo(h, w)
    codes = photo.codes.copy()
    codes[int(0.15 * h) : int(0.45 * h), int(0.1 * w) : int(0.3 * w)] = (40, 80, 150)
    codes[int(0.6 * h) : int(0.85 * h), int(0.2 * w) : int(0.45 * w)] //= 4
    return Photo(np.ascontiguousarray(codes), photo.profile)


class Promises(unittest.TestCase):
    def test_no_kind_is_forgotten(self) -> None:
        models = get_args(get_args(AnyRemedy)[0])
        self.assertEqual({m.model_fields["kind"].default for m in models}, set(KINDS))

    @given(some())
    @settings(max_examples=examples(25))
    def test_outside_the_mask_nothing_moves(self, documents: list[dict[str, Any]]) -> None:
        photo = patched_photo()
        recipe = with_remedies(recipe_for(photo, brush(0.4, 0.6)), documents)
        engine = Engine(photo)
        full = View((photo.width, photo.height), (0, 0, photo.width, photo.height))
        outside = engine.mask(recipe.casts[0].mask, full) == 0.0
        done = engine.deliver(recipe).codes
        np.testing.assert_array_equal(done[outside], photo.codes[outside])

    @given(some())
    @settings(max_examples=examples(10))
    def test_at_no_amount_nothing_moves(self, documents: list[dict[str, Any]]) -> None:
        photo = patched_photo()
        rest = [d | {"amount": 0.0} for d in documents]
        recipe = with_remedies(recipe_for(photo, Whole(id="w")), rest)
        np.testing.assert_array_equal(Engine(photo).deliver(recipe).codes, photo.codes)

    @given(some())
    @settings(max_examples=examples(15))
    def test_tiles_make_what_the_whole_makes(self, documents: list[dict[str, Any]]) -> None:
        photo = patched_photo()
        recipe = with_remedies(recipe_for(photo, brush(0.5, 0.6)), documents)
        whole = Engine(photo).deliver(recipe).codes
        with mock.patch.object(engine_module, "TILE", (61, 97)):
            tiled = Engine(photo).deliver(recipe).codes
        apart = np.abs(tiled.astype(int) - whole)
        self.assertLessEqual(int(apart.max()), 2)
        self.assertLess(float((apart > 0).mean()), 2e-3)

    @given(some())
    @settings(max_examples=examples(15))
    def test_what_one_sees_is_what_is_delivered(self, documents: list[dict[str, Any]]) -> None:
        photo = patched_photo(600, 900)
        recipe = with_remedies(recipe_for(photo, brush(0.5, 0.6)), documents)
        engine = Engine(photo)
        delivered = engine.deliver(recipe)
        view = View.fit(photo, 450)
        planes = np.clip(np.tensordot(engine.to_device, engine.render(recipe, view), axes=1), 0, 1)
        preview = np.tensordot(photo.profile.matrix, planes, axes=1).astype(np.float32)
        off = difference_plane(lab_planes(preview), lab_planes(Engine(delivered).untouched(view)))
        # Along the hard rims of the patches the order of clipping and averaging counts.
        hard = cv2.Canny(photo.codes, 60, 120)
        rims = cv2.resize(cv2.dilate(hard, np.ones((7, 7), np.uint8)), (450, 300)) > 0
        self.assertLess(float(off.mean()), 0.3)
        self.assertLess(float(np.percentile(off[~rims], 99)), 1.5)

    @given(some(COLOUR_ONLY))
    @settings(max_examples=examples(15))
    def test_colour_moves_and_luminance_stays(self, documents: list[dict[str, Any]]) -> None:
        photo = patched_photo()
        held = [d | ({"lightness": 0.0} if d["kind"] == "recolour" else {}) for d in documents]
        for one in held:
            if one["kind"] == "wash":  # strokes without a tone would make lighter
                one["strokes"] = [s for s in one["strokes"] if s["erase"] or "tone" in s]
        recipe = with_remedies(recipe_for(photo, Whole(id="w")), held)
        engine = Engine(photo)
        view = View.fit(photo, 360)
        before, after = (
            lab_planes(p)[0] for p in (engine.untouched(view), engine.render(recipe, view))
        )
        self.assertLess(float(np.abs(after - before).max()), 0.3)

    @given(some())
    @settings(max_examples=examples(20))
    def test_kept_colours_hold(self, documents: list[dict[str, Any]]) -> None:
        photo = patched_photo()
        engine = Engine(photo)
        # A match is a fit to all that it is told, the kept colours among it; followed, it holds them too.
        told = [
            d | ({"follow": 1.0} if d["kind"] in ("match", "neutralise") else {}) for d in documents
        ]
        kept = Guard(id="g", sample=sample_at(engine, (72, 72)))
        base = recipe_for(photo, Whole(id="w"))
        recipe = with_remedies(base, told, guards=(kept,), mask=Mask(parts=(Whole(id="w"),)))
        done = engine.deliver(recipe).codes
        moved = np.abs(done[60:85, 55:90].astype(int) - photo.codes[60:85, 55:90])
        self.assertLessEqual(int(moved.max()), 2)


def saturated_photo() -> Photo:
    """Patches of light as strong as the photo's own primaries can show, and what lies between."""
    rng = np.random.default_rng(11)
    strong = rng.choice([0, 40, 200, 255], (12, 18, 3)).astype(np.uint8)
    return Photo(np.repeat(np.repeat(strong, 20, axis=0), 20, axis=1), srgb())


class Saturated(unittest.TestCase):
    @given(st.data())
    @settings(max_examples=examples(60), deadline=None)
    def test_no_kind_clips_single_channels(self, data: Any) -> None:
        """What would leave the gamut gives way in chroma, at its hue; what reaches white is white."""
        kind = data.draw(st.sampled_from(tuple(KINDS)))
        self.assert_shown(data.draw(remedy(kind)))

    def test_less_light_than_none_is_black(self) -> None:
        self.assert_shown(
            {"id": "m", "kind": "channel-mix", "red": (0.0, 0.0, 0.0), "green": (0.0, 1.0, 1.0)}
            | {"hold_luminance": False}
        )

    def assert_shown(self, document: dict[str, Any]) -> None:
        engine = Engine(saturated_photo())
        base = recipe_for(engine.photo, Whole(id="w"))
        recipe = with_remedies(base, [document])
        view = View.fit(engine.photo, 180)
        now = np.tensordot(engine.to_device, engine.render(recipe, view), axes=1)
        beyond = np.maximum(now.max(axis=0) - 1.0, -now.min(axis=0))
        white = now.min(axis=0) > 0.97 * now.max(axis=0)
        clipped = (beyond > 2e-3) & ~white
        self.assertEqual(int(clipped.sum()), 0, (document["kind"], float(beyond.max())))


if __name__ == "__main__":
    unittest.main()
