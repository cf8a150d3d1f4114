"""Reference colours: the built-in ones, and their way out and in."""

import itertools
import unittest
from unittest import mock

from hypothesis import given
from hypothesis import strategies as st

from nubilis.colour.cielab import lab_to_linear_rgb
from nubilis.colour.kind import kind_of
from nubilis.colour.skin import LINE, RANGE
from nubilis.errors import LibraryError
from nubilis.library import exchange
from nubilis.library.built_in import built_in
from nubilis.library.exchange import MOST, read_references, to_csv, to_json
from nubilis.library.reference import Reference
from nubilis.proof.scopes import skin_angle
from nubilis.readable import made_readable

MINE = Reference(name="Ada's coat, red", group="material", lab=(41.5, 52.25, -30.0), note="tent, 2")


class BuiltIn(unittest.TestCase):
    def test_greys_have_no_colour(self) -> None:
        greys = [r for r in built_in() if r.group == "neutral"]
        self.assertGreaterEqual(len(greys), 5)
        for grey in greys:
            self.assertEqual(grey.lab[1:], (0.0, 0.0))

    def test_every_skin_of_the_scale_is_a_natural_one(self) -> None:
        for one in (r for r in built_in() if r.group == "skin"):
            self.assertEqual(kind_of(one.lab), "skin", one.name)
            red, green, blue = (float(v) for v in lab_to_linear_rgb(one.lab))
            angle = skin_angle((red, green, blue)) + LINE
            self.assertTrue(RANGE[0] <= angle <= RANGE[1], (one.name, angle))

    def test_the_scale_falls_in_even_steps(self) -> None:
        light = [r.lab[0] for r in built_in() if r.group == "skin"]
        steps = [a - b for a, b in itertools.pairwise(light)]
        self.assertGreater(light[0] - light[-1], 40.0)
        self.assertLess(max(steps), 1.5 * min(steps))


class Exchange(unittest.TestCase):
    def test_what_goes_out_comes_in(self) -> None:
        given_ones = [*built_in(), MINE, Reference(name="=SUM(1)", group="skin", lab=(60, 10, 20))]
        self.assertEqual(read_references(to_json(given_ones)), given_ones)
        self.assertEqual(read_references(to_csv(given_ones)), given_ones)

    @given(
        st.text(min_size=1, max_size=40).map(made_readable).filter(lambda s: s.split()),
        st.tuples(st.floats(0, 100), st.floats(-128, 128), st.floats(-128, 128)),
    )
    def test_any_name_and_colour_survives(self, name: str, lab: tuple[float, float, float]) -> None:
        one = Reference(name=name, group="neutral", lab=lab)
        self.assertEqual(read_references(to_json([one])), [one])

    def test_a_table_from_elsewhere_may_order_its_columns(self) -> None:
        read = read_references("L,a,b,group,name\n50,0,1.5,neutral,Card\n\n")
        self.assertEqual(read, [Reference(name="Card", group="neutral", lab=(50.0, 0.0, 1.5))])

    def test_far_too_many_are_not_gone_through(self) -> None:
        text = to_csv([]) + "Felt,material,50,0,0,\n" * (MOST + 900)
        row = exchange._row
        with (
            mock.patch.object(exchange, "_row", side_effect=row) as rows,
            self.assertRaisesRegex(LibraryError, "more than 2000 colours"),
        ):
            read_references(text)
        self.assertEqual(rows.call_count, MOST)
        with self.assertRaisesRegex(LibraryError, "far longer"):
            read_references(to_csv([]) + " " * 4_000_000 + "x")

    def test_faults_are_told_with_their_place(self) -> None:
        for text, told in (
            ("", "empty"),
            ("{nonsense", "not valid JSON"),
            ('{"format": "other"}', "not a file of Nubilis references"),
            (to_json([MINE]).replace("41.5", "141.5"), "references.0.lab.0"),
            ("name,group,L,a\nCard,neutral,50,0", "no column b"),
            ("name,group,L,a,b\nCard,neutral,50,0", "line 2: 4 values, not 5"),
            ("name,group,L,a,b\nCard,neutral,50,0,grey", "line 2: lab.2"),
            ("name,group,L,a,b\nCard,paint,50,0,0", "line 2: group"),
            ("name,group,L,a,b\n,skin,50,0,0", "line 2: name"),
        ):
            with self.assertRaises(LibraryError) as caught:
                read_references(text)
            self.assertIn(told, str(caught.exception))
            self.assertNotIn("\n", str(caught.exception))


if __name__ == "__main__":
    unittest.main()
