"""Following and carrying over on the bursts, as recorded: getting worse fails."""

import unittest

import numpy as np

from bench.bursts import as_plane, bursts
from bench.series import carried_over, followed, frames, shared
from core.tests.effort import long_tier
from nubilis.series.follow import CHECK

# Mean and last IoU of the subject, its mask given on frame 1; see docs/series.md.
RECORDED = {"burst-curtain": (0.90, 0.87), "burst-flash": (0.94, 0.90)}
MENDED = 0.9  # the least, once the worst frame is given too
LEAST_UNTOLD, AS_GOOD = 0.75, 1.15


@long_tier
class Following(unittest.TestCase):
    def test_the_subject_is_followed_and_a_correction_mends_the_rest(self) -> None:
        for name, photos in bursts().items():
            small = frames(photos)
            planes = {i: as_plane(p.subject) for i, p in enumerate(photos)}
            found = followed(small, {0: planes[0]})
            shares = [shared(f.mask, p) for f, p in zip(found, photos, strict=True)]
            with self.subTest(name):
                mean, last = RECORDED[name]
                self.assertGreater(float(np.mean(shares[1:])), mean)
                self.assertGreater(shares[-1], last)
                for share, one in zip(shares, found, strict=True):
                    self.assertTrue(share > LEAST_UNTOLD or one.confidence < CHECK)
            worst = int(np.argmin(shares))
            again = followed(small, {0: planes[0], worst: planes[worst]})
            for i, (one, photo) in enumerate(zip(again, photos, strict=True)):
                if i not in (0, worst):
                    with self.subTest(f"{name}, frame {i + 1}, mended"):
                        self.assertGreater(shared(one.mask, photo), MENDED)

    def test_a_cut_between_set_ups_is_seen(self) -> None:
        curtain, flash = bursts().values()
        photos = [*curtain[3:5], *flash[:2]]
        found = followed(frames(photos), {0: as_plane(photos[0].subject)})
        self.assertEqual([f.mask is None for f in found], [False, False, True, True])


@long_tier
class CarryingOver(unittest.TestCase):
    def test_it_leaves_hardly_more_than_the_first_frame_s_own_pairs_and_kept_colours_stay(
        self,
    ) -> None:
        for name, photos in bursts().items():
            first, carried, _, moved = carried_over(photos[:4], of_subject=True)
            with self.subTest(name):
                self.assertLess(carried, AS_GOOD * first)
                self.assertLess(moved, 1.0)
