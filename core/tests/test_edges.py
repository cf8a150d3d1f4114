"""Masks along the photo's edges: against plain references, at any zoom and region."""

import heapq
import unittest

import numpy as np

from nubilis.arrays import Floats
from nubilis.mask.edges import followed, guide_planes, lines_along, read_trace, traced
from nubilis.mask.reins import LONGEST, RADIUS, Reins
from nubilis.mask.sight import Sight
from nubilis.mask.walk import FAR, WALL, change_from, worst_on_the_way
from nubilis.photo.pyramid import View

from .pictures import random_light


def two_halves(h: int, w: int, grain: float = 0.0) -> Floats:
    """Dark left, light right."""
    rgb = np.full((3, h, w), 0.1, dtype=np.float32)
    rgb[:, :, w // 2 :] = np.array([0.5, 0.4, 0.3], dtype=np.float32)[:, None, None]
    noise = np.random.default_rng(2).normal(0, grain, (3, h, w)) if grain else 0.0
    return np.clip(rgb + noise, 0.0, 1.0).astype(np.float32)


def whole(h: int, w: int) -> View:
    return View((w, h), (0, 0, w, h))


def plain_lines(guide: Floats, mask: Floats, r: int, epsilon: float) -> np.ndarray:
    """By the definition, away from the rim: least squares in each window, then their mean."""
    _, h, w = guide.shape
    own = np.zeros((4, h, w))
    for y in range(r, h - r):
        for x in range(r, w - r):
            here = np.s_[y - r : y + r + 1, x - r : x + r + 1]
            i = guide[(slice(None), *here)].reshape(3, -1).astype(np.float64)
            p = mask[here].ravel().astype(np.float64)
            slopes = np.linalg.solve(
                np.cov(i, bias=True) + epsilon * np.eye(3),
                ((i - i.mean(axis=1)[:, None]) * (p - p.mean())).mean(axis=1),
            )
            own[:3, y, x], own[3, y, x] = slopes, p.mean() - slopes @ i.mean(axis=1)
    out = np.zeros_like(own)
    for y in range(2 * r, h - 2 * r):
        for x in range(2 * r, w - 2 * r):
            out[:, y, x] = own[:, y - r : y + r + 1, x - r : x + r + 1].mean(axis=(1, 2))
    return out


class Lines(unittest.TestCase):
    def test_equal_the_definition(self) -> None:
        guide = guide_planes(random_light(17, 21))
        mask = random_light(17, 21, seed=5)[0]
        inner = np.s_[:, 4:-4, 4:-4]
        ours, plain = lines_along(guide, mask, 2, 0.01), plain_lines(guide, mask, 2, 0.01)
        np.testing.assert_allclose(ours[inner], plain[inner], atol=2e-3)

    def test_an_edge_is_found_again_in_a_sharper_picture(self) -> None:
        small, large = two_halves(30, 40), two_halves(240, 320)
        mask = (np.arange(40) >= 20).astype(np.float32) * np.ones((30, 1), dtype=np.float32)
        read = read_trace(traced(small, mask, whole(30, 40)), large, whole(240, 320))
        self.assertLess(float(read[:, :158].max()), 0.05)
        self.assertGreater(float(read[:, 162:].min()), 0.95)

    def test_a_region_is_a_cut_of_the_whole(self) -> None:
        rgb = random_light(60, 80)
        trace = traced(random_light(15, 20), random_light(15, 20, seed=4)[0], whole(15, 20))
        full = read_trace(trace, rgb, whole(60, 80))
        here = np.ascontiguousarray(rgb[:, 10:50, 7:66])
        np.testing.assert_allclose(
            read_trace(trace, here, View((80, 60), (7, 10, 66, 50))), full[10:50, 7:66], atol=1e-4
        )

    def test_tiny_pictures(self) -> None:
        for h, w in ((1, 1), (1, 7), (2, 1)):
            rgb = random_light(h, w)
            read = read_trace(traced(rgb, rgb[0], whole(h, w)), rgb, whole(h, w))
            self.assertTrue(np.isfinite(read).all())
            self.assertEqual(followed(rgb, rgb[0], 9.0, 1e-3, (3, 5)).shape, (h, w))


class Following(unittest.TestCase):
    def test_a_sloppy_edge_is_drawn_to_the_photo_s(self) -> None:
        rgb = two_halves(80, 120, grain=0.005)
        sloppy = np.clip((np.arange(120) - 50) / 20, 0, 1).astype(np.float32) * np.ones(
            (80, 1), "f"
        )
        true = np.arange(120) >= 60
        drawn = followed(rgb, sloppy, 12.0, 4e-4, (0, 0))
        off = [float(np.abs(m - true)[:, 30:90].mean()) for m in (sloppy, drawn)]
        self.assertLess(off[1], 0.6 * off[0])

    def test_a_blotchy_mask_becomes_calm_where_the_photo_is(self) -> None:
        """Total variation of the mask inside either flat half, and its edge as sharp as it was."""
        rgb = two_halves(80, 120, grain=0.004)
        blotchy = np.random.default_rng(3).uniform(0.3, 1.0, (80, 120)).astype(np.float32)
        blotchy[:, :60] *= 0.1
        calm = followed(rgb, blotchy, 8.0, 4e-4, (0, 0))
        for flat in (np.s_[:, 4:52], np.s_[:, 68:116]):
            before, after = (float(np.abs(np.diff(m[flat])).mean()) for m in (blotchy, calm))
            self.assertLess(after, 0.2 * before)
        self.assertGreater(float(calm[:, 61].mean() - calm[:, 58].mean()), 0.4)


def plain_walk(guide: Floats, start: Floats, dead: float) -> np.ndarray:
    """Dijkstra's."""
    h, w = start.shape
    least = start.astype(np.float64).copy()
    queue = [(0.0, y, x) for y, x in zip(*np.nonzero(start == 0.0), strict=True)]
    while queue:
        d, y, x = heapq.heappop(queue)
        if d > least[y, x]:
            continue
        for v in range(max(y - 1, 0), min(y + 2, h)):
            for u in range(max(x - 1, 0), min(x + 2, w)):
                step = max(float(np.linalg.norm(guide[:, y, x] - guide[:, v, u])) - dead, 0.0)
                if least[v, u] < WALL and d + step < least[v, u] - 1e-9:
                    least[v, u] = d + step
                    heapq.heappush(queue, (d + step, v, u))
    return least


class Reined(unittest.TestCase):
    """A stroke that is held at edges is worked out on a picture of its own."""

    def size(self, size: float, *points: tuple[float, float]) -> tuple[int, float]:
        """The picture's long edge, and the pen's radius on it."""
        sight = Sight((6000, 4000), lambda view: np.full((3, *view.shape), 0.5, dtype=np.float32))
        view = Reins(size, points).trace(sight).view
        return max(view.shape), size / 2.0 * view.long_edge

    def test_neither_pen_nor_picture_is_larger_than_it_takes(self) -> None:
        dab, radius = self.size(0.2, (0.5, 0.3))
        self.assertAlmostEqual(radius, RADIUS, delta=1.0)
        self.assertLess(dab, LONGEST)
        long, thin = self.size(0.02, (0.05, 0.3), (0.95, 0.3))
        self.assertAlmostEqual(long, LONGEST, delta=8)
        self.assertLess(thin, RADIUS)


class Walking(unittest.TestCase):
    def test_equals_the_shortest_way(self) -> None:
        guide = guide_planes(two_halves(23, 31, grain=0.02))
        start = np.full((23, 31), FAR, dtype=np.float32)
        start[11, 4] = 0.0
        start[3:20, 10] = WALL  # a way round has to be found
        ours = change_from(guide, start)
        free = start < WALL
        plain = plain_walk(guide, start, 0.01)[free]
        self.assertTrue((ours[free] >= plain - 1e-5).all())
        self.assertLess(float((ours[free] - plain).mean()), 0.03 * float(plain.mean()))

    def test_one_bad_place_on_the_way_is_enough(self) -> None:
        cost = np.zeros((5, 9), dtype=np.float32)
        cost[:, 4] = 7.0
        cost[2, 7] = 9.0
        start = np.full(cost.shape, FAR, dtype=np.float32)
        start[2, 0] = 0.0
        worst = worst_on_the_way(cost, start)
        self.assertEqual(float(worst[0, 2]), 0.0)
        self.assertEqual(float(worst[4, 8]), 7.0)
        self.assertEqual(float(worst[2, 7]), 9.0)


if __name__ == "__main__":
    unittest.main()
