"""Reading photos: every kind that is promised, and every kind of damage told in one line."""

import io
import struct
import tempfile
import unittest
import unittest.mock
import zlib
from pathlib import Path

import numpy as np
import tifffile
from PIL import Image, ImageCms, ImageFile, PngImagePlugin

from nubilis.colour.profile import srgb_icc
from nubilis.errors import PhotoError
from nubilis.photo.read import read_header, read_photo

from .pictures import file_of, random_codes


def png_that_claims(width: int, height: int) -> bytes:
    """A PNG's header with hardly any pixels behind it."""

    def chunk(name: bytes, data: bytes) -> bytes:
        crc = struct.pack(">I", zlib.crc32(name + data))
        return struct.pack(">I", len(data)) + name + data + crc

    header = struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 0)
    pixels = chunk(b"IDAT", zlib.compress(b"\0" * 100)) + chunk(b"IEND", b"")
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", header) + pixels


class Formats(unittest.TestCase):
    def test_lossless_formats_keep_every_code(self) -> None:
        codes = random_codes(7, 11)
        for file_format, more in (("PNG", {}), ("TIFF", {}), ("WEBP", {"lossless": True})):
            with self.subTest(file_format):
                photo = read_photo(file_of(codes, file_format, **more))
                np.testing.assert_array_equal(photo.codes, codes)
                self.assertEqual((photo.width, photo.height, photo.bits), (11, 7, 8))

    def test_sixteen_bits(self) -> None:
        codes = random_codes(5, 6, bits=16)
        out = io.BytesIO()
        tifffile.imwrite(out, codes, photometric="rgb")
        photo = read_photo(out.getvalue())
        self.assertEqual(photo.bits, 16)
        np.testing.assert_array_equal(photo.codes, codes)

    def test_jpeg_is_close(self) -> None:
        smooth = np.full((16, 16, 3), (180, 140, 90), dtype=np.uint8)
        photo = read_photo(file_of(smooth, "JPEG", quality=95))
        self.assertLessEqual(np.abs(photo.codes.astype(int) - smooth).max(), 3)

    def test_one_pixel(self) -> None:
        photo = read_photo(file_of(random_codes(1, 1), "PNG"))
        self.assertEqual((photo.width, photo.height), (1, 1))

    def test_grey_palette_and_alpha(self) -> None:
        grey = random_codes(4, 4)[..., 0]
        photo = read_photo(file_of(grey, "PNG"))
        np.testing.assert_array_equal(photo.codes, np.repeat(grey[..., None], 3, axis=2))
        self.assertTrue(any("grey" in n for n in photo.notes))
        rgba = np.dstack([random_codes(4, 4), np.arange(16, dtype=np.uint8).reshape(4, 4)])
        photo = read_photo(file_of(rgba, "PNG"))
        np.testing.assert_array_equal(photo.alpha, rgba[..., 3])
        out = io.BytesIO()
        Image.fromarray(random_codes(4, 4)).quantize(8).save(out, "PNG")
        self.assertTrue(any("palette" in n for n in read_photo(out.getvalue()).notes))

    def test_untagged_is_srgb_and_said_so(self) -> None:
        photo = read_photo(file_of(random_codes(2, 2), "PNG"))
        self.assertEqual(photo.profile.name, "sRGB")
        self.assertIn("No colour profile: read as sRGB", photo.notes)

    def test_a_profile_is_honoured(self) -> None:
        photo = read_photo(file_of(random_codes(2, 2), "PNG", icc_profile=srgb_icc()))
        self.assertEqual(photo.profile.icc, srgb_icc())
        self.assertEqual(photo.notes, ())

    def test_orientation(self) -> None:
        codes = random_codes(3, 5)
        turned = {
            1: codes, 2: codes[:, ::-1], 3: codes[::-1, ::-1], 4: codes[::-1],
            5: codes.swapaxes(0, 1), 6: codes.swapaxes(0, 1)[:, ::-1],
            7: codes.swapaxes(0, 1)[::-1, ::-1], 8: codes.swapaxes(0, 1)[::-1],
        }  # fmt: skip
        for orientation, upright in turned.items():
            exif = Image.Exif()
            exif[0x0112] = orientation
            with self.subTest(orientation):
                photo = read_photo(file_of(codes, "PNG", exif=exif))
                np.testing.assert_array_equal(photo.codes, upright)


class SaidBehind(unittest.TestCase):
    """What a PNG says behind its pixels counts, and is read without them."""

    def moved_behind(self, data: bytes, kind: bytes) -> bytes:
        at = data.index(kind) - 4
        (length,) = struct.unpack(">I", data[at : at + 4])
        chunk, rest = data[at : at + length + 12], data[:at] + data[at + length + 12 :]
        end = rest.index(b"IEND") - 4
        return rest[:end] + chunk + rest[end:]

    def test_orientation_and_packet(self) -> None:
        codes, exif = random_codes(3, 5), Image.Exif()
        exif[0x0112] = 6
        says = PngImagePlugin.PngInfo()
        says.add_itxt("XML:com.adobe.xmp", "<x:xmpmeta>Quillwick</x:xmpmeta>", zip=True)
        data = file_of(codes, "PNG", exif=exif, pnginfo=says)
        for kind in (b"eXIf", b"iTXt"):
            data = self.moved_behind(data, kind)
        photo = read_photo(data)
        np.testing.assert_array_equal(photo.codes, codes.swapaxes(0, 1)[:, ::-1])
        self.assertIn(b"Quillwick", photo.metadata.xmp or b"")

    def test_its_pixels_are_decoded_once(self) -> None:
        load = ImageFile.ImageFile.load
        with unittest.mock.patch.object(
            ImageFile.ImageFile, "load", autospec=True, side_effect=load
        ) as loaded:
            read_header(io.BytesIO(file_of(random_codes(9, 9), "PNG")))
        loaded.assert_not_called()

    def test_of_a_chunk_that_is_damaged_nothing_is_kept(self) -> None:
        exif = Image.Exif()
        exif[0x0112] = 6
        data = bytearray(self.moved_behind(file_of(random_codes(3, 5), "PNG", exif=exif), b"eXIf"))
        data[data.index(b"eXIf") + 6] ^= 255
        self.assertEqual(read_photo(bytes(data)).codes.shape[:2], (3, 5))


class Damage(unittest.TestCase):
    def refused(self, data: bytes, reason: str) -> None:
        with self.assertRaises(PhotoError) as caught:
            read_photo(data)
        self.assertIn(reason, str(caught.exception))
        self.assertNotIn("\n", str(caught.exception))

    def test_truncated_files(self) -> None:
        codes = random_codes(64, 64)
        for file_format in ("JPEG", "PNG", "TIFF", "WEBP"):
            data = file_of(codes, file_format)
            for share in (0.5, 0.9):
                with self.subTest(file_format, share=share), self.assertRaises(PhotoError):
                    read_photo(data[: int(len(data) * share)])

    def test_whatever_other_libraries_allow(self) -> None:
        whole = file_of(random_codes(40, 40), "PNG")
        with unittest.mock.patch.object(ImageFile, "LOAD_TRUNCATED_IMAGES", True):
            self.refused(whole[: len(whole) // 2], "damaged or incomplete")

    def test_a_claim_of_3600_megapixels(self) -> None:
        self.refused(png_that_claims(60000, 60000), "60000 x 60000")

    def test_a_header_without_its_pixels(self) -> None:
        self.refused(png_that_claims(400, 400), "damaged or incomplete")

    def test_not_a_picture(self) -> None:
        self.refused(b"", "empty")
        self.refused(b"Dear diary, this is not a picture." * 20, "not a picture")

    def test_cmyk(self) -> None:
        out = io.BytesIO()
        Image.new("CMYK", (4, 4)).save(out, "JPEG")
        self.refused(out.getvalue(), "CMYK")

    def test_a_profile_that_does_not_fit(self) -> None:
        lab = ImageCms.ImageCmsProfile(ImageCms.createProfile("LAB")).tobytes()
        self.refused(file_of(random_codes(2, 2), "PNG", icc_profile=lab), "profile")

    def test_a_missing_file(self) -> None:
        with tempfile.TemporaryDirectory() as folder, self.assertRaises(PhotoError):
            read_photo(Path(folder) / "none.png")
