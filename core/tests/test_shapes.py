"""Ramp, oval and path against plain references, at odd sizes, any region and any zoom; and refining."""

import math
import unittest
from collections.abc import Callable

import cv2
import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from nubilis.arrays import Floats
from nubilis.engine.engine import Engine
from nubilis.mask.brush import Brush, Stroke
from nubilis.mask.combine import Mask
from nubilis.mask.oval import Oval
from nubilis.mask.part import Part
from nubilis.mask.path import Node, Path, outline
from nubilis.mask.ramp import Ramp
from nubilis.mask.refine import Refine
from nubilis.photo.pyramid import View

from .effort import examples
from .pictures import recipe_for, wall_photo, warm_key
from .test_masks import smooth

SIZES = ((1, 1), (1, 9), (7, 13), (40, 31), (90, 121))
RAMP = Ramp(id="r", full=(0.2, 0.1), none=(0.6, 0.4))
OVAL = Oval(id="o", centre=(0.5, 0.3), radii=(0.35, 0.15), angle=30.0, inside=0.4, outside=0.2)
SQUARE = tuple(Node(at=at) for at in ((0.2, 0.1), (0.7, 0.1), (0.7, 0.5), (0.2, 0.5)))
PATH = Path(id="p", nodes=SQUARE, feather=0.1)
HARD = PATH.model_copy(update={"feather": 0.0})
LEAVES = Path(id="l", nodes=(Node(at=(-0.4, 0.2), after=(0.2, -0.5)), Node(at=(1.3, 0.3))))
SHAPES: tuple[Part, ...] = (RAMP, OVAL, PATH, HARD, LEAVES)


def cover(part: Part, view: View) -> Floats:
    return part.coverage(np.zeros((3, *view.shape), dtype=np.float32), view)


def whole(h: int, w: int) -> View:
    return View((w, h), (0, 0, w, h))


def places(h: int, w: int) -> tuple[np.ndarray, np.ndarray]:
    long_edge = max(h, w)
    ys, xs = np.mgrid[:h, :w]
    return (xs + 0.5) / long_edge, (ys + 0.5) / long_edge


class AgainstDefinitions(unittest.TestCase):
    def test_a_ramp_falls_evenly_between_its_places(self) -> None:
        for h, w in SIZES:
            x, y = places(h, w)
            dx, dy = 0.4, 0.3
            t = ((x - 0.2) * dx + (y - 0.1) * dy) / (dx * dx + dy * dy)
            if max(h, w) * math.hypot(dx, dy) > 1:
                np.testing.assert_allclose(cover(RAMP, whole(h, w)), smooth(1 - t), atol=1e-4)

    def test_a_ramp_without_length_is_a_hard_edge(self) -> None:
        hard = cover(Ramp(id="r", full=(0.5, 0.5), none=(0.5, 0.5)), whole(40, 40))
        self.assertEqual((float(hard[0, 0]), float(hard[0, -1])), (1.0, 0.0))

    def test_an_oval_fades_on_either_side_of_its_edge(self) -> None:
        turn = math.radians(30.0)
        for h, w in ((40, 31), (90, 121)):
            x, y = places(h, w)
            dx, dy = x - 0.5, y - 0.3
            u = (dx * math.cos(turn) + dy * math.sin(turn)) / 0.35
            v = (dy * math.cos(turn) - dx * math.sin(turn)) / 0.15
            wanted = smooth((1.2 - np.hypot(u, v)) / 0.6)
            np.testing.assert_allclose(cover(OVAL, whole(h, w)), wanted, atol=1e-4)

    def test_a_path_is_its_area_averaged_over_each_pixel(self) -> None:
        drawn = cover(HARD, whole(90, 121))
        x, y = places(90, 121)
        inside = (x > 0.2) & (x < 0.7) & (y > 0.1) & (y < 0.5)
        away = np.minimum(abs(x - 0.2), abs(x - 0.7)), np.minimum(abs(y - 0.1), abs(y - 0.5))
        clear = np.minimum(*away) > 1.5 / 121
        np.testing.assert_array_equal(drawn[clear] > 0.5, inside[clear])
        self.assertAlmostEqual(float(drawn.mean()), 0.2 / (90 / 121), delta=1e-5)

    def test_outlines_on_the_very_edges_of_pixels_and_reaching_out_of_the_grid(self) -> None:
        drawn = cover(HARD, whole(30, 40))
        wanted = np.zeros((30, 40))
        wanted[4:20, 8:28] = 1.0
        np.testing.assert_allclose(drawn, wanted, atol=1e-5)
        far = tuple(Node(at=at) for at in ((-0.9, -0.8), (1.9, -0.8), (1.9, 1.9), (-0.9, 1.9)))
        everywhere = cover(Path(id="p", nodes=far, feather=0.0), whole(30, 40))
        np.testing.assert_array_equal(everywhere, 1.0)

    def test_a_feathered_edge_is_half_at_the_outline_and_fades_over_its_width(self) -> None:
        drawn = cover(PATH, whole(300, 400))
        row = drawn[120]
        self.assertAlmostEqual(float(row[80]), 0.5, delta=0.03)
        self.assertLess(float(row[55]), 0.03)
        self.assertGreater(float(row[105]), 0.97)

    def test_curves_pass_their_nodes_and_bend_to_their_handles(self) -> None:
        straight = outline(SQUARE)
        self.assertEqual(len(straight), 4)
        round_one = (Node(at=(0.2, 0.2), after=(0.3, 0.0)), Node(at=(0.6, 0.2), before=(0.5, 0.0)))
        bent = outline(round_one)
        self.assertEqual(tuple(bent[0]), (0.2, 0.2))
        self.assertAlmostEqual(float(bent[:, 1].min()), 0.05, delta=1e-9)


class AnywhereAndAtAnySize(unittest.TestCase):
    def test_tiny_pictures(self) -> None:
        for part in SHAPES:
            for h, w in SIZES:
                drawn = cover(part, whole(h, w))
                self.assertEqual(drawn.shape, (h, w))
                self.assertGreaterEqual(float(drawn.min()), 0.0)
                self.assertLessEqual(float(drawn.max()), 1.0)

    def test_a_region_is_a_cut_of_the_whole(self) -> None:
        for part in SHAPES:
            full = cover(part, whole(300, 401))
            for region in ((0, 0, 50, 40), (111, 57, 390, 299), (400, 299, 401, 300)):
                x0, y0, x1, y1 = region
                cut = cover(part, View((401, 300), region))
                np.testing.assert_allclose(cut, full[y0:y1, x0:x1], atol=2e-3, err_msg=part.id)

    def test_half_the_size_is_half_of_it(self) -> None:
        for part in SHAPES:
            small = cover(part, whole(200, 300))
            large = cv2.resize(
                cover(part, whole(400, 600)), (300, 200), interpolation=cv2.INTER_AREA
            )
            self.assertLess(float(np.abs(small - large).mean()), 0.004, part.id)

    def test_beyond_its_reach_there_is_nothing(self) -> None:
        for part in SHAPES:
            x0, y0, x1, y1 = part.reach((401, 300))
            beyond = cover(part, whole(300, 401)).copy()
            beyond[y0:y1, x0:x1] = 0.0
            self.assertEqual(float(beyond.max()), 0.0, part.id)


class Refining(unittest.TestCase):
    def mask(self, refine: Refine, change: Callable[[Floats], None] | None = None) -> Floats:
        plane = np.zeros((200, 300), dtype=np.float32)
        plane[60:140, 80:220] = 1.0
        if change:
            change(plane)
        view = View((300, 200), (0, 0, 300, 200))
        return refine.applied(plane, view, lambda _: np.zeros((3, 200, 300), dtype=np.float32))

    def test_at_rest_nothing_changes(self) -> None:
        self.assertFalse(Refine().active)
        self.assertEqual(float(np.abs(self.mask(Refine()) - self.mask(Refine())).max()), 0.0)

    def test_specks_go_and_pinholes_are_filled_but_the_shape_stays(self) -> None:
        def spoil(plane: Floats) -> None:
            plane[20:22, 30:32] = 1.0
            plane[100:102, 150:152] = 0.0

        cleaned = self.mask(Refine(clean=0.02), spoil)
        self.assertEqual((float(cleaned[21, 31]), float(cleaned[101, 151])), (0.0, 1.0))
        self.assertLess(float(np.abs(cleaned - self.mask(Refine())).mean()), 0.004)

    def test_grown_and_shrunk_by_as_much_as_said(self) -> None:
        for grow in (0.02, -0.02, 0.05):
            row = self.mask(Refine(grow=grow))[100]
            self.assertAlmostEqual(float(row.sum()), 140 + 2 * grow * 300, delta=1.5)

    def test_softened_edges_keep_their_place(self) -> None:
        row = self.mask(Refine(soften=0.03))[100]
        self.assertAlmostEqual(float(row.sum()), 140.0, delta=0.5)
        self.assertAlmostEqual(float(row[80]), 0.54, delta=0.05)
        self.assertGreater(float(row[76]), 0.1)

    @settings(max_examples=examples(20))
    @given(*[st.floats(0, 0.03), st.floats(-0.03, 0.03), st.floats(0, 0.03), st.floats(0, 0.03)])
    def test_a_region_is_a_cut_of_the_whole(
        self, clean: float, grow: float, follow: float, soften: float
    ) -> None:
        photo = wall_photo()
        stroke = Stroke(size=0.3, points=(((0.3, 0.2), 1.0), ((0.3, 0.4), 1.0)))
        refine = Refine(clean=clean, grow=grow, follow=follow, soften=soften)
        mask = Mask(parts=(Brush(id="b", strokes=(stroke,)), warm_key()), refine=refine)
        engine = Engine(photo)
        full = engine.mask(mask, View((300, 200), (0, 0, 300, 200)))
        cut = engine.mask(mask, View((300, 200), (40, 30, 160, 120)))
        np.testing.assert_allclose(cut, full[30:120, 40:160], atol=1e-5)

    def test_delivered_is_what_was_shown_also_in_place(self) -> None:
        photo = wall_photo(600, 1200)
        recipe = recipe_for(photo, warm_key().model_copy(update={"join": "add"}))
        cast = recipe.casts[0]
        refine = Refine(clean=0.004, grow=0.01, follow=0.01, soften=0.01)
        mask = cast.mask.model_copy(update={"refine": refine})
        recipe = recipe.model_copy(update={"casts": (cast.model_copy(update={"mask": mask}),)})
        apart = Engine(photo).deliver(recipe)
        in_place = Engine(wall_photo(600, 1200)).deliver(recipe, in_place=True)
        np.testing.assert_array_equal(apart.codes, in_place.codes)
        shown = Engine(photo).mask(mask, View((1200, 600), (0, 0, 1200, 600)))
        still = (apart.codes == photo.codes).all(axis=2)
        self.assertTrue(still[shown == 0.0].all())
        self.assertFalse(still[shown > 0.9].all())


if __name__ == "__main__":
    unittest.main()
