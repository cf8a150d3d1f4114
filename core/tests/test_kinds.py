"""Every kind of file, against the pictures that others made of them; and the documentation that says so."""

import unittest
from pathlib import Path

import numpy as np
from PIL import Image

from nubilis.colour.rgb import REC2020_TO_SRGB, linear_to_srgb
from nubilis.errors import PhotoError
from nubilis.photo.picture import Photo
from nubilis.photo.read import read_photo
from nubilis.photo.sampling import decode

from .kinds.table import FROM, HERE, TO, described, kinds

DOCS = Path(__file__).parents[2] / "docs/photos.md"


def seen(photo: Photo) -> np.ndarray:
    """Codes of 8 bits in sRGB."""
    light = np.moveaxis(decode(photo.codes, photo.profile), 0, 2) @ REC2020_TO_SRGB.T
    return np.asarray(np.rint(linear_to_srgb(np.clip(light, 0.0, 1.0)) * 255.0))


class Kinds(unittest.TestCase):
    def test_each_is_read_as_it_is_meant_or_refused_in_a_line(self) -> None:
        for kind in kinds():
            with self.subTest(kind.file):
                if kind.refusal:
                    with self.assertRaisesRegex(PhotoError, kind.refusal) as refused:
                        read_photo(kind.path)
                    self.assertNotIn("\n", str(refused.exception))
                    continue
                photo = read_photo(kind.path)
                want = np.asarray(Image.open(kind.expected)).astype(float)
                self.assertLessEqual(float(np.abs(seen(photo) - want).max()), kind.within)
                self.assertEqual((photo.bits, photo.alpha is not None), (kind.bits, kind.alpha))
                if kind.profile:
                    self.assertEqual(photo.profile.name, kind.profile)

    def test_the_folder_holds_them_and_nothing_else(self) -> None:
        own = {k.path for k in kinds()} | {k.expected for k in kinds() if not k.refusal}
        there = {p for p in HERE.iterdir() if p.is_file() and p.suffix not in (".py", ".json")}
        self.assertEqual(there, own)
        self.assertLess(sum(p.stat().st_size for p in there), 3_000_000)

    def test_the_documentation_is_made_from_them(self) -> None:
        told = DOCS.read_text().split(FROM)[1].split(TO)[0]
        self.assertEqual(told, described(kinds()))


if __name__ == "__main__":
    unittest.main()
