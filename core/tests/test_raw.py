"""Raw files: the simulated camera's, read by LibRaw through us, and what is refused."""

import io
import tempfile
import unittest
from pathlib import Path

import numpy as np
import rawpy
import tifffile
from PIL import Image

from fuzz.targets import CORPUS
from nubilis.camera.sensor import BLACK, WHITE, exposed
from nubilis.camera.shoot import shoot, write_shot
from nubilis.colour.cielab import linear_rgb_to_lab
from nubilis.colour.difference import ciede2000
from nubilis.colour.profile import srgb
from nubilis.errors import PhotoError
from nubilis.photo.export import Wanted, exported
from nubilis.photo.foreign import SHOULDER, rolled_off
from nubilis.photo.metadata import when_taken
from nubilis.photo.picture import Photo
from nubilis.photo.raw_kinds import KINDS
from nubilis.photo.read import read_photo
from nubilis.photo.sampling import decode
from nubilis.photo.write import write_photo

PATCHES = (
    (128, 128, 128),
    (60, 60, 60),
    (190, 120, 100),
    (60, 110, 70),
    (70, 90, 150),
    (225, 225, 225),
)


def card(wide: int = 240, high: int = 160) -> Photo:
    """Patches in a row, three greys among them."""
    codes = np.zeros((high, wide, 3), dtype=np.uint8)
    for i, patch in enumerate(PATCHES):
        codes[:, i * wide // len(PATCHES) : (i + 1) * wide // len(PATCHES)] = patch
    return Photo(codes, srgb())


class RawFiles(unittest.TestCase):
    def setUp(self) -> None:
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.path = self.folder / "shot.dng"

    def lab(self, photo: Photo, patch: int) -> np.ndarray:
        wide = photo.width // len(PATCHES)
        rgb = decode(photo.codes, photo.profile)
        middle = rgb[:, 40:-40, patch * wide + 12 : (patch + 1) * wide - 12]
        return np.asarray(linear_rgb_to_lab(middle.mean(axis=(1, 2))))

    def test_a_card_comes_back_as_it_was(self) -> None:
        write_shot(self.path, card())
        photo = read_photo(self.path)
        self.assertEqual((photo.format, photo.bits, photo.profile.name), ("RAW", 16, "Rec. 2020"))
        self.assertEqual((photo.width, photo.height), (240, 160))
        for i in range(len(PATCHES) - 1):
            off = ciede2000(self.lab(photo, i), self.lab(card(), i))
            self.assertLess(off, 1.0, PATCHES[i])
        for i in (0, 1, 5):
            light, a, b = self.lab(photo, i)
            self.assertLess(ciede2000((light, a, b), (light, 0.0, 0.0)), 1.0)

    def test_it_says_of_itself_what_the_camera_knew(self) -> None:
        write_shot(self.path, card(), number=1)
        photo = read_photo(self.path)
        self.assertRegex(photo.notes[0], r"as shot for 6[45]\d\d K")
        taken = when_taken(photo.metadata)
        assert taken is not None
        self.assertEqual(f"{taken:%H:%M:%S}", "20:15:07")
        assert photo.metadata.exif is not None
        self.assertIn(b"50 mm", photo.metadata.exif)
        # As others read it.
        with Image.open(self.path) as image:
            self.assertEqual(image.getexif()[272], "Prompt box")
        with rawpy.imread(str(self.path)) as raw:
            self.assertEqual((raw.white_level, raw.black_level_per_channel[0]), (WHITE, BLACK))
            self.assertEqual(raw.color_desc, b"RGBG")

    def test_portraits_come_upright(self) -> None:
        upright = Photo(np.ascontiguousarray(card().codes.swapaxes(0, 1)), srgb())
        upright.codes[:20] = 20
        write_shot(self.path, upright)
        photo = read_photo(self.path)
        self.assertEqual((photo.width, photo.height), (160, 240))
        self.assertLess(photo.codes[4:12].mean(), 0.6 * photo.codes[24:34].mean())

    def test_noise_grows_with_speed(self) -> None:
        flat = np.full((3, 64, 64), 0.3, dtype=np.float32)
        spread = [exposed(flat, iso, 1).codes[::2, ::2].std() for iso in (100, 400, 1600)]
        self.assertLess(2.0 * spread[0], spread[1])
        self.assertLess(1.5 * spread[1], spread[2])

    def test_highlights_keep_their_drawing(self) -> None:
        ramp = np.linspace(0.0, 3.0, 300, dtype=np.float32)[:, None] * np.array([1.0, 0.8, 0.6])
        done = rolled_off(ramp.astype(np.float32))
        below = ramp.max(axis=1) < SHOULDER
        np.testing.assert_array_equal(done[below], ramp[below].astype(np.float32))
        self.assertTrue((np.diff(done[:, 0]) > 0.0).all())
        self.assertLessEqual(float(done.max()), 1.0)
        np.testing.assert_allclose(done[-1] / done[-1, 0], [1.0, 0.8, 0.6], rtol=1e-5)

    def test_a_series_of_shots(self) -> None:
        scenes = []
        for i in range(2):
            scenes.append(self.folder / f"scene {i}.png")
            write_photo(scenes[-1], card(60 + 6 * i, 40), "png")
        names = [p.name for p in shoot(scenes, self.folder, 3)]
        self.assertEqual(names, ["QW_0001.dng", "QW_0002.dng", "QW_0003.dng"])
        sizes = [read_photo(self.folder / n).width for n in names]
        self.assertEqual(sizes, [60, 66, 60])
        with self.assertRaises(PhotoError):
            list(shoot([], self.folder, 1))

    def test_it_goes_on_like_any_photo(self) -> None:
        write_shot(self.path, card())
        photo = read_photo(self.path)
        done = self.folder / "done.jpg"
        write_photo(done, exported(photo, Wanted("jpeg", "srgb")), "jpeg")
        back = read_photo(done)
        self.assertLess(ciede2000(self.lab(back, 0), self.lab(card(), 0)), 1.5)

    def test_a_sensor_without_colours_gives_greys(self) -> None:
        photo = read_photo((CORPUS / "photo" / "sensor-without-colours").read_bytes())
        self.assertEqual(photo.codes.shape, (24, 40, 3))
        np.testing.assert_allclose(photo.codes[..., 0], photo.codes[..., 2], rtol=0.0, atol=1.0)

    def test_damaged_ones_are_refused_in_a_line(self) -> None:
        write_shot(self.path, card())
        data = self.path.read_bytes()
        for cut in (20, 600, len(data) // 3):
            with self.subTest(cut), self.assertRaises(PhotoError) as caught:
                read_photo(data[:cut])
            self.assertNotIn("\n", str(caught.exception))

    def test_every_kind_is_known_by_its_beginning_and_named(self) -> None:
        for kind in KINDS:
            start = (b"II*\0" if kind.endings in ("CR2", "IIQ") else bytes(kind.at)).ljust(
                kind.at, b"\0"
            )
            with self.subTest(kind.endings), self.assertRaises(PhotoError) as caught:
                read_photo(start + kind.mark + bytes(2000))
            self.assertIn(f"({kind.endings})", str(caught.exception))

    def test_a_packing_that_nothing_here_knows_is_named(self) -> None:
        write_shot(self.path, card())
        with tifffile.TiffFile(self.path, mode="r+b") as tiff:
            page = tiff.pages.first.pages[0]  # the mosaic
            page.tags["Compression"].overwrite(52546)
        with self.assertRaisesRegex(PhotoError, "packed as JPEG XL"):
            read_photo(self.path)

    def test_a_plain_tiff_is_none(self) -> None:
        out = io.BytesIO()
        tifffile.imwrite(out, card().codes, photometric="rgb")
        self.assertEqual(read_photo(out.getvalue()).format, "TIFF")
