"""Masks as files, and ready-made keys on the colours that they are named after."""

import io
import unittest

import imagecodecs
import numpy as np
import tifffile

from nubilis.colour.cielab import lab_to_linear_rgb
from nubilis.engine.engine import Engine
from nubilis.errors import PhotoError, PlaceError, RecipeError
from nubilis.library.built_in import built_in
from nubilis.mask.combine import Mask
from nubilis.mask.named_key import NamedKey, read_keys, write_keys
from nubilis.mask.ready_keys import ready_keys
from nubilis.mask.refine import Refine
from nubilis.photo.grey import grey_file
from nubilis.photo.pyramid import View

from .pictures import brush, wall_photo, warm_key

LEAF, SKY, WHITE, BLACK = (
    (45.0, -28.0, 32.0),
    (70.0, -8.0, -28.0),
    (90.0, 0.0, 1.0),
    (8.0, 0.0, 0.0),
)


class Files(unittest.TestCase):
    def test_what_is_written_is_the_engine_s_own_mask(self) -> None:
        engine = Engine(wall_photo(600, 900))
        mask = Mask(parts=(brush(), warm_key()), refine=Refine(grow=0.01))
        wanted = engine.mask(mask, View((900, 600), (0, 0, 900, 600)))
        for bits, form in ((8, "png"), (16, "png16"), (8, "tiff"), (16, "tiff16")):
            data = grey_file(engine.mask_codes(mask, bits), form)
            read = (
                imagecodecs.png_decode(data)
                if form[0] == "p"
                else tifffile.imread(io.BytesIO(data))
            )
            self.assertEqual(read.shape, (600, 900))
            off = np.abs(read / (2.0**bits - 1) - wanted)
            self.assertLess(float(off.max()), 0.6 / (2**bits - 1) + 1e-6)

    def test_other_formats_are_refused(self) -> None:
        with self.assertRaises(PhotoError):
            grey_file(np.zeros((2, 2), np.uint8), "jpeg")

    def test_one_part_alone(self) -> None:
        mask = Mask(parts=(brush(), warm_key()))
        self.assertEqual(mask.only("key").parts[0].join, "add")
        with self.assertRaises(PlaceError):
            mask.only("other")


class ReadyKeys(unittest.TestCase):
    def share(self, name: str, lab: tuple[float, float, float]) -> float:
        rgb = np.asarray(lab_to_linear_rgb(lab), dtype=np.float32).reshape(3, 1, 1)
        view = View((1, 1), (0, 0, 1, 1))
        key = next(k for k in ready_keys() if k.name == name).part("k")
        return float(key.coverage(np.ascontiguousarray(rgb), view)[0, 0])

    def test_each_takes_in_what_it_is_named_after_and_leaves_the_rest(self) -> None:
        skins = [r.lab for r in built_in() if r.group == "skin"]
        for lab in skins[1:-1]:
            self.assertGreater(self.share("Skins", lab), 0.6, lab)
        self.assertGreater(self.share("Light skins", skins[1]), 0.6)
        self.assertGreater(self.share("Medium skins", skins[4]), 0.6)
        self.assertGreater(self.share("Deep skins", skins[7]), 0.6)
        self.assertLess(self.share("Deep skins", skins[1]), 0.1)
        for name, inside, outside in (
            ("Foliage", LEAF, SKY),
            ("Skies", SKY, LEAF),
            ("Neutrals", WHITE, LEAF),
            ("Highlights", WHITE, BLACK),
            ("Shadows", BLACK, WHITE),
            ("Mids", LEAF, BLACK),
        ):
            self.assertGreater(self.share(name, inside), 0.9, name)
            self.assertLess(self.share(name, outside), 0.1, name)
        self.assertEqual(len(ready_keys()), 10)

    def test_a_file_of_keys_there_and_back(self) -> None:
        keys = tuple(ready_keys())
        self.assertEqual(read_keys(write_keys(keys)), keys)

    def test_other_files_are_refused_in_words(self) -> None:
        good = write_keys(ready_keys()[:1])
        for text, words in (
            ("{", "not valid JSON"),
            ("[" * 100_000, "not valid JSON"),
            ("[]", "not a file of Nubilis keys"),
            (good.replace('"Skins"', '"  "'), "keys.0.name"),
            (good.replace('"version": 1', '"version": 2'), "version"),
        ):
            with self.assertRaisesRegex(RecipeError, words):
                read_keys(text)
        self.assertEqual(NamedKey(**{**ready_keys()[0].model_dump(), "name": " Ada "}).name, "Ada")


if __name__ == "__main__":
    unittest.main()
