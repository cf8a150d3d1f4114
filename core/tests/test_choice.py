"""The finder's one question: put when several readings are likely, never when one is plain or none is."""

import unittest
from dataclasses import replace

import numpy as np

from nubilis.colour.cielab import lab_planes
from nubilis.colour.difference import difference_plane
from nubilis.engine.engine import Engine
from nubilis.errors import ChoiceError
from nubilis.find.adopt import all_adopted
from nubilis.find.choice import MOST_CHOICES, SURE, Choice, choices, close_up
from nubilis.find.colours import reduced
from nubilis.find.field import Looker, Words
from nubilis.find.finding import Finding
from nubilis.find.look import look
from nubilis.recipe.asset import Bundle

from .test_find import SHIFT, lit, paints, photo_of


class Question(unittest.TestCase):
    def setUp(self) -> None:
        self.clean = paints()
        rgb, _ = lit(self.clean)
        self.assets = Bundle()
        self.engine = Engine(photo_of(rgb), assets=self.assets)
        self.field = Looker(reduced(self.engine.pyramid.analysis)).field()
        self.seen = look(self.engine)

    def asked(self, confidence: float, strength: float = 1.0) -> list[str]:
        """What the answers say when the finder is so sure of its own finding."""
        own = [replace(f, confidence=confidence) for f in self.seen.findings[:1]]
        first = self.seen.findings[0].shift
        ways = [first, (-first[0], -first[1]), (first[1], -first[0])]

        def led(words: Words) -> Finding:
            assert words.direction is not None
            return replace(self.seen.findings[0], shift=words.direction)

        field = replace(self.field, strength=strength)
        return [c.says for c in choices(field, own, ways, led)[0]]

    def test_put_when_the_finder_is_not_sure(self) -> None:
        says = self.asked(SURE - 0.2)
        self.assertGreaterEqual(len(says), 2)
        self.assertLessEqual(len(says), MOST_CHOICES)
        self.assertTrue(all(s.startswith("less ") for s in says))

    def test_not_put_when_it_is_sure_or_little_speaks_for_anything(self) -> None:
        self.assertEqual(self.asked(SURE), [])
        self.assertEqual(self.asked(SURE - 0.2, strength=0.1), [])

    def test_not_put_on_a_photo_without_a_cast_or_once_something_was_said(self) -> None:
        self.assertEqual(look(Engine(photo_of(self.clean))).choices, ())
        way = float(SHIFT[0]), float(SHIFT[1])
        self.assertEqual(look(self.engine, Words(direction=way)).choices, ())

    def test_readings_of_one_direction_are_one(self) -> None:
        first = self.seen.findings[0]
        own, way = [replace(first, confidence=0.6)], first.shift
        field = replace(self.field, strength=1.0)
        nearly = way[0] * 1.1, way[1]
        self.assertEqual(choices(field, own, [way, nearly], lambda _: first), ((), ()))
        # Led another way, the finder comes back to the same.
        self.assertEqual(choices(field, own, [(-way[0], -way[1])], lambda _: first), ((), ()))

    def test_one_reading_that_is_barely_likely_is_asked_about_too(self) -> None:
        first = replace(self.seen.findings[0], confidence=0.4)
        field = replace(self.field, strength=1.0)
        answers, further = choices(field, [first], [first.shift], lambda _: first)
        self.assertEqual([c.findings for c in answers], [(first.id,)])
        self.assertEqual(further, ())

    def test_an_answer_takes_its_cast_off(self) -> None:
        first = self.seen.findings[0]
        led = replace(first, id="led", alternative=True)
        answers = (Choice("choice-1", (first.id,), "less"), Choice("choice-2", ("led",), "less"))
        seen = replace(self.seen, choices=answers, alternatives=(led,))
        self.assertEqual(seen.chosen("choice-2"), (led,))
        view, truth = self.engine.analysis_view, lab_planes(self.clean)
        recipe = all_adopted(self.engine, seen.chosen("choice-1"), self.assets.keep, 1.0)
        before, after = (
            difference_plane(lab_planes(v), truth).mean()
            for v in (self.engine.untouched(view), self.engine.render(recipe, view))
        )
        self.assertLess(after, 0.6 * before)

    def test_what_was_not_offered_is_refused(self) -> None:
        with self.assertRaisesRegex(ChoiceError, "no 'choice-9'"):
            self.seen.chosen("choice-9")

    def test_the_close_up_is_where_most_is_tainted(self) -> None:
        taint = np.zeros((100, 200), dtype=np.float32)
        taint[60:70, 150:160] = 1.0
        x0, y0, x1, y1 = (v * 200 for v in close_up(taint))
        self.assertTrue(x0 <= 150 and x1 >= 160 and y0 <= 60 and y1 >= 70)
        self.assertAlmostEqual(x1 - x0, y1 - y0, places=5)
        self.assertTrue(x0 >= 0 and y0 >= 0 and x1 <= 200 and y1 <= 100)
