"""Regions of a photo: what lies in both, what holds all, and views that fit."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from nubilis.colour.profile import srgb
from nubilis.mask.brush import Brush
from nubilis.mask.combine import Mask
from nubilis.mask.whole import Whole
from nubilis.photo.picture import Photo
from nubilis.photo.pyramid import Region, View, around, overlap

from .pictures import brush, random_codes

SIZE = (600, 400)


def boxes() -> st.SearchStrategy[Region]:
    ends = st.tuples(st.integers(0, 40), st.integers(0, 40), st.integers(1, 20), st.integers(1, 20))
    return ends.map(lambda e: (e[0], e[1], e[0] + e[2], e[1] + e[3]))


class Regions(unittest.TestCase):
    @given(boxes(), boxes())
    def test_overlap_and_around(self, one: Region, two: Region) -> None:
        both = overlap(one, two)
        self.assertEqual(both, overlap(two, one))
        whole = around([one, two])
        self.assertEqual(overlap(one, whole), one)
        self.assertEqual(overlap(two, whole), two)
        inside = {(x, y) for x in range(one[0], one[2]) for y in range(one[1], one[3])}
        inside &= {(x, y) for x in range(two[0], two[2]) for y in range(two[1], two[3])}
        self.assertEqual(both is not None, bool(inside))
        if both is not None:
            self.assertEqual((both[2] - both[0]) * (both[3] - both[1]), len(inside))

    def test_a_mask_reaches_as_far_as_what_adds(self) -> None:
        spot = brush(0.1, points=(((0.5, 0.3), 1.0),))
        everywhere = (0, 0, *SIZE)
        near = Mask(parts=(spot,)).reach(SIZE)
        self.assertLess(near[2] - near[0], 120)
        taken = Whole(id="all", join="subtract")
        self.assertEqual(Mask(parts=(spot, taken)).reach(SIZE), near)
        self.assertEqual(Mask(parts=(spot, Whole(id="all"))).reach(SIZE), everywhere)
        turned = spot.model_copy(update={"invert": True})
        self.assertEqual(Mask(parts=(turned,)).reach(SIZE), everywhere)
        off = spot.model_copy(update={"on": False})
        for empty in (Mask(), Mask(parts=(off,)), Mask(parts=(Brush(id="b"),))):
            self.assertIsNone(overlap(empty.reach(SIZE), everywhere))

    def test_views_that_fit(self) -> None:
        for (h, w), edge, size in (
            ((40, 60), 30, (30, 20)),
            ((40, 60), 999, (60, 40)),
            ((1, 9), 4, (4, 1)),
        ):
            view = View.fit(Photo(random_codes(h, w), srgb()), edge)
            self.assertEqual((view.size, view.region), (size, (0, 0, *size)))
            self.assertEqual(view.shape, (size[1], size[0]))
