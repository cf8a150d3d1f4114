"""JPEGs with other things before and behind their picture."""

import io
import unittest

import numpy as np
from PIL import Image

from nubilis.errors import PhotoError
from nubilis.photo.header import FURTHER
from nubilis.photo.jpeg_walk import walk
from nubilis.photo.read import read_photo

from .pictures import file_of, random_codes

SMOOTH = np.full((48, 64, 3), (180, 140, 90), dtype=np.uint8)


def jpeg(seed: int = 1, **more: object) -> bytes:
    codes = SMOOTH if seed == 0 else random_codes(48, 64, seed=seed)
    return file_of(codes, "JPEG", quality=95, **more)


class Behind(unittest.TestCase):
    def test_further_pictures_are_told_and_left_aside(self) -> None:
        one, other = (Image.fromarray(random_codes(48, 64, seed=n)) for n in (1, 2))
        out = io.BytesIO()
        one.save(out, "MPO", save_all=True, append_images=[other], quality=95)
        for mode in ("RGB", "L"):
            out = io.BytesIO()
            one.convert(mode).save(out, "MPO", save_all=True, append_images=[other], quality=95)
            photo = read_photo(out.getvalue())
            self.assertEqual((photo.format, photo.width), ("JPEG", 64))
            self.assertIn(FURTHER, photo.notes)

    def test_what_lies_behind_the_end_says_nothing(self) -> None:
        whole = jpeg()
        alone = read_photo(whole)
        film = b"\xff\xda\x00\x08" * 400 + np.random.default_rng(1).bytes(300_000)
        for behind in (film, bytes(200_000), jpeg(2) * 3, b"\xff\xd8\xff"):
            photo = read_photo(whole + behind)
            np.testing.assert_array_equal(photo.codes, alone.codes)
            self.assertEqual(photo.notes, alone.notes)
        self.assertEqual(walk(whole + film).end, len(whole))

    def test_half_a_photo_with_a_small_one_in_its_exif_is_no_photo(self) -> None:
        exif = Image.Exif()
        exif[0x010E] = "Curtain call"
        thumbnail = jpeg(0)
        whole = jpeg(exif=exif.tobytes() + thumbnail)
        self.assertEqual(walk(whole).end, len(whole))
        for end in (len(whole) - 2, len(whole) // 2 + len(thumbnail), len(thumbnail) + 200):
            with self.assertRaisesRegex(PhotoError, "incomplete|damaged"):
                read_photo(whole[:end])

    def test_bytes_of_no_meaning_between_segments_are_gone_over(self) -> None:
        whole = jpeg()
        for junk in (b"hello there", b"\xff\x00\x00\x02", bytes(300)):
            odd = whole[:20] + junk + whole[20:]
            np.testing.assert_array_equal(read_photo(odd).codes, read_photo(whole).codes)

    def test_scans_restarts_and_fill(self) -> None:
        progressive = jpeg(progressive=True)
        self.assertGreater(walk(progressive).scans, 5)
        restarted = jpeg(restart_marker_rows=1)
        self.assertIn(b"\xff\xd0", restarted)
        self.assertEqual(walk(restarted), walk(restarted + b"\xff\xd9"))
        filled = restarted[:-2] + b"\xff\xff\xff\xd9"
        self.assertEqual(walk(filled).end, len(filled))
        np.testing.assert_array_equal(read_photo(filled).codes, read_photo(restarted).codes)


if __name__ == "__main__":
    unittest.main()
