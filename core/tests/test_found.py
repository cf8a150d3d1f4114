"""Parts that are found in the photo: snapped objects, similar colour, guesses, strokes held at edges."""

import math
import unittest

import cv2
import numpy as np
import numpy.typing as npt
from pydantic import ValidationError

from nubilis.colour.profile import srgb
from nubilis.engine.engine import Engine
from nubilis.mask.brush import Brush, Stroke
from nubilis.mask.combine import AnyPart, Mask
from nubilis.mask.guess import Guess
from nubilis.mask.similar import Similar
from nubilis.mask.snap import Scribble, Snap
from nubilis.photo.picture import Photo
from nubilis.photo.pyramid import View

from .pictures import recipe_for

Mark = npt.NDArray[np.bool_]
H, W = 300, 450


def stage(scale: int = 1) -> tuple[Photo, dict[str, Mark]]:
    """A pale sky over a dark hill, a red ball and, apart from it, a red box; with grain."""
    h, w = H * scale, W * scale
    ys, xs = np.mgrid[0:h, 0:w] / scale
    codes = np.empty((h, w, 3), dtype=np.float64)
    codes[:] = (70, 66, 58)
    sky = ys < 120 + 10 * np.sin(xs / 40)
    codes[sky] = (150, 185, 225)
    ball = np.hypot(xs - 150, ys - 190) < 55
    box = (xs > 320) & (xs < 400) & (ys > 180) & (ys < 260)
    for mark in (ball, box):
        codes[mark] = (190, 60, 50)
    codes += np.random.default_rng(1).normal(0, 2.0, codes.shape)
    photo = Photo(np.clip(codes, 0, 255).astype(np.uint8), srgb())
    return photo, {"sky": sky, "ball": ball, "box": box}


def iou(one: Mark, two: Mark) -> float:
    return float((one & two).sum() / (one | two).sum())


def masked(part: AnyPart, photo: Photo) -> Mark:
    view = View.fit(photo, photo.long_edge)
    return np.asarray(Engine(photo).mask(Mask(parts=(part,)), view) > 0.5)


def loop(far: float = 75.0) -> tuple[tuple[float, float], ...]:
    """Sloppily round the ball."""
    turns = np.linspace(0, 2 * math.pi, 60, endpoint=False)
    reach = far * (1 + 0.12 * np.sin(5 * turns))
    xs, ys = 150 + reach * np.cos(turns), 190 + reach * np.sin(turns)
    return tuple(zip((xs / W).tolist(), (ys / W).tolist(), strict=True))


class Snapping(unittest.TestCase):
    def setUp(self) -> None:
        self.photo, self.marks = stage()

    def test_a_sloppy_loop_finds_the_object(self) -> None:
        self.assertGreater(
            iou(masked(Snap(id="s", loop=loop()), self.photo), self.marks["ball"]), 0.95
        )

    def test_a_scribble_finds_it_too(self) -> None:
        line = Scribble(size=0.05, points=((130 / W, 170 / W), (170 / W, 215 / W)))
        found = masked(Snap(id="s", this=(line,)), self.photo)
        self.assertGreater(iou(found, self.marks["ball"]), 0.9)

    def test_what_is_said_not_to_be_it_is_left_out(self) -> None:
        """The ball's left half is cut off by hand, though nothing in the photo parts it."""
        other = Scribble(size=0.1, points=((125 / W, 150 / W), (125 / W, 230 / W)))
        found = masked(Snap(id="s", loop=loop(), other=(other,)), self.photo)
        self.assertFalse(found[160:220, 120:130].any())

    def test_something_must_be_said(self) -> None:
        with self.assertRaises(ValidationError):
            Snap(id="s")

    def test_every_zoom_and_region_shows_the_same(self) -> None:
        photo, _ = stage(3)
        engine = Engine(photo)
        parts: tuple[AnyPart, ...] = (
            Snap(id="s", loop=loop()),
            Similar(id="n", seeds=((150 / W, 190 / W),)),
            Guess(id="g", of="sky"),
            Brush(id="b", strokes=(Stroke(size=0.4, points=(((0.33, 0.42), 1.0),), edges=True),)),
        )
        for part in parts:
            mask = Mask(parts=(part,))
            full = engine.mask(mask, View((3 * W, 3 * H), (0, 0, 3 * W, 3 * H)))
            third = engine.mask(mask, View((W, H), (0, 0, W, H)))
            small = cv2.resize(full, (W, H), interpolation=cv2.INTER_AREA)
            self.assertLess(float(np.abs(third - small).mean()), 0.01, part.kind)
            cut = engine.mask(mask, View((3 * W, 3 * H), (200, 300, 900, 800)))
            np.testing.assert_allclose(cut, full[300:800, 200:900], atol=1e-3)

    def test_delivered_is_what_was_shown_also_in_place(self) -> None:
        recipe = recipe_for(self.photo, Snap(id="s", loop=loop()))
        apart = Engine(self.photo).deliver(recipe)
        shown = Engine(self.photo).mask(recipe.casts[0].mask, View((W, H), (0, 0, W, H)))
        still = (apart.codes == self.photo.codes).all(axis=2)
        self.assertTrue(still[shown == 0.0].all())
        in_place = Engine(stage()[0]).deliver(recipe, in_place=True)
        np.testing.assert_array_equal(apart.codes, in_place.codes)


class Alike(unittest.TestCase):
    def test_only_what_hangs_together_with_the_place(self) -> None:
        photo, marks = stage()
        found = masked(Similar(id="n", seeds=((150 / W, 190 / W),)), photo)
        self.assertGreater(iou(found, marks["ball"]), 0.95)
        seeds = ((150 / W, 190 / W), (360 / W, 220 / W))
        both = masked(Similar(id="n", seeds=seeds), photo)
        self.assertGreater(iou(both, marks["ball"] | marks["box"]), 0.95)

    def test_a_wider_tolerance_only_adds(self) -> None:
        photo, _ = stage()
        sizes = [
            masked(Similar(id="n", seeds=((0.9, 0.1),), tolerance=t), photo).mean()
            for t in (2.0, 10.0, 40.0, 100.0)
        ]
        self.assertEqual(sizes, sorted(sizes))
        self.assertGreater(sizes[-1], 0.95)


class Guessing(unittest.TestCase):
    def test_a_sky_and_a_subject(self) -> None:
        photo, marks = stage()
        self.assertGreater(iou(masked(Guess(id="g", of="sky"), photo), marks["sky"]), 0.9)
        subject = masked(Guess(id="g", of="subject"), photo)
        self.assertGreater(float(subject[marks["ball"]].mean()), 0.9)
        self.assertLess(float(subject[marks["sky"]].mean()), 0.1)

    def test_no_sky_is_no_mask(self) -> None:
        codes = np.random.default_rng(2).integers(0, 255, (60, 90, 3)).astype(np.uint8)
        self.assertFalse(masked(Guess(id="g", of="sky"), Photo(codes, srgb())).any())


class HeldAtEdges(unittest.TestCase):
    def stroke(self, **more: object) -> Stroke:
        points = (((150 / W, 190 / W), 1.0),)
        return Stroke.model_validate({"size": 0.4, "feather": 0.2, "points": points, **more})

    def test_a_dab_stops_where_the_colour_changes(self) -> None:
        photo, marks = stage()
        free, held = (
            masked(Brush(id="b", strokes=(self.stroke(edges=e),)), photo) for e in (False, True)
        )
        self.assertGreater(float((free & ~marks["ball"]).sum()), 5000)
        self.assertGreater(iou(held, marks["ball"]), 0.95)

    def test_it_erases_and_lies_between_other_strokes(self) -> None:
        photo, marks = stage()
        plain = self.stroke()
        taken = masked(Brush(id="b", strokes=(plain, self.stroke(edges=True, erase=True))), photo)
        self.assertLess(float(taken[marks["ball"]].mean()), 0.03)
        again = masked(
            Brush(id="b", strokes=(plain, self.stroke(edges=True, erase=True), plain)), photo
        )
        self.assertTrue(again[marks["ball"]].all())


if __name__ == "__main__":
    unittest.main()
