"""Tables of colours: read as a general library writes them, refused in one line, interpolated as it does."""

import io
import tempfile
import unittest
from pathlib import Path

import numpy as np

from nubilis.errors import TableError
from nubilis.look.cube import Cube, identity, read_cube, write_cube
from nubilis.look.through import looked_up, through

from .grounds import colours


def bent(size: int = 17) -> Cube:
    """A look of its own: curves, and channels that lean on each other."""
    e = identity(size)
    mixed = e @ np.array([[0.8, 0.1, 0.0], [0.2, 0.9, 0.1], [0.0, 0.0, 0.9]], dtype=np.float32)
    return Cube("bent", 3, np.ascontiguousarray(np.clip(mixed, 0, 1) ** 1.2, dtype=np.float32))


class Written(unittest.TestCase):
    def test_what_is_written_is_read_again(self) -> None:
        line = Cube("line", 1, np.linspace(0, 1, 40, dtype=np.float32)[:, None].repeat(3, 1) ** 2)
        for cube in (bent(), line):
            again = read_cube(write_cube(cube))
            self.assertEqual((again.title, again.dimensions), (cube.title, cube.dimensions))
            np.testing.assert_allclose(again.entries, cube.entries, atol=1e-6)

    def test_tables_of_a_general_library_have_the_same_figures(self) -> None:
        import colour

        given = [
            colour.LUT3D(bent(9).entries.transpose(2, 1, 0, 3), "a look"),
            colour.LUT3D(
                bent(5).entries.transpose(2, 1, 0, 3), "b", np.array([[-0.1] * 3, [1.5] * 3])
            ),
            colour.LUT3x1D(np.linspace(0, 1, 33)[:, None].repeat(3, 1) ** [0.8, 1.0, 1.2], "c"),
        ]
        rng = np.random.default_rng(2)
        for table in given:
            with tempfile.TemporaryDirectory() as folder:
                path = Path(folder) / "x.cube"
                if isinstance(table, colour.LUT3D):
                    colour.io.write_LUT_IridasCube(table, str(path), decimals=7)
                else:
                    colour.io.write_LUT_IridasCube(table, str(path), decimals=7)
                ours = read_cube(path.read_bytes())
            places = rng.uniform(table.domain[0, 0], table.domain[-1, 0], (500, 3))
            if isinstance(table, colour.LUT3D):
                how = colour.algebra.table_interpolation_tetrahedral
                wanted = table.apply(places, interpolator=how)
            else:
                wanted = table.apply(places)
            found = looked_up(ours, np.ascontiguousarray(places.T, dtype=np.float32)).T
            np.testing.assert_allclose(found, wanted, atol=1e-5)

    def test_an_identity_is_the_identity(self) -> None:
        rgb = colours()
        line = Cube("i", 1, np.linspace(0, 1, 64, dtype=np.float32)[:, None].repeat(3, 1))
        for cube in (Cube("i", 3, identity(17)), line):
            after = through(cube, rgb, np.ones(rgb.shape[1:], np.float32))
            coded = [np.clip(v, 0, 1) ** (1 / 2.2) * 255 for v in (rgb, after)]
            self.assertLess(np.abs(coded[0] - coded[1]).max(), 0.5)

    def test_where_nothing_is_asked_not_a_bit_moves(self) -> None:
        rgb = colours()
        after = through(bent(), rgb, np.zeros(rgb.shape[1:], np.float32))
        np.testing.assert_array_equal(after, rgb)


class Refused(unittest.TestCase):
    def refused(self, data: bytes, reason: str) -> None:
        with self.assertRaisesRegex(TableError, reason) as told:
            read_cube(data)
        self.assertNotIn("\n", str(told.exception))
        self.assertLess(len(str(told.exception)), 120)

    def test_what_is_wrong_is_named(self) -> None:
        good = write_cube(bent(3)).decode()
        rows = good.splitlines()
        for data, reason in (
            ("", "no size"),
            ("\n" * 900_000, "more than 400000 lines"),
            ("\f" * 500_000, "more than 400000 lines"),
            ("LUT_3D_SIZE 3\n" * 100_000, "more than one size"),
            ("LUT_3D_SIZE 2\n" + "0 " * 600, "line 2: longer"),
            ("\x00\x01", "no word"),
            (good.replace("LUT_3D_SIZE 3", "LUT_3D_SIZE 4"), "27 entries; its size 4 asks for 64"),
            (good.replace("LUT_3D_SIZE 3", "LUT_3D_SIZE 1"), "between 2 and 65"),
            (good.replace("LUT_3D_SIZE 3", "LUT_3D_SIZE 99999999999"), "between 2 and 65"),
            (good.replace("LUT_3D_SIZE 3", "LUT_3D_SIZE 3\nLUT_1D_SIZE 3"), "more than one size"),
            (good.replace("DOMAIN_MAX 1 1 1", "DOMAIN_MAX 0 1 1"), "ends before it begins"),
            (good.replace("DOMAIN_MIN 0 0 0", "DOMAIN_MIN 0 0"), "line 3: three numbers"),
            ("\n".join([*rows[:-1], "0.1 nan 0.2"]), "not finite"),
            ("\n".join([*rows[:-1], "0.1 1e30 0.2"]), "far too large"),
            ("\n".join([*rows[:-1], "0.1 x 0.2"]), f"line {len(rows)}: three numbers"),
            ("\n".join([*rows[:-1], "0.1 0.2"]), f"line {len(rows)}: three numbers"),
            ("\n".join(rows[:-1]), "26 entries"),
            (good + "0 0 0\n", "28 entries"),
            ("SHAPER yes\n" + good, "line 1: 'SHAPER'"),
        ):
            self.refused(data.encode(), reason)
        self.refused(b"\xff\xfe\x00", "not text")

    def test_a_hundred_damaged_files_are_refused_or_read_and_never_break(self) -> None:
        good = bytearray(write_cube(bent(4)))
        rng = np.random.default_rng(5)
        for _ in range(100):
            damaged = bytearray(good)
            for at in rng.integers(0, len(good), 12):
                damaged[at] = rng.integers(0, 256)
            try:
                read = read_cube(bytes(damaged[: rng.integers(1, len(good))]))
            except TableError as error:
                self.assertNotIn("\n", str(error))
            else:
                self.assertTrue(np.isfinite(read.entries).all())

    def test_comments_and_empty_lines_say_nothing(self) -> None:
        text = "# made by hand\n\n" + write_cube(bent(2)).decode().replace("\n", "\n# so\n\n")
        self.assertEqual(read_cube(io.BytesIO(text.encode()).read()).size, 2)
