"""Recolour, glaze and wash: one colour laid over another, with light, texture and glints kept."""

import itertools
import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from nubilis.arrays import Floats
from nubilis.colour.cielab import lab_planes
from nubilis.colour.oklab import oklab_to_linear_rgb
from nubilis.colour.profile import srgb
from nubilis.engine.engine import Engine
from nubilis.mask.combine import Mask
from nubilis.mask.whole import Whole
from nubilis.photo.pyramid import View
from nubilis.recipe.document import Cast, Recipe
from nubilis.remedy.glaze import Glaze
from nubilis.remedy.recolour import Recolour
from nubilis.remedy.remedy import applied_in_order
from nubilis.remedy.tint import relative
from nubilis.remedy.wash import KEPT_EVERY, Wash, WashStroke

from .effort import examples
from .grounds import colours, ground, lch, one
from .pictures import wall_photo

TEAL = (0.06, 0.16, 0.2)


def cloth(hue: float, chroma: float = 0.09, glint: bool = True) -> Floats:
    """A cloth in folds, of one paint, with a white glint; linear Rec. 2020 (3, 40, 60)."""
    folds = (
        0.45 + 0.12 * np.sin(np.linspace(0.0, 9.0, 60))[None] + np.linspace(0.0, 0.05, 40)[:, None]
    )
    # Shading makes a paint lighter and more colourful at once.
    c = chroma * folds / 0.5
    lab = np.stack([folds, c * np.cos(hue), c * np.sin(hue)])
    rgb = np.asarray(oklab_to_linear_rgb(np.moveaxis(lab, 0, 2)), dtype=np.float64)
    if glint:
        rgb[10:14, 20:24] += 0.75
    return np.ascontiguousarray(np.moveaxis(rgb, 2, 0), dtype=np.float32)


def full(rgb: Floats) -> Floats:
    return np.ones(rgb.shape[1:], dtype=np.float32)


def beyond(rgb: Floats) -> float:
    """How far outside sRGB."""
    device = np.tensordot(srgb().encoding_matrix, rgb, axes=1)
    return float(max(-device.min(), device.max() - 1.0))


class Recolouring(unittest.TestCase):
    def test_nothing_of_the_old_hue_and_all_of_the_shading(self) -> None:
        for hue in (0.4, 2.0, 4.5):
            rgb = cloth(hue, glint=False)
            done = Recolour(id="r", target=TEAL).applied(rgb, full(rgb), ground(rgb))
            before, after = lch(rgb), lch(done)
            np.testing.assert_allclose(after[2], lch(one(TEAL))[2, 0], atol=0.2)
            light = [lab_planes(v)[0].ravel() for v in (rgb, done)]
            np.testing.assert_allclose(light[1], light[0], atol=0.05)
            # As colourful as the light there allows of that paint.
            self.assertGreater(np.corrcoef(before[0], after[1])[0, 1], 0.99)

    def test_a_glint_keeps_its_paleness(self) -> None:
        rgb = cloth(0.4)
        done = Recolour(id="r", target=TEAL).applied(rgb, full(rgb), ground(rgb))
        chroma = [np.hypot(*lab_planes(v)[1:, 11:13, 21:23]) for v in (rgb, done)]
        self.assertLess(float((chroma[1] - chroma[0]).max()), 2.0)
        self.assertGreater(float(lab_planes(done)[0, 11, 21]), 90.0)

    def test_its_own_variation_and_lightness_as_far_as_asked(self) -> None:
        rgb = np.concatenate([cloth(0.3, glint=False), cloth(0.9, glint=False)], axis=2)
        spread, light = [], []
        for share in (0.0, 0.5, 1.0):
            done = Recolour(id="r", target=TEAL, variation=share, lightness=share).applied(
                rgb, full(rgb), ground(rgb)
            )
            spread.append(float(np.std(lch(done)[2])))
            light.append(float(np.median(lch(done)[0])))
        self.assertLess(spread[0], 0.1)
        self.assertTrue(spread[0] < spread[1] < spread[2])
        self.assertAlmostEqual(light[2], float(lch(one(TEAL))[0, 0]), delta=0.02)
        self.assertTrue(light[0] > light[1] > light[2])

    @given(st.floats(0.0, 6.28), st.tuples(*[st.floats(0.0, 1.0)] * 3))
    @settings(max_examples=examples(25))
    def test_what_cannot_be_shown_gives_way_in_chroma_alone(
        self, hue: float, target: tuple[float, float, float]
    ) -> None:
        rgb = cloth(hue, 0.05, glint=False)
        done = applied_in_order([Recolour(id="r", target=target)], rgb, full(rgb), ground(rgb))
        self.assertLess(beyond(done), 1e-3)
        light = [lab_planes(v)[0] for v in (rgb, done)]
        np.testing.assert_allclose(light[1], light[0], atol=0.1)
        aim, after = lch(np.maximum(one(target), np.float32(1e-4))), lch(done)
        coloured = after[1] > 0.02
        off = (after[2] - aim[2, 0] + 180.0) % 360.0 - 180.0
        if aim[1, 0] > 0.02 and coloured.any():
            self.assertLess(np.abs(off[coloured]).max(), 1.0)


class Glazing(unittest.TestCase):
    def test_it_is_thin_holds_light_and_spares_black_and_white(self) -> None:
        greys = np.linspace(0.0, 1.0, 101, dtype=np.float32) ** 3
        rgb = np.ascontiguousarray(np.broadcast_to(greys[None, None], (3, 1, 101)))
        done = Glaze(id="g", target=(0.5, 0.2, 0.05)).applied(rgb, full(rgb), ground(rgb))
        before, after = lab_planes(rgb), lab_planes(done)
        np.testing.assert_allclose(after[0], before[0], atol=0.05)
        chroma = np.hypot(after[1], after[2])[0]
        self.assertLess(float(max(chroma[0], chroma[-1])), 0.05)
        self.assertTrue(1.0 < float(chroma.max()) < 6.0, chroma.max())
        self.assertLess(float(np.abs(np.diff(chroma, 2)).max()), 0.15)

    def test_its_amount_is_its_thickness(self) -> None:
        grey, target = one((0.18, 0.18, 0.18)), (0.4, 0.2, 0.1)
        chromas = [
            float(
                lch(Glaze(id="g", target=target, amount=a).applied(grey, full(grey), ground(grey)))[
                    1, 0
                ]
            )
            for a in (0.05, 0.1, 0.2)
        ]
        self.assertAlmostEqual(chromas[1] / chromas[0], 2.0, delta=0.02)
        self.assertAlmostEqual(chromas[2] / chromas[0], 4.0, delta=0.04)


def stroke(name: str, **more: object) -> WashStroke:
    """Over all of a small region."""
    return WashStroke.model_validate(
        {"id": name, "size": 2.0, "feather": 0.0, "points": [[[0.5, 0.5], 1.0]]} | more
    )


def washed(rgb: Floats, *strokes: WashStroke) -> Floats:
    return Wash(id="w", strokes=strokes).applied(rgb, full(rgb), ground(rgb))


def chroma_of(rgb: Floats) -> np.ndarray:
    """Relative to lightness, (2, n)."""
    return np.array([relative([float(v) for v in c]) for c in rgb.reshape(3, -1).T]).T


class Washing(unittest.TestCase):
    @given(st.integers(1, 40), st.floats(0.02, 0.9))
    @settings(max_examples=examples(25))
    def test_n_strokes_leave_what_n_layers_leave(self, n: int, strength: float) -> None:
        rgb, tone = colours(60), (0.3, 0.22, 0.18)
        device = np.tensordot(srgb().encoding_matrix, rgb, axes=1)
        rgb = np.ascontiguousarray(
            rgb[:, :, (device > 0.03).all(axis=0)[0] & (device < 1.0).all(axis=0)[0]]
        )
        done = washed(rgb, *(stroke(f"s{i}", tone=tone, opacity=strength) for i in range(n)))
        aim = np.array(relative(tone))[:, None]
        left = (1.0 - strength) ** n
        np.testing.assert_allclose(chroma_of(done), aim + left * (chroma_of(rgb) - aim), atol=2e-4)
        np.testing.assert_allclose(lab_planes(done)[0], lab_planes(rgb)[0], atol=0.05)

    def test_lighter_and_darker_by_stops_of_the_tones_meant(self) -> None:
        dark, bright = one((0.01, 0.01, 0.01)), one((0.6, 0.6, 0.6))
        for reach, gains in (("all", (2.0, 2.0)), ("shadows", (2.0, 1.0)), ("lights", (1.0, 2.0))):
            lit = stroke("s", stops=1.0, opacity=1.0, reach=reach)
            for rgb, gain in zip((dark, bright), gains, strict=True):
                np.testing.assert_allclose(washed(rgb, lit) / rgb, gain, rtol=2e-3)

    def test_erasing_takes_strokes_away_and_not_the_photo(self) -> None:
        rgb = colours(30)
        some = [stroke("a", tone=TEAL, opacity=0.6), stroke("b", stops=-1.0, opacity=0.5)]
        gone = washed(rgb, *some, stroke("e", erase=True, opacity=1.0))
        np.testing.assert_allclose(gone, rgb, atol=1e-5)
        half = washed(rgb, *some, stroke("e", erase=True, opacity=0.5))
        whole = washed(rgb, *some)
        self.assertTrue(0.2 < np.abs(half - rgb).mean() / np.abs(whole - rgb).mean() < 0.8)

    def test_long_washes_are_drawn_in_pieces_that_make_the_same(self) -> None:
        rgb = colours(50)
        strokes = [
            stroke(
                f"s{i}",
                tone=TEAL if i % 3 else None,
                stops=0.0 if i % 3 else 0.02,
                erase=i % 7 == 6,
            )
            for i in range(3 * KEPT_EVERY + 5)
        ]
        at_once = washed(rgb, *strokes)
        piece = rgb
        # Strokes that build up one at a time, as while one paints.
        for n in itertools.chain(range(1, len(strokes)), (len(strokes),)):
            piece = washed(rgb, *strokes[:n])
        np.testing.assert_array_equal(piece, at_once)

    def test_a_stroke_held_at_an_edge_stops_there(self) -> None:
        photo = wall_photo()
        codes = photo.codes.copy()
        codes[:, 150:] = codes[:, 150:] // 4
        engine = Engine(type(photo)(codes, photo.profile))
        view = View.fit(engine.photo, 300)
        across = {
            "points": [[[0.4, 0.3], 1.0], [[0.44, 0.3], 1.0]],
            "size": 0.2,
            "tone": TEAL,
            "opacity": 0.8,
        }
        moved = []
        for edges in (False, True):
            wash = Wash(id="w", strokes=(stroke("s", edges=edges, **across),))
            cast = Cast(id="c", mask=Mask(parts=(Whole(id="m"),)), remedies=(wash,))
            done = engine.render(Recipe(casts=(cast,)), view)
            moved.append(np.abs(done - engine.untouched(view))[:, 85:95, 155:165].max())
        self.assertGreater(moved[0], 0.002)
        self.assertLess(moved[1], 0.1 * moved[0])

    def test_what_a_stroke_is_for_is_plain(self) -> None:
        for wrong in ({"tone": TEAL, "stops": 1.0}, {"stops": 9.0}, {"opacity": 2.0}):
            with self.assertRaises(ValidationError):
                stroke("s", **wrong)
        with self.assertRaises(ValidationError):
            Wash(id="w", strokes=(stroke("s"), stroke("s")))

    def test_strokes_stay_with_their_photo(self) -> None:
        wash = Wash(id="w", strokes=(stroke("s", tone=TEAL),))
        cast = Cast(id="c", remedies=(wash,))
        base = Recipe().base
        kept = (
            cast.abroad(base, "elsewhere").remedies[0],
            cast.abroad(base, "", places=True).remedies[0],
        )
        self.assertEqual([len(r.strokes) for r in kept if isinstance(r, Wash)], [0, 1])


if __name__ == "__main__":
    unittest.main()
