"""Two casts under one mask: the one that was not sampled is left as it is, and told with its place."""

import unittest

import numpy as np

from nubilis.cast.take_off import take_off
from nubilis.colour.cielab import lab_planes
from nubilis.colour.difference import difference_plane
from nubilis.engine.engine import Engine
from nubilis.mask.combine import Lent, Mask
from nubilis.mask.oval import Oval
from nubilis.planning import sample_at
from nubilis.proof.casts import prove
from nubilis.proof.judgement import ANOTHER, another_cast
from nubilis.recipe.document import Cast, Pair, Recipe
from nubilis.remedy.neutralise import Neutralise

from .test_find import paints, photo_of

AMBER, BLUE = np.array([-0.02, 0.24]), np.array([0.0, -0.26])


def lit_from_both_sides() -> tuple[np.ndarray, np.ndarray]:
    """Amber at the left, blue at the right, nothing between; and the same without the amber."""
    clean = paints(160, 240)
    x = np.linspace(0.0, 1.0, 240, dtype=np.float32)
    left, right = (np.clip(1.0 - v / 0.42, 0.0, 1.0)[None].repeat(160, 0) for v in (x, 1.0 - x))
    one = np.ones_like(left)
    blue = take_off(clean, one, right, -BLUE, hold_lightness=0.0)
    return take_off(blue, one, left, -AMBER, hold_lightness=0.0), blue


def oval(name: str, x: float) -> Oval:
    return Oval(id=name, centre=(x, 0.33), radii=(0.3, 0.5), inside=0.0, outside=0.1)


class TwoCasts(unittest.TestCase):
    def setUp(self) -> None:
        both, self.blue = lit_from_both_sides()
        self.engine = Engine(photo_of(both))
        at, clean = self.a_pair(both)
        pair = Pair(id="p", tainted=at, reference=clean)
        self.cast = Cast(
            id="amber",
            pairs=(pair,),
            mask=Mask(parts=(oval("left", 0.12), oval("right", 0.88))),
            remedies=(Neutralise(id="n"),),
        )

    def a_pair(self, rgb: np.ndarray):  # type: ignore[no-untyped-def]
        """A tile in the amber light, and one of the same paint in none."""
        tiles = [(x, y) for y in range(4, 160, 8) for x in range(4, 240, 8)]
        clean = lab_planes(paints(160, 240))
        tainted = next((x, y) for x, y in tiles if 20 < x < 30 and 60 < y < 90)
        colour = clean[:, tainted[1], tainted[0]]
        between = [(x, y) for x, y in tiles if 104 < x < 136]
        twin = min(between, key=lambda t: float(np.abs(clean[:, t[1], t[0]] - colour).sum()))
        engine = Engine(photo_of(rgb))
        return sample_at(engine, tainted), sample_at(engine, twin)

    def test_the_other_one_s_place_is_left_about_as_it_is(self) -> None:
        view = self.engine.analysis_view
        after = lab_planes(self.engine.render(Recipe(casts=(self.cast,)), view))
        moved = difference_plane(lab_planes(self.engine.untouched(view)), after)
        to_truth = difference_plane(after, lab_planes(self.blue))
        self.assertGreater(float(moved[:, :40].mean()), 4.0)
        self.assertLess(float(moved[:, 190:].mean()), 0.25 * float(moved[:, :40].mean()))
        self.assertLess(float(to_truth[:, :40].mean()), 0.5 * float(moved[:, :40].mean()))

    def test_it_is_told_with_its_place_until_it_is_a_cast_of_its_own(self) -> None:
        (proof,) = prove(self.engine, Recipe(casts=(self.cast,))).casts
        (told,) = [c for c in proof.concerns if c.kind == "another"]
        assert told.at is not None
        self.assertGreater(told.at[0], 0.6)
        self.assertEqual(told.act, "own-cast")
        own = Cast(id="blue", mask=Mask(parts=(Lent(id="l", cast="amber"),)))
        first, _ = prove(self.engine, Recipe(casts=(self.cast, own))).casts
        self.assertNotIn("another", [c.kind for c in first.concerns])

    def test_one_cast_alone_tells_of_no_other(self) -> None:
        clean = paints(160, 240)
        x = np.linspace(0.0, 1.0, 240, dtype=np.float32)
        left = np.clip(1.0 - x / 0.42, 0.0, 1.0)[None].repeat(160, 0)
        rgb = take_off(clean, np.ones_like(left), left, -AMBER, hold_lightness=0.0)
        proof = prove(Engine(photo_of(rgb)), Recipe(casts=(self.cast,))).casts[0]
        self.assertNotIn("another", [c.kind for c in proof.concerns])

    def test_specks_are_none(self) -> None:
        better = np.zeros((60, 90), dtype=np.float32)
        better[::7, ::7] = 2 * ANOTHER
        self.assertIsNone(another_cast(better, np.ones_like(better)))
        self.assertIsNone(another_cast(better * 0, np.zeros_like(better)))
