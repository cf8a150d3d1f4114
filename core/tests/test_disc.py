"""Widening by a disc."""

import unittest

import cv2
import numpy as np

from nubilis.mask.disc import widened


class Widened(unittest.TestCase):
    def test_as_far_as_an_ellipse_of_opencv_to_the_bit(self) -> None:
        rng = np.random.default_rng(3)
        for shape in ((40, 61), (7, 90), (1, 1), (30, 2)):
            mask = rng.random(shape, dtype=np.float32)
            mask[mask < 0.9] = 0.0
            for radius in (1, 2, 5, 12, 50):
                side = 2 * radius + 1
                disc = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (side, side))
                np.testing.assert_array_equal(widened(mask, radius), cv2.dilate(mask, disc))
        self.assertEqual(float(widened(np.zeros((4, 4), np.float32), 2).max()), 0.0)
