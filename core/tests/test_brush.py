"""The brush against a slow, plain painter, at any region and scale."""

import itertools
import math
import unittest

import numpy as np

from nubilis.arrays import Floats
from nubilis.mask.brush import Brush, Stroke
from nubilis.photo.pyramid import View

from .effort import long_tier

NOWHERE = np.zeros((3, 1, 1), dtype=np.float32)


def covered(brush: Brush, view: View) -> Floats:
    return brush.coverage(np.zeros((3, *view.shape), dtype=np.float32), view)


def whole(w: int, h: int) -> View:
    return View((w, h), (0, 0, w, h))


def smooth(t: float) -> float:
    t = min(max(t, 0.0), 1.0)
    return t * t * (3 - 2 * t)


def plain(brush: Brush, w: int, h: int) -> Floats:
    """One pixel after the other, by the definition."""
    out = np.zeros((h, w))
    long_edge = max(w, h)
    for stroke in brush.strokes:
        radius = stroke.size * long_edge / 2
        points = [(x * long_edge, y * long_edge, p) for (x, y), p in stroke.points]
        lines = list(itertools.pairwise(points)) or [(points[0], points[0])]
        for y in range(h):
            for x in range(w):
                cover = max(
                    _along(x + 0.5, y + 0.5, a, b, radius, stroke.feather) for a, b in lines
                )
                cover *= stroke.flow
                if stroke.erase:
                    out[y, x] *= 1 - cover
                else:
                    out[y, x] += (1 - out[y, x]) * cover
    return out.astype(np.float32)


def _along(x, y, a, b, radius, feather):  # type: ignore[no-untyped-def]
    dx, dy = b[0] - a[0], b[1] - a[1]
    length = max(dx * dx + dy * dy, 1e-12)
    t = min(max(((x - a[0]) * dx + (y - a[1]) * dy) / length, 0.0), 1.0)
    away = math.hypot(x - a[0] - t * dx, y - a[1] - t * dy)
    pressure = a[2] + t * (b[2] - a[2])
    reach = radius * (0.5 + 0.5 * pressure)
    return pressure * smooth((reach + 0.5 - away) / max(feather * radius, 1.0))


def stroke(**more: object) -> Stroke:
    resting = {"size": 0.4, "feather": 0.6, "points": (((0.2, 0.3), 1.0), ((0.7, 0.5), 0.4))}
    return Stroke.model_validate(resting | more)


def there_and_back(times: int, steps: int = 1, **more: object) -> Brush:
    """A stroke along one line, so many times over it, each in so many steps."""
    ways = [np.linspace(0.2, 0.8, steps + 1), np.linspace(0.8, 0.2, steps + 1)]
    xs = np.concatenate([ways[i % 2] for i in range(times)]).tolist()
    one = stroke(size=0.2, flow=0.3, points=tuple(((x, 0.4), 1.0) for x in xs), **more)
    return Brush(id="b", strokes=(one,))


class Flowing(unittest.TestCase):
    def middle(self, brush: Brush) -> float:
        return float(covered(brush, whole(101, 81))[40, 50])

    def test_each_time_over_a_place_adds_to_it(self) -> None:
        for times in (1, 2, 3):
            self.assertAlmostEqual(self.middle(there_and_back(times)), 1 - 0.7**times, delta=0.01)

    def test_it_does_not_depend_on_how_many_points_a_stroke_has(self) -> None:
        few, many = (covered(there_and_back(2, n), whole(101, 81)) for n in (1, 60))
        np.testing.assert_allclose(few, many, atol=0.02)

    def test_never_more_than_the_opacity(self) -> None:
        self.assertAlmostEqual(self.middle(there_and_back(30, opacity=0.4)), 0.4, delta=1e-3)

    def test_a_stroke_that_stays_where_it_is_does_not_grow(self) -> None:
        one = stroke(flow=0.3, points=tuple(((0.5, 0.4), 1.0) for _ in range(50)))
        self.assertAlmostEqual(self.middle(Brush(id="b", strokes=(one,))), 0.3, delta=0.01)


class Thinned(unittest.TestCase):
    @long_tier
    def test_a_long_stroke_is_what_all_its_points_make(self) -> None:
        turns = np.linspace(0.0, 12.0, 400)
        xs, ys = 0.5 + 0.03 * turns * np.cos(turns), 0.4 + 0.02 * turns * np.sin(turns)
        points = tuple(
            ((float(x), float(y)), float(0.5 + 0.4 * math.sin(t)))
            for x, y, t in zip(xs, ys, turns, strict=True)
        )
        brush = Brush(id="b", strokes=(stroke(size=0.05, points=points),))
        off = np.abs(covered(brush, whole(81, 61)) - plain(brush, 81, 61))
        self.assertLess(float(off.max()), 0.15)
        self.assertLess(float(off.mean()), 0.01)

    def test_turning_back_is_kept(self) -> None:
        xs = [*np.linspace(0.2, 0.8, 40), *np.linspace(0.8, 0.3, 40)]
        points = tuple(((float(x), 0.4), 1.0) for x in xs)
        brush = Brush(id="b", strokes=(stroke(size=0.1, flow=0.5, points=points),))
        row = covered(brush, whole(201, 161))[80]
        self.assertAlmostEqual(float(row[110]), 0.75, delta=0.02)
        self.assertAlmostEqual(float(row[50]), 0.5, delta=0.02)


class Painting(unittest.TestCase):
    def test_equals_the_plain_painter(self) -> None:
        strokes = {
            "line": (stroke(),),
            "dot": (stroke(points=(((0.5, 0.5), 1.0),)),),
            "hard": (stroke(feather=0.0, size=0.1),),
            "flow builds up": (stroke(flow=0.3), stroke(flow=0.3)),
            "erase": (stroke(), stroke(erase=True, size=0.2)),
            "beyond the frame": (stroke(points=(((-0.3, 0.5), 1.0), ((1.4, 0.2), 1.0))),),
        }
        for name, list_of in strokes.items():
            for w, h in ((41, 23), (1, 1), (3, 8)):
                with self.subTest(name, w=w, h=h):
                    brush = Brush(id="b", strokes=list_of)
                    np.testing.assert_allclose(
                        covered(brush, whole(w, h)), plain(brush, w, h), atol=2e-4
                    )

    def test_a_region_is_a_cut_of_the_whole(self) -> None:
        for size in (0.05, 0.9):  # the wide one is drawn on a coarse grid
            brush = Brush(id="b", strokes=(stroke(size=size, feather=1.0),))
            full = covered(brush, whole(600, 400))
            part = covered(brush, View((600, 400), (37, 11, 411, 290)))
            np.testing.assert_allclose(part, full[11:290, 37:411], atol=1e-6)

    def test_the_coarse_grid_is_close(self) -> None:
        brush = Brush(id="b", strokes=(stroke(size=0.8, feather=1.0),))
        np.testing.assert_allclose(
            covered(brush, whole(240, 160)), plain(brush, 240, 160), atol=0.015
        )

    def test_half_size_is_half_of_the_size(self) -> None:
        brush = Brush(id="b", strokes=(stroke(),))
        full, half = covered(brush, whole(400, 300)), covered(brush, whole(200, 150))
        averaged = full.reshape(150, 2, 200, 2).mean(axis=(1, 3))
        self.assertLess(np.abs(averaged - half).max(), 0.03)

    def test_beyond_its_reach_is_nothing(self) -> None:
        size = (600, 400)
        for one in (
            stroke(size=0.1),
            stroke(size=0.5, feather=1.0),
            stroke(points=(((0.9, 0.1), 0.3),)),
        ):
            brush = Brush(id="b", strokes=(one, stroke(size=0.9, erase=True)))
            x0, y0, x1, y1 = brush.reach(size)
            mask = covered(brush, whole(*size))
            self.assertGreater(mask.max(), 0.0)
            mask[y0:y1, x0:x1] = 0.0
            self.assertEqual(float(mask.max()), 0.0)
        self.assertEqual(Brush(id="b").reach(size), (0, 0, 0, 0))

    def test_nothing_painted_covers_nothing(self) -> None:
        self.assertFalse(covered(Brush(id="b"), whole(5, 4)).any())

    def test_five_thousand_points(self) -> None:
        angle = np.linspace(0, 60, 5000)
        radius = np.linspace(0.0, 0.3, 5000)
        points = tuple(
            ((0.5 + r * math.cos(a), 0.4 + r * math.sin(a)), 1.0)
            for a, r in zip(angle.tolist(), radius.tolist(), strict=True)
        )
        mask = covered(Brush(id="b", strokes=(stroke(size=0.02, points=points),)), whole(300, 240))
        self.assertGreater(mask.max(), 0.99)
        self.assertEqual(mask[0, 0], 0.0)
