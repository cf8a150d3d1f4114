"""Masks, casts and colours followed through a series of frames."""

import unittest
from collections.abc import Sequence
from typing import Any

import cv2
import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from nubilis.arrays import Floats
from nubilis.colour.profile import srgb
from nubilis.engine.engine import Engine
from nubilis.engine.sample import sampled
from nubilis.mask.brush import Brush
from nubilis.mask.colour_key import ColourKey
from nubilis.mask.combine import Mask
from nubilis.mask.move import Move
from nubilis.mask.oval import Oval
from nubilis.mask.path import Node, Path
from nubilis.mask.picture import Picture
from nubilis.mask.ramp import Ramp
from nubilis.mask.similar import Similar
from nubilis.mask.snap import Scribble, Snap
from nubilis.photo.grey import grey_png, read_grey
from nubilis.photo.picture import Photo
from nubilis.recipe.asset import Bundle
from nubilis.recipe.document import Cast, Guard, Pair, Recipe, Touch
from nubilis.remedy.neutralise import Neutralise
from nubilis.remedy.wash import Wash, WashStroke
from nubilis.series.agree import Sought, apart
from nubilis.series.carry import Carried, Follower
from nubilis.series.follow import Series, is_loose
from nubilis.series.frame import Frame, frame_of
from nubilis.series.motion import motion_between
from tests.pictures import brush, warm_key

from .effort import long_tier

SHAPE = 200, 300
SIZE = 60  # pixels: of what moves
WAY = [(50, 60), (62, 64), (76, 66), (92, 70), (104, 78)]  # its corner, frame by frame


def texture(shape: tuple[int, int], seed: int, colour: Sequence[float]) -> np.ndarray:
    rng = np.random.default_rng(seed)
    rough = cv2.GaussianBlur(rng.normal(0.0, 1.0, (*shape, 1)).astype(np.float32), (0, 0), 2.0)
    return np.array(colour) + 160.0 * np.atleast_3d(rough) * np.array([1.0, 0.9, 0.8])


def moving(at: tuple[int, int], seed: int = 1) -> Photo:
    """Before a grey wall a warm square, marked, at (x, y)."""
    codes = texture(SHAPE, seed, (120.0, 122.0, 125.0))
    thing = texture((SIZE, SIZE), 50, (190.0, 120.0, 90.0))
    thing[20:30, 10:25] = 40.0
    x, y = at
    codes[y : y + SIZE, x : x + SIZE] = thing
    return Photo(np.clip(codes, 0, 255).astype(np.uint8), srgb())


def square(at: tuple[int, int], shape: tuple[int, int] = SHAPE) -> Floats:
    mask = np.zeros(shape, dtype=np.float32)
    mask[at[1] : at[1] + SIZE, at[0] : at[0] + SIZE] = 1.0
    return mask


def overlap(one: Floats | None, two: Floats) -> float:
    if one is None:
        return 0.0
    a, b = one > 0.5, two > 0.5
    return float((a & b).sum() / (a | b).sum())


def frames_of(photos: Sequence[Photo]) -> list[Frame]:
    return [frame_of(Engine(p).sight()) for p in photos]


class Following(unittest.TestCase):
    def setUp(self) -> None:
        self.frames = frames_of([moving(at) for at in WAY])

    def series(self, frames: Sequence[Frame]) -> Series:
        return Series(len(frames), lambda i: frames[i])

    def test_a_mask_goes_where_its_thing_goes(self) -> None:
        found = self.series(self.frames).follow({0: square(WAY[0])})
        for step, at in zip(found, WAY, strict=True):
            self.assertGreater(overlap(step.mask, square(at)), 0.93)
            self.assertFalse(step.check)
        self.assertTrue(found[0].key)
        x, y = found[-1].moved[:, 2]
        self.assertAlmostEqual(x, WAY[0][0] - WAY[-1][0], delta=4.0)
        self.assertAlmostEqual(y, WAY[0][1] - WAY[-1][1], delta=4.0)

    def test_it_is_followed_both_ways_from_a_frame_in_the_middle(self) -> None:
        found = self.series(self.frames).follow({2: square(WAY[2])})
        for step, at in zip(found, WAY, strict=True):
            self.assertGreater(overlap(step.mask, square(at)), 0.93)

    @long_tier
    def test_frames_between_two_keys_hear_both(self) -> None:
        # The second key says that only the upper half is meant: the frames after it follow that.
        half = square(WAY[3])
        half[WAY[3][1] + SIZE // 2 :] = 0.0
        found = self.series(self.frames).follow({0: square(WAY[0]), 3: half})
        last = square(WAY[4])
        last[WAY[4][1] + SIZE // 2 :] = 0.0
        self.assertGreater(overlap(found[4].mask, last), 0.7)
        self.assertGreater(overlap(found[1].mask, square(WAY[1])), 0.85)
        self.assertEqual(found[3].confidence, 1.0)

    def test_a_cut_to_something_else_is_not_followed(self) -> None:
        elsewhere = frames_of([Photo(texture_codes(9), srgb()), Photo(texture_codes(9), srgb())])
        found = self.series([*self.frames[:2], *elsewhere]).follow({0: square(WAY[0])})
        self.assertIsNotNone(found[1].mask)
        for step in found[2:]:
            self.assertIsNone(step.mask)
            self.assertEqual(step.confidence, 0.0)
            self.assertTrue(step.check)

    def test_frames_of_another_format_are_not_followed(self) -> None:
        turned = frames_of([Photo(np.ascontiguousarray(moving(WAY[1]).codes[:, :200]), srgb())])
        self.assertIsNone(
            self.series([self.frames[0], *turned]).follow({0: square(WAY[0])})[1].mask
        )

    def test_loose_masks_move_and_keep_their_softness(self) -> None:
        soft = np.asarray(cv2.GaussianBlur(square(WAY[0]), (0, 0), 18.0), dtype=np.float32)
        self.assertTrue(is_loose(soft))
        self.assertFalse(is_loose(square(WAY[0])))
        found = self.series(self.frames).follow({0: soft})
        there = np.asarray(cv2.GaussianBlur(square(WAY[-1]), (0, 0), 18.0))
        assert found[-1].mask is not None
        self.assertLess(float(np.abs(found[-1].mask - there).mean()), 0.02)

    @long_tier
    def test_the_same_frames_are_always_followed_alike(self) -> None:
        one, two = (self.series(self.frames).follow({0: square(WAY[0])}) for _ in range(2))
        for a, b in zip(one, two, strict=True):
            np.testing.assert_array_equal(a.mask, b.mask)

    def test_a_place_is_tracked_until_it_is_hidden(self) -> None:
        series = self.series(self.frames)
        there = series.track((WAY[0][0] + 17.0, WAY[0][1] + 25.0), 0, 4)
        assert there is not None
        self.assertAlmostEqual(there[0], WAY[4][0] + 17.0, delta=2.0)
        self.assertAlmostEqual(there[1], WAY[4][1] + 25.0, delta=2.0)
        # The wall beside it, over which it comes to stand.
        self.assertIsNone(series.track((WAY[0][0] + SIZE + 15.0, WAY[0][1] + 30.0), 0, 4))

    def test_motion_of_what_stands_still_is_none(self) -> None:
        motion = motion_between(self.frames[0], self.frames[0])
        assert motion is not None
        self.assertGreater(motion.same, 0.99)
        self.assertLess(float(np.abs(motion.back).max()), 0.5)


def texture_codes(seed: int) -> np.ndarray:
    return np.clip(texture(SHAPE, seed, (60.0, 140.0, 60.0)) * 1.2, 0, 255).astype(np.uint8)


class Moves(unittest.TestCase):
    @given(st.floats(0.5, 2.0), st.floats(-60.0, 60.0), st.floats(-0.2, 0.2), st.floats(-0.2, 0.2))
    def test_what_is_drawn_keeps_its_form(
        self, scale: float, turn: float, dx: float, dy: float
    ) -> None:
        angle = np.radians(turn)
        move = Move(scale * np.cos(angle), scale * np.sin(angle), dx, dy)
        oval = Oval(id="o", centre=(0.4, 0.3), radii=(0.1, 0.05), angle=10.0).moved(move)
        self.assertAlmostEqual(oval.radii[0] / oval.radii[1], 2.0)
        self.assertAlmostEqual(oval.radii[0], 0.1 * scale)
        self.assertAlmostEqual((oval.angle - 10.0 - turn + 180.0) % 360.0 - 180.0, 0.0, places=6)
        self.assertEqual(oval.centre, move.place((0.4, 0.3)))

    def test_every_kind_that_has_places_moves_them(self) -> None:
        move = Move(dx=0.1, dy=0.05)
        scribble = Scribble(points=((0.3, 0.2),))
        drawn = (
            brush(),
            Ramp(id="r", full=(0.2, 0.2), none=(0.5, 0.3)),
            Oval(id="o", centre=(0.4, 0.2), radii=(0.3, 0.2)),
            Path(id="p", nodes=(Node(at=(0.1, 0.1), after=(0.2, 0.1)), Node(at=(0.4, 0.2)))),
            Snap(id="n", loop=((0.2, 0.1), (0.4, 0.1), (0.3, 0.3)), other=(scribble,)),
            Snap(id="m", this=(scribble,)),
            Similar(id="s", seeds=((0.4, 0.2),)),
        )
        for part in drawn:
            there = part.moved(move)
            self.assertNotEqual(there, part)
            self.assertEqual(type(part).model_validate(there.model_dump()), there)
        key = warm_key()
        self.assertEqual(key.moved(move), key)
        node = drawn[3].moved(move)
        assert isinstance(node, Path)
        self.assertAlmostEqual(node.nodes[0].at[0], 0.2)
        self.assertAlmostEqual(node.nodes[0].after[0] if node.nodes[0].after else 0.0, 0.3)

    def test_places_and_sizes_stay_within_what_a_recipe_may_say(self) -> None:
        far = Move(a=5.0, dx=4.0)
        moved = Brush(id="b", strokes=brush(size=1.9).strokes).moved(far)
        self.assertEqual(Brush.model_validate(moved.model_dump()), moved)


class Carrying(unittest.TestCase):
    def setUp(self) -> None:
        self.assets = Bundle()
        self.engines = [Engine(moving(at), assets=self.assets) for at in WAY]
        edge = SHAPE[1]
        x, y = WAY[0]
        inside = (x + 40.0) / edge, (y + 45.0) / edge
        beside = 250.0 / edge, 180.0 / edge
        first = self.engines[0]
        self.cast = Cast(
            id="a",
            pairs=(
                Pair(
                    id="1",
                    tainted=sampled(first, inside, 0.01),
                    reference=sampled(first, beside, 0.01),
                ),
            ),
            guards=(Guard(id="g", sample=sampled(first, beside, 0.01)),),
            touches=(Touch(id="t", at=inside, amount=0.5),),
            mask=Mask(
                parts=(
                    Oval(
                        id="o",
                        centre=((x + 30.0) / edge, (y + 30.0) / edge),
                        radii=(0.1, 0.1),
                    ),
                    warm_key(),
                )
            ),
            remedies=(
                Neutralise(id="n"),
                Wash(
                    id="w",
                    strokes=(WashStroke(id="s", size=0.02, points=((inside, 1.0),), stops=0.5),),
                ),
            ),
        )

    def carried(self, keys: dict[int, Recipe], engines: Sequence[Engine] = ()) -> list[Carried]:
        engines = engines or self.engines
        titles = [f"frame {i}" for i in range(len(engines))]
        follower = Follower(
            lambda i: engines[i], titles, keys, lambda _, data: self.assets.keep(data)
        )
        return [step for step in follower.carried() if isinstance(step, Carried)]

    def test_what_is_drawn_and_sampled_goes_along(self) -> None:
        done = self.carried({0: Recipe(casts=(self.cast,))})
        self.assertEqual([d.followed for d in done], [True] * len(WAY))
        self.assertEqual(done[0].casts, (self.cast,))
        (last,) = done[-1].casts
        oval = last.mask.parts[0]
        assert isinstance(oval, Oval)
        edge = SHAPE[1]
        for got, corner in zip(oval.centre, WAY[-1], strict=True):
            self.assertAlmostEqual(got * edge, corner + 30.0, delta=3.0)
        tainted = last.pairs[0].tainted
        assert tainted.at is not None
        self.assertAlmostEqual(tainted.at[0] * edge, WAY[-1][0] + 40.0, delta=3.0)
        # Measured there anew; the reference and what is kept are the first frame's colours.
        self.assertEqual(tainted, sampled(self.engines[-1], tainted.at, 0.01))
        reference = last.pairs[0].reference
        assert reference is not None
        self.assertEqual((reference.at, reference.name), (None, "frame 0"))
        self.assertEqual(last.guards[0].sample.rgb, self.cast.guards[0].sample.rgb)
        self.assertAlmostEqual(last.touches[0].at[0] * edge, WAY[-1][0] + 40.0, delta=3.0)
        wash = last.remedies[1]
        assert isinstance(wash, Wash)
        self.assertAlmostEqual(wash.strokes[0].points[0][0][0] * edge, WAY[-1][0] + 40.0, delta=3.0)
        self.assertIsInstance(last.mask.parts[1], ColourKey)

    def picture(self, at: tuple[int, int]) -> Recipe:
        asset = self.assets.keep(grey_png((square(at) * 255.0).astype(np.uint8)))
        part = Picture(id="p", asset=asset, strength=0.8)
        cast = self.cast.model_copy(update={"mask": Mask(parts=(part,))})
        return Recipe(casts=(cast,))

    @long_tier
    def test_pictures_are_followed_and_drawn_to_edges(self) -> None:
        done = self.carried({0: self.picture(WAY[0])})
        (part,) = done[-1].casts[0].mask.parts
        assert isinstance(part, Picture)
        self.assertEqual((part.id, part.strength), ("p", 0.8))
        codes = read_grey(self.assets(part.asset.sha256))
        self.assertEqual(codes.shape, SHAPE)
        self.assertGreater(overlap(codes / np.float32(255.0), square(WAY[-1])), 0.93)

    def test_a_correction_becomes_a_key(self) -> None:
        one, other = self.picture(WAY[0]), self.picture(WAY[3])
        done = self.carried({0: one, 3: other})
        self.assertEqual(done[3].casts, other.casts)
        self.assertEqual([d.key for d in done], [True, False, False, True, False])

    def test_what_cannot_be_followed_lies_unmoved_and_switched_off(self) -> None:
        elsewhere = Engine(Photo(texture_codes(9), srgb()), assets=self.assets)
        done = self.carried({0: Recipe(casts=(self.cast,))}, [self.engines[0], elsewhere])
        self.assertFalse(done[1].followed)
        self.assertTrue(done[1].check)
        (cast,) = done[1].casts
        self.assertFalse(cast.on)
        self.assertEqual(cast.mask, self.cast.mask)

    def test_a_mask_of_colours_alone_follows_as_far_as_the_things_are_the_same(self) -> None:
        cast = self.cast.model_copy(update={"mask": Mask(parts=(warm_key(),))})
        elsewhere = Engine(Photo(texture_codes(9), srgb()), assets=self.assets)
        done = self.carried({0: Recipe(casts=(cast,))}, [*self.engines[:2], elsewhere])
        self.assertEqual([d.followed for d in done], [True, True, False])


class Agreeing(unittest.TestCase):
    def sought(
        self, photos: Sequence[Photo], clicked: int, at: tuple[float, float]
    ) -> dict[int, Any]:
        frames = frames_of(photos)
        at = (at[0] + 0.5) / SHAPE[1], (at[1] + 0.5) / SHAPE[1]
        sought = Sought(len(photos), lambda i: frames[i], lambda i: None, clicked, at)
        return {
            i: place and (place[0] * SHAPE[1], place[1] * SHAPE[1]) for i, place in sought.places()
        }

    def test_it_is_followed_through_a_series(self) -> None:
        photos = [moving(at) for at in WAY]
        found = self.sought(photos, 2, (WAY[2][0] + 40, WAY[2][1] + 45))
        for i, at in enumerate(WAY):
            self.assertAlmostEqual(found[i][0], at[0] + 40.5, delta=3.0)
            self.assertAlmostEqual(found[i][1], at[1] + 45.5, delta=3.0)

    def test_elsewhere_it_is_known_by_its_colour(self) -> None:
        codes = texture_codes(9)
        codes[100:180, 200:280] = np.clip(texture((80, 80), 51, (180.0, 116.0, 90.0)), 0, 255)
        other = Photo(codes, srgb())
        found = self.sought([moving(WAY[0]), other], 0, (WAY[0][0] + 40, WAY[0][1] + 45))
        x, y = found[1]
        self.assertTrue(200 < x < 280 and 100 < y < 180, (x, y))

    def test_where_nothing_is_like_it_nothing_is_found(self) -> None:
        other = Photo(texture_codes(9), srgb())
        found = self.sought([moving(WAY[0]), other], 0, (WAY[0][0] + 40, WAY[0][1] + 45))
        self.assertIsNone(found[1])

    def test_distances_are_told_in_ciede2000(self) -> None:
        lab, off = apart((0.2, 0.2, 0.2), (0.2, 0.2, 0.2))
        self.assertAlmostEqual(off, 0.0)
        self.assertAlmostEqual(lab[1], 0.0, delta=0.1)
