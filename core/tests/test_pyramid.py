"""Views at any zoom against a slow, plain reference."""

import unittest

import numpy as np

from nubilis.arrays import Floats
from nubilis.colour.profile import srgb
from nubilis.errors import PlaceError
from nubilis.photo.picture import Photo
from nubilis.photo.pyramid import Pyramid, View
from nubilis.photo.sampling import area_of_planes, decode

from .pictures import random_codes


def plain_area(planes: Floats, w: int, h: int) -> Floats:
    """Averages by weights, one axis after the other."""

    def weights(n: int, m: int) -> np.ndarray:
        out = np.zeros((m, n))
        for i in range(m):
            low, high = i * n / m, (i + 1) * n / m
            for j in range(n):
                out[i, j] = max(0.0, min(high, j + 1) - max(low, j))
        return out / out.sum(axis=1, keepdims=True)

    rows = np.tensordot(weights(planes.shape[1], h), planes, axes=(1, 1))  # (h, 3, w)
    return np.tensordot(rows, weights(planes.shape[2], w), axes=(2, 1)).transpose(1, 0, 2)


class Scaling(unittest.TestCase):
    def test_area_average_at_odd_and_tiny_sizes(self) -> None:
        for (h, w), (th, tw) in (
            ((1, 1), (1, 1)),
            ((5, 7), (2, 3)),
            ((8, 3), (5, 1)),
            ((31, 17), (30, 16)),
        ):
            photo = Photo(random_codes(h, w), srgb())
            planes = decode(photo.codes, srgb())
            view = View((tw, th), (0, 0, tw, th))
            with self.subTest(f"{h}x{w} to {th}x{tw}"):
                np.testing.assert_allclose(
                    area_of_planes(planes, (w / tw, h / th), view.region),
                    plain_area(planes, tw, th),
                    atol=2e-6,
                )
                if w < 2 * tw:  # one step from the code values, without a half-size level between
                    np.testing.assert_allclose(
                        Pyramid(photo).read(view), plain_area(planes, tw, th), atol=2e-6
                    )

    def test_levels_agree_with_one_step(self) -> None:
        photo = Photo(random_codes(256, 384), srgb())
        view = View((96, 64), (0, 0, 96, 64))
        expected = plain_area(decode(photo.codes, srgb()), 96, 64)
        np.testing.assert_allclose(Pyramid(photo).read(view), expected, atol=1e-5)

    def test_a_region_is_a_cut_of_the_whole(self) -> None:
        pyramid = Pyramid(Photo(random_codes(90, 130), srgb()))
        for size in ((130, 90), (100, 70), (41, 29)):
            whole = pyramid.read(View(size, (0, 0, *size)))
            part = pyramid.read(View(size, (5, 7, 30, 22)))
            np.testing.assert_array_equal(part, whole[:, 7:22, 5:30])

    def test_impossible_views_are_refused(self) -> None:
        pyramid = Pyramid(Photo(random_codes(10, 20), srgb()))
        for view in (
            View((40, 20), (0, 0, 40, 20)),
            View((20, 10), (0, 0, 21, 10)),
            View((20, 10), (5, 5, 5, 8)),
            View((20, 10), (-1, 0, 5, 5)),
            View((0, 0), (0, 0, 0, 0)),
        ):
            with self.subTest(view), self.assertRaises(PlaceError):
                pyramid.read(view)
