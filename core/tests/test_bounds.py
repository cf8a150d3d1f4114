"""What must not grow without bounds: pictures that claim too much, masks that borrow from each other, and
work that was done already."""

import io
import json
import os
import struct
import subprocess
import sys
import tempfile
import unittest
import zlib
from pathlib import Path
from unittest import mock

import numpy as np
from PIL import Image

from nubilis import planning
from nubilis.engine import engine as engine_module
from nubilis.engine.engine import Engine
from nubilis.errors import PhotoError, RecipeError
from nubilis.mask.combine import Lent, Mask
from nubilis.mask.oval import Oval
from nubilis.mask.picture import Picture
from nubilis.mask.similar import Similar
from nubilis.photo.grey import grey_png
from nubilis.photo.pyramid import View
from nubilis.photo.read import read_photo
from nubilis.recipe.asset import Bundle
from nubilis.recipe.document import VERSION, Cast, Recipe
from nubilis.recipe.files import read_recipe

from .pictures import brush, wall_photo, warm_key

# In a process that may hold no more than this on top of what it holds when it begins.
ALLOWED_MB = 600
CHILD = """
import resource, sys
from pathlib import Path
from nubilis.errors import NubilisError
from nubilis.photo.read import read_photo
from nubilis.recipe.asset import asset_of
held = int(Path('/proc/self/statm').read_text().split()[0]) * resource.getpagesize()
most = held + int(sys.argv[1]) * 2**20
resource.setrlimit(resource.RLIMIT_AS, (most, most))
for path in sys.argv[2:]:
    for look in (read_photo, lambda data: asset_of(data)):
        try:
            look(Path(path).read_bytes())
            print('taken')
        except NubilisError as error:
            print(error)
"""


def png_bomb(width: int, height: int, *, whole: bool) -> bytes:
    """A grey PNG of one bit a pixel; whole: with all its pixels, which are all black."""

    def chunk(kind: bytes, data: bytes) -> bytes:
        check = zlib.crc32(kind + data).to_bytes(4, "big")
        return len(data).to_bytes(4, "big") + kind + data + check

    header = width.to_bytes(4, "big") + height.to_bytes(4, "big") + bytes([1, 0, 0, 0, 0])
    packed = b""
    if whole:
        packer, row = zlib.compressobj(1), bytes(1 + (width + 7) // 8)
        packed = b"".join(packer.compress(row) for _ in range(height)) + packer.flush()
    parts = chunk(b"IHDR", header), chunk(b"IDAT", packed), chunk(b"IEND", b"")
    return b"\x89PNG\r\n\x1a\n" + b"".join(parts)


class Bombs(unittest.TestCase):
    def test_size_is_looked_at_before_anything_is_decoded(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            real, claims = Path(folder) / "real.png", Path(folder) / "claims.png"
            real.write_bytes(png_bomb(60_000, 60_000, whole=True))
            claims.write_bytes(png_bomb(2**31 - 1, 2**31 - 1, whole=False))
            told = subprocess.run(
                [sys.executable, "-c", CHILD, str(ALLOWED_MB), str(real), str(claims)],
                capture_output=True, text=True, env=os.environ, check=False,
            )  # fmt: skip
        self.assertEqual((told.returncode, told.stderr), (0, ""))
        lines = told.stdout.splitlines()
        self.assertEqual(len(lines), 4)
        self.assertTrue(all("the limit is 200 megapixels" in line for line in lines), lines)

    def test_a_mask_of_another_size_is_not_decoded(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "mask.png"
            path.write_bytes(png_bomb(10_000, 10_000, whole=True))
            with (
                mock.patch.object(planning, "read_photo") as decoded,
                self.assertRaisesRegex(
                    RecipeError, "the mask is 10000 x 10000, the photo 300 x 200"
                ),
            ):
                planning.read_mask(path, wall_photo())
        decoded.assert_not_called()

    def test_a_header_that_claims_more_than_its_file_can_hold(self) -> None:
        with self.assertRaisesRegex(PhotoError, "claims 10000 x 10000 pixels, which"):
            read_photo(png_bomb(10_000, 10_000, whole=False))
        flat = io.BytesIO()
        Image.new("RGB", (4000, 3000)).save(flat, "JPEG", optimize=True, progressive=True)
        self.assertEqual(read_photo(flat.getvalue()).width, 4000)
        data = bytearray(flat.getvalue())
        at = data.index(b"\xff\xc2")  # the frame of a progressive file
        data[at + 5 : at + 9] = struct.pack(">HH", 13_000, 15_000)
        with self.assertRaisesRegex(PhotoError, "claims 15000 x 13000 pixels, which"):
            read_photo(bytes(data))
        out = io.BytesIO()
        Image.new("L", (9000, 9000)).save(out, "PNG", compress_level=9)
        self.assertEqual(read_photo(out.getvalue()).width, 9000)

    def test_a_header_that_makes_no_sense_is_one_line(self) -> None:
        good = grey_png(np.zeros((4, 4), np.uint8))
        for claim in (0, 2**32 - 1):
            header = b"IHDR" + claim.to_bytes(4, "big") * 2 + good[24:29]
            data = good[:12] + header + zlib.crc32(header).to_bytes(4, "big") + good[33:]
            with self.assertRaises(PhotoError) as caught:
                read_photo(data)
            self.assertNotIn("\n", str(caught.exception))


def borrowing(*masks: list[str]) -> str:
    """A recipe whose casts each use the masks of those named; the first has an oval."""
    oval = {"kind": "oval", "id": "o", "centre": [0.4, 0.2], "radii": [0.3, 0.2]}
    casts = []
    for i, names in enumerate(masks):
        parts = [{"kind": "lent", "id": f"l{n}", "cast": c} for n, c in enumerate(names)]
        casts.append({"id": f"c{i}", "mask": {"parts": parts if i else [oval]}})
    return json.dumps({"format": "nubilis-recipe", "version": VERSION, "casts": casts})


class Lending(unittest.TestCase):
    def test_masks_that_double_at_every_step_are_refused(self) -> None:
        doubled = borrowing([], *([f"c{i}"] * 2 for i in range(51)))
        self.assertLess(len(doubled), 10_000)
        with self.assertRaisesRegex(RecipeError, "8 deep at most"):
            read_recipe(doubled)
        many = borrowing([], ["c0"] * 50, ["c1"] * 50)
        with self.assertRaisesRegex(RecipeError, "1000 parts at most"):
            read_recipe(many)

    def test_each_is_drawn_once_for_a_view(self) -> None:
        recipe = read_recipe(borrowing([], *([f"c{i}"] * 2 for i in range(7))))
        engine = Engine(wall_photo())
        drawn: list[View] = []
        coverage = Oval.coverage

        def counted(part: Oval, rgb: np.ndarray, view: View, *given: object) -> np.ndarray:
            drawn.append(view)
            return coverage(part, rgb, view)

        with mock.patch.object(Oval, "coverage", counted):
            engine.mask(recipe.casts[-1].mask, View.fit(engine.photo, 200))
            self.assertEqual(len(drawn), 1)
            engine.mask_codes(recipe.casts[-1].mask, 8)
        self.assertEqual(len(drawn), 2)  # a single strip holds the whole photo

    def test_what_is_borrowed_adds_up_as_it_did(self) -> None:
        recipe = read_recipe(borrowing([], ["c0"], ["c1", "c0"]))
        engine = Engine(wall_photo())
        one, two = (engine.mask(recipe.casts[i].mask, engine.analysis_view) for i in (0, 2))
        np.testing.assert_allclose(two, np.minimum(2.0 * one, 1.0), atol=1e-6)


class Once(unittest.TestCase):
    def test_a_part_is_looked_for_once_however_it_is_joined(self) -> None:
        engine = Engine(wall_photo())
        part = Similar(id="s", seeds=((0.1, 0.3),))
        trace = Similar.trace
        with mock.patch.object(Similar, "trace", autospec=True, side_effect=trace) as looked:
            for change in (
                {},
                {"strength": 0.5},
                {"invert": True},
                {"join": "subtract"},
                {"id": "t"},
            ):
                parts = (brush(), part.model_copy(update=change))
                engine.mask(Mask(parts=parts), engine.analysis_view)
                engine.mask(Mask(parts=parts), View.fit(engine.photo, 150))
            self.assertEqual(looked.call_count, 1)
            engine.mask(Mask(parts=(part.model_copy(update={"fade": 0.1}),)), engine.analysis_view)
            self.assertEqual(looked.call_count, 2)

    def test_a_picture_is_decoded_when_its_pixels_are_asked_for_and_once(self) -> None:
        files = Bundle()
        asset = files.keep(grey_png(np.full((20, 30), 200, np.uint8)))
        part = Picture(id="p", asset=asset)
        cast = Cast(id="c", mask=Mask(parts=(part, warm_key(), Lent(id="l", cast="d"))))
        lender = Cast(id="d", mask=Mask(parts=(part,)))
        with mock.patch.object(engine_module, "read_grey", wraps=engine_module.read_grey) as read:
            recipe = read_recipe(Recipe(casts=(cast, lender)).model_dump_json())
            engine = Engine(wall_photo(), assets=files)
            self.assertEqual(read.call_count, 0)
            for edge in (300, 200, 77):
                engine.mask(recipe.casts[0].mask, View.fit(engine.photo, edge))
            engine.mask_codes(recipe.casts[0].mask, 16)
            engine.deliver(recipe)
            self.assertEqual(read.call_count, 1)

    def test_a_picture_larger_than_the_photo_is_kept_in_the_photo_s_size(self) -> None:
        files = Bundle()
        grey = (np.arange(600 * 900) % 251).astype(np.uint8).reshape(600, 900)
        asset = files.keep(grey_png(grey))
        codes = Engine(wall_photo(), assets=files).codes_of(asset)
        self.assertEqual(codes.shape, (200, 300))
        self.assertAlmostEqual(float(codes.mean()), float(grey.mean()), delta=1.0)


if __name__ == "__main__":
    unittest.main()
