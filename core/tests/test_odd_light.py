"""Light of any kind goes through the heart of the program without harm: none of it ends the process, and what
is clean light stays what it is."""

import io
import unittest

import numpy as np
from PIL import Image

from nubilis.colour.profile import Profile, read_profile, srgb
from nubilis.engine.engine import Engine
from nubilis.errors import NubilisError
from nubilis.find.look import look
from nubilis.library.looks import OWN, own_table
from nubilis.photo.picture import Photo
from nubilis.photo.read import read_photo
from nubilis.photo.sampling import decode, encode
from nubilis.photo.write import png_of
from nubilis.planning import plan_fix
from nubilis.proof.casts import prove
from nubilis.recipe.asset import Bundle
from nubilis.remedy.curves import Curves
from nubilis.remedy.in_plane import Held, InPlane
from nubilis.remedy.look import Look

from .effort import examples
from .pictures import random_codes
from .test_profiles import parametric, profile_with, table

CURVES = {
    "identity": table(),
    "gamma": table(560),
    "table": table(0, 9000, 65535),
    **{f"kind {k}": parametric(k, 2.4, 0.95, 0.05, 0.08, 0.04, 0.0, 0.0) for k in range(5)},
    "light above 1": parametric(1, 2.0, 1.5, 0.0),
    "hardly any light": table(0, 3),
}
ODD = np.array([np.nan, np.inf, -np.inf, -1e30, 1e30, -1.0, 1e-40, 0.0, 0.5, 3.0], np.float32)


class Profiles(unittest.TestCase):
    """From a file to a delivered one."""

    def through(self, photo: Photo) -> None:
        files = Bundle()
        engine = Engine(photo, assets=files)
        recipe = plan_fix(engine, [(5.0, 5.0)])
        cast = recipe.casts[0]
        shaping = (
            Curves(id="k", lightness=((0.5, 0.6),), red=((0.5, 0.4),)),
            InPlane(id="p", points=(Held(id="1", start=(0.1, 0.0), end=(0.1, 0.05)),)),
        )
        cast = cast.model_copy(update={"remedies": (*cast.remedies, *shaping)})
        laid = Look(table=files.keep_table(own_table(OWN[0].name)))
        recipe = recipe.model_copy(update={"casts": (cast,), "look": laid})
        look(engine)
        prove(engine, recipe)
        delivered = engine.deliver(recipe)
        self.assertTrue(np.isfinite(decode(delivered.codes, photo.profile)).all())

    def test_every_kind_of_curve(self) -> None:
        for name, curve in CURVES.items():
            for bits in (8, 16):
                with self.subTest(name, bits=bits):
                    photo = Photo(random_codes(48, 32, bits=bits), _profile(curve))
                    self.through(read_photo(png_of(photo, bits)))

    def test_damaged_profiles_are_refused_or_harmless(self) -> None:
        rng = np.random.default_rng(5)
        whole = profile_with(parametric(4, 2.4, 0.95, 0.05, 0.08, 0.04, 0.0, 0.0))
        refused = 0
        for _ in range(examples(160)):
            icc = bytearray(whole)
            for at in rng.integers(128, len(icc), rng.integers(1, 4)):
                icc[at] = rng.integers(256)
            try:
                photo = read_photo(_png_with(bytes(icc)))
            except NubilisError as error:
                refused += 1
                self.assertNotIn("\n", str(error))
                continue
            self.assertTrue(np.isfinite(decode(photo.codes, photo.profile)).all())
            self.through(photo)
        self.assertGreater(refused, 5)


class Tables(unittest.TestCase):
    def test_light_that_is_no_number_is_looked_up_as_the_nearest_there_is(self) -> None:
        light = np.stack(np.meshgrid(ODD, ODD, ODD)).reshape(3, 10, 100).astype(np.float32)
        light = np.ascontiguousarray(light)
        for bits in (8, 16):
            codes = encode(light, srgb(), bits)
            self.assertEqual(codes.shape, (10, 100, 3))

    def test_clean_light_is_what_it_was(self) -> None:
        codes = random_codes(30, 40)
        np.testing.assert_array_equal(encode(decode(codes, srgb()), srgb()), codes)


def _profile(curve: bytes) -> Profile:
    return read_profile(profile_with(curve))


def _png_with(icc: bytes) -> bytes:
    out = io.BytesIO()
    Image.fromarray(random_codes(48, 32)).save(out, "PNG", icc_profile=icc)
    return out.getvalue()
