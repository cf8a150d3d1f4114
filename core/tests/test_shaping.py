"""Shaping colours: by hue, in the plane, curves and mixed channels, each against what it promises."""

import unittest
from dataclasses import replace
from typing import Any

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from nubilis.arrays import Floats
from nubilis.colour.cielab import lab_planes
from nubilis.colour.difference import difference_plane
from nubilis.colour.oklab import linear_rgb_to_oklab, oklab_to_linear_rgb
from nubilis.engine.engine import Engine
from nubilis.photo.sampling import decode
from nubilis.recipe.document import Recipe
from nubilis.remedy.by_hue import SMOOTH, ByHue, HuePoint, away_from_grey, curves
from nubilis.remedy.channel_mix import ChannelMix
from nubilis.remedy.curves import Curves, table, value_at
from nubilis.remedy.in_plane import Held, InPlane
from nubilis.remedy.oklab_planes import planes_of
from nubilis.remedy.remedy import Ground, Remedy
from nubilis.remedy.warp import AXIS, HELD, Way, warp_through

from .effort import examples
from .grounds import colours, ground, lch
from .pictures import skin_with_noise, whole


def own_ground(rgb: Floats) -> Ground:
    """Where hues are read as they are, nothing smoothed."""
    return replace(
        ground(rgb),
        measured=lambda statistic: SMOOTH.index(statistic) + 1,
        read=lambda plane: planes_of(rgb)[plane],
    )


def done(remedy: Remedy, rgb: Floats) -> Floats:
    return remedy.applied(rgb, np.ones(rgb.shape[1:], np.float32), own_ground(rgb))


def greys(n: int = 200) -> Floats:
    return np.repeat(np.linspace(0.001, 1.0, n, dtype=np.float32)[None, None], 3, axis=0)


def moved(before: Floats, after: Floats) -> Floats:
    return difference_plane(lab_planes(before), lab_planes(after))


hue_points = st.lists(
    st.tuples(
        st.floats(0.0, 360.0), st.floats(-60.0, 60.0), st.floats(-1.0, 1.0), st.floats(-0.3, 0.3)
    ),
    min_size=1,
    max_size=6,
).map(
    lambda rows: tuple(
        HuePoint(id=str(i), hue=h, turn=t, saturation=s, light=v)
        for i, (h, t, s, v) in enumerate(rows)
    )
)


class ByHueCurves(unittest.TestCase):
    @given(hue_points, st.floats(15.0, 90.0))
    @settings(max_examples=examples(100))
    def test_periodic_and_smooth(self, points: tuple[HuePoint, ...], width: float) -> None:
        ends = curves(points, width, [0.0, 360.0])
        np.testing.assert_allclose(ends[:, 0], ends[:, 1], atol=1e-6)
        # Bends are continuous: from step to step they change by less and less, also across 0.
        bends = []
        for step in (0.5, 0.25):
            f = curves(points, width, np.arange(-20.0, 380.0, step))
            bends.append(np.abs(np.diff(np.diff(f, 2) / step**2)).max(axis=1))
        self.assertTrue((bends[1] < 0.6 * bends[0] + 1e-6).all(), bends)

    def test_they_pass_through_their_points_and_rest_far_away(self) -> None:
        points = (HuePoint(id="1", hue=30.0, turn=20.0), HuePoint(id="2", hue=80.0, saturation=0.5))
        at = curves(points, 40.0, [30.0, 80.0, 240.0])
        np.testing.assert_allclose(at[0], [20.0, 0.0, 0.0], atol=0.3)
        np.testing.assert_allclose(at[1], [0.0, 0.5, 0.0], atol=0.01)

    def test_a_hue_turns_by_what_was_asked_and_greys_stay(self) -> None:
        rgb = colours()
        point = HuePoint(id="1", hue=50.0, turn=20.0)
        after = done(ByHue(id="h", points=(point,), width=30.0), rgb)
        before, now = lch(rgb), lch(after)
        there = (np.abs(before[2] - 50.0) < 4.0) & (before[1] > 0.06)
        self.assertGreater(there.sum(), 3)
        turned = (now[2] - before[2])[there]
        self.assertTrue((turned > 18.0).all() and (turned < 21.0).all(), turned)
        strong = HuePoint(id="1", hue=50.0, turn=60.0, saturation=1.0, light=0.3)
        self.assertLess(moved(greys(), done(ByHue(id="h", points=(strong,)), greys())).max(), 0.1)

    def test_the_bound_of_greys_can_be_moved(self) -> None:
        rgb = colours()
        point = HuePoint(id="1", hue=50.0, saturation=-1.0)
        far, near = (done(ByHue(id="h", points=(point,), greys=g), rgb) for g in (0.2, 0.01))
        self.assertLess(moved(rgb, far).sum(), 0.6 * moved(rgb, near).sum())
        self.assertEqual(float(away_from_grey(0.0, 20.0)), 0.0)

    def test_noisy_skin_does_not_turn_blotchy(self) -> None:
        """Total variation that is added, against the same move through a narrow curve of single pixels."""
        photo = skin_with_noise()
        before = planes_of(decode(photo.codes, photo.profile))
        hue = float(np.degrees(np.arctan2(before[2].mean(), before[1].mean())))
        point = HuePoint(id="1", hue=(hue + 12.0) % 360.0, turn=15.0, saturation=0.4, light=0.05)
        remedy = ByHue(id="h", points=(point,))
        smooth = Engine(photo).deliver(Recipe(casts=(whole(remedy),))).codes
        rgb = decode(photo.codes, photo.profile)
        narrow = done(remedy.model_copy(update={"width": 15.0, "greys": 0.005}), rgb)
        added = [
            variation(planes_of(after)) - variation(before)
            for after in (decode(smooth, photo.profile), narrow)
        ]
        self.assertGreater(added[1], 0.0)
        self.assertLess(added[0], 0.1 * added[1], added)


def variation(planes: Floats) -> float:
    return float(sum(np.abs(np.diff(planes, axis=axis)).sum() for axis in (1, 2)))


coordinate = st.floats(-0.25, 0.25)
drags = st.lists(
    st.tuples(coordinate, coordinate, coordinate, coordinate, st.floats(0.0, 1.0)),
    min_size=1,
    max_size=8,
)


def fine(planes: Floats) -> Floats:
    """A table as it is read: twice as many places more between its entries."""
    at = np.linspace(0.0, planes.shape[1] - 1.0, 3 * (planes.shape[1] - 1) + 1)
    low = np.minimum(at.astype(int), planes.shape[1] - 2)
    t = at - low
    rows = planes[:, low] + t[None, :, None] * (planes[:, low + 1] - planes[:, low])
    return np.asarray(rows[..., low] + t * (rows[..., low + 1] - rows[..., low]))


class Plane(unittest.TestCase):
    @settings(max_examples=examples(120))
    @given(drags, st.floats(0.03, 0.3))
    def test_no_set_of_drags_folds_the_plane(self, rows: list[Any], width: float) -> None:
        ways = tuple(
            Way((a, b), (a + 0.6 * c, b + 0.6 * d), loose=loose if loose > 0.5 else 0.0)
            for a, b, c, d, loose in rows
        )
        table_, step = fine(warp_through(ways, width).table), (AXIS[1] - AXIS[0]) / 3.0
        da_da, db_da = np.diff(table_[:2, :-1], axis=2) / step
        da_db, db_db = np.diff(table_[:2, :, :-1], axis=1) / step
        jacobian = (1.0 + da_da) * (1.0 + db_db) - da_db * db_da
        self.assertGreater(jacobian.min(), 0.0)

    def test_colours_go_where_they_are_dragged_and_pins_and_greys_stay(self) -> None:
        start, end, pin = (0.12, 0.06), (0.08, 0.12), (-0.08, 0.05)
        points = (
            Held(id="1", start=start, end=end),
            Held(id="2", start=pin, end=pin),
        )
        remedy = InPlane(id="p", points=points)
        lab = np.array([[0.6, *start], [0.6, *pin], [0.6, 0.0, 0.0], [0.4, 0.0, 0.0]])
        rgb = np.ascontiguousarray(oklab_to_linear_rgb(lab).T.reshape(3, 1, 4), np.float32)
        after = done(remedy, rgb)
        np.testing.assert_allclose(linear_rgb_to_oklab(after[:, 0, 0])[1:], end, atol=2e-3)
        difference = moved(rgb, after)[0]
        self.assertLess(difference[1], 0.1)
        self.assertLess(difference[2:].max(), 0.2)
        self.assertLess(moved(greys(), done(remedy, greys())).max(), 0.2)
        np.testing.assert_allclose(remedy.reached()["1"], end, atol=2e-3)

    def test_what_would_fold_stops_on_the_way_and_is_told(self) -> None:
        across = (
            Held(id="1", start=(0.1, 0.0), end=(-0.2, 0.0)),
            Held(id="2", start=(-0.1, 0.0), end=(0.2, 0.0)),
        )
        reached = InPlane(id="p", points=across).reached()
        self.assertGreater(np.hypot(reached["1"][0] + 0.2, reached["1"][1]), 0.05)

    def test_dark_and_light_go_apart_without_a_kink(self) -> None:
        points = (
            Held(id="1", start=(0.05, 0.03), end=(0.08, 0.03), reach="dark"),
            Held(id="2", start=(0.05, 0.03), end=(0.05, 0.06), reach="light", light=0.05),
        )
        remedy = InPlane(id="p", points=points, crossover=0.5)
        light = np.linspace(0.25, 0.75, 2001)
        lab = np.stack([light, np.full_like(light, 0.05), np.full_like(light, 0.03)], axis=1)
        rgb = np.ascontiguousarray(oklab_to_linear_rgb(lab).T.reshape(3, 1, -1), np.float32)
        after = linear_rgb_to_oklab(done(remedy, rgb)[:, 0].T.astype(np.float64))
        slopes = np.diff(after, axis=0) / np.diff(light)[:, None]
        self.assertLess(np.abs(np.diff(slopes[::20], axis=0)).max(), 0.06)
        self.assertGreater(after[0, 1], 0.075)
        self.assertGreater(after[-1, 2], 0.055)

    def test_a_loose_point_follows_its_neighbours(self) -> None:
        firm, loose = (
            InPlane(
                id="p",
                points=(
                    Held(id="1", start=(0.1, 0.0), end=(0.15, 0.0)),
                    Held(id="2", start=(0.1, 0.05), end=(0.1, 0.05), loose=share),
                ),
            ).reached()["2"]
            for share in (0.0, 1.0)
        )
        self.assertLess(abs(firm[0] - 0.1), 1e-3)
        self.assertGreater(loose[0] - 0.1, 0.01)

    def test_no_points_leave_everything(self) -> None:
        self.assertFalse(warp_through((), 0.1).table.any())
        self.assertEqual(len(HELD), 7)


curve_points = st.lists(
    st.tuples(st.integers(0, 50), st.floats(0.0, 1.0)), min_size=1, max_size=6,
    unique_by=lambda p: p[0],
).map(
    lambda points: tuple(
        zip(sorted(x / 50 for x, _ in points), sorted(y for _, y in points), strict=True)
    )
)  # fmt: skip


class Bent(unittest.TestCase):
    @given(curve_points)
    def test_a_curve_passes_through_its_points_and_never_falls(self, points: Any) -> None:
        curve = Curves(id="c", red=points).red
        self.assertTrue((np.diff(table(curve)) >= -1e-12).all())
        at = np.array([x for x, _ in curve])
        np.testing.assert_allclose(value_at(curve, at), [y for _, y in curve], atol=1e-9)

    def test_a_falling_or_crowded_curve_is_refused(self) -> None:
        for points in (((0.2, 0.8), (0.6, 0.3)), ((0.2, 0.3), (0.205, 0.4))):
            with self.assertRaises(ValueError):
                Curves(id="c", red=points)

    def test_an_ink_is_its_channel_upside_down(self) -> None:
        rgb = colours()
        one = done(Curves(id="c", red=((0.3, 0.5),)), rgb)
        two = done(Curves(id="c", cyan=((0.7, 0.5),)), rgb)
        np.testing.assert_allclose(one, two, atol=2e-3)

    def test_black_moves_what_the_inks_have_in_common(self) -> None:
        after = done(Curves(id="c", black=((0.5, 0.7),)), greys())
        self.assertTrue((after <= greys() + 1e-4).all())
        np.testing.assert_allclose(after[0], after[1], atol=1e-4)

    def test_lightness_holds_relative_chroma(self) -> None:
        rgb = colours()
        before, after = lch(rgb), lch(done(Curves(id="c", lightness=((0.5, 0.6),)), rgb))
        here = (before[1] > 0.02) & (before[1] < 0.06)  # which the gamut has room for
        ratios = (after[1] / after[0])[here] / (before[1] / before[0])[here]
        np.testing.assert_allclose(ratios, 1.0, atol=0.01)


class Mixed(unittest.TestCase):
    def test_greys_stay_whatever_is_mixed(self) -> None:
        mix = ChannelMix(id="m", red=(0.2, 1.4, 0.0), blue=(0.0, 0.0, -0.5))
        self.assertLess(moved(greys(), done(mix, greys())).max(), 0.05)
        free = mix.model_copy(update={"keep_grey": False})
        self.assertGreater(moved(greys(), done(free, greys())).max(), 5.0)

    def test_luminance_is_held_on_request(self) -> None:
        rgb = colours()
        mix = ChannelMix(id="m", red=(0.7, 0.3, 0.0), hold_luminance=True)
        light = [lab_planes(v)[0] for v in (rgb, done(mix, rgb))]
        self.assertLess(np.abs(light[0] - light[1]).max(), 0.3)

    def test_at_rest_nothing_moves(self) -> None:
        rgb = colours()
        for remedy in (ChannelMix(id="m"), Curves(id="c"), ByHue(id="h"), InPlane(id="p")):
            self.assertIs(done(remedy, rgb), rgb)
