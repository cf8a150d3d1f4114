"""TIFFs of every photometric kind and depth, against what was put in."""

import io
import unittest
from typing import Any

import numpy as np
import tifffile
from PIL import Image

from nubilis.colour.cielab import linear_rgb_to_lab
from nubilis.errors import PhotoError
from nubilis.photo.header import FURTHER
from nubilis.photo.read import read_photo
from nubilis.photo.samples import made_straight, multiplied
from nubilis.photo.sampling import decode

from .pictures import random_codes, written

H, W = 9, 13


def tiff(pixels: np.ndarray, **more: Any) -> bytes:
    out = io.BytesIO()
    tifffile.imwrite(out, pixels, metadata=None, **more)
    return out.getvalue()


def retagged(data: bytes, **values: int) -> bytes:
    """With other values of short tags in its first directory."""
    out = io.BytesIO(data)
    with tifffile.TiffFile(out, mode="r+b") as file:
        for name, value in values.items():
            file.pages.first.tags[name].overwrite(value)
    return out.getvalue()


def greys(bits: int) -> np.ndarray:
    kind = np.uint8 if bits <= 8 else np.uint16
    codes = np.random.default_rng(bits).integers(0, 2**bits, (H, W)).astype(kind)
    codes[0, :2] = 0, 2**bits - 1
    return codes


class Depths(unittest.TestCase):
    def test_few_bits_and_odd_ones_are_stretched(self) -> None:
        for bits in (1, 2, 4, 9, 10, 12, 14):
            with self.subTest(bits):
                codes = greys(bits)
                whole: Any = codes.astype(bool) if bits == 1 else codes
                photo = read_photo(tiff(whole, photometric="minisblack", bitspersample=bits))
                top = 255 if bits < 9 else 65535
                self.assertEqual(photo.bits, 8 if bits < 9 else 16)
                want = np.rint(codes / (2**bits - 1) * top)
                self.assertLessEqual(np.abs(photo.codes[..., 0] - want).max(), 1)

    def test_white_as_nothing_is_turned_round_at_its_own_depth(self) -> None:
        for bits in (1, 4, 8, 12, 16):
            with self.subTest(bits):
                codes = greys(bits)
                whole: Any = codes.astype(bool) if bits == 1 else codes
                one, other = (
                    read_photo(tiff(whole, photometric=kind, bitspersample=bits)).codes
                    for kind in ("minisblack", "miniswhite")
                )
                np.testing.assert_array_equal(other, np.iinfo(one.dtype).max - one)
        light = np.linspace(0.0, 1.0, H * W, dtype=np.float32).reshape(H, W)
        one, other = (
            decode(photo.codes, photo.profile)
            for photo in (
                read_photo(tiff(1.0 - light, photometric="minisblack")),
                read_photo(tiff(light, photometric="miniswhite")),
            )
        )
        np.testing.assert_allclose(other, one, atol=1e-3)

    def test_numbers_wider_than_16_bits_keep_their_upper_ones(self) -> None:
        wide = random_codes(H, W, bits=16).astype(np.uint32) << 16
        np.testing.assert_array_equal(read_photo(tiff(wide, photometric="rgb")).codes, wide >> 16)

    def test_a_palette_at_every_depth_and_with_a_further_channel(self) -> None:
        rng = np.random.default_rng(3)
        table = rng.integers(0, 256, (3, 256))
        numbers = rng.integers(0, 256, (H, W)).astype(np.uint8)
        for scale in (1, 257):  # some programs write tables of 8 bits
            with self.subTest(scale):
                colours = (table * scale).astype(np.uint16)
                photo = read_photo(tiff(numbers, photometric="palette", colormap=colours))
                np.testing.assert_array_equal(photo.codes, table[:, numbers].transpose(1, 2, 0))
        few = Image.fromarray(greys(4), "P")
        few.putpalette(table[:, :16].T.astype(np.uint8).ravel().tobytes())
        out = io.BytesIO()
        few.save(out, "TIFF", bits=4)
        photo = read_photo(out.getvalue())
        np.testing.assert_array_equal(photo.codes, table[:, greys(4)].transpose(1, 2, 0))
        both = np.dstack([numbers, greys(8)])
        data = tiff(
            both, photometric="minisblack", extrasamples=["unassalpha"], planarconfig="contig"
        )
        data = with_palette(data, (table * 257).astype("<u2"))
        photo = read_photo(data)
        np.testing.assert_array_equal(photo.codes, table[:, numbers].transpose(1, 2, 0))
        np.testing.assert_array_equal(photo.alpha, both[..., 1])


def with_palette(data: bytes, table: np.ndarray) -> bytes:
    """A grey TIFF made one of a palette: its tags, and a table behind it."""
    image: Any = Image.open(io.BytesIO(data))
    tags = dict(image.tag_v2)
    out, entries = bytearray(data), []
    at = int.from_bytes(data[4:8], "little")
    count = int.from_bytes(data[at : at + 2], "little")
    entries = [bytearray(data[at + 2 + 12 * i : at + 14 + 12 * i]) for i in range(count)]
    assert tags[262] == 1
    for entry in entries:
        if int.from_bytes(entry[:2], "little") == 262:
            entry[8:10] = (3).to_bytes(2, "little")
    out += bytes(len(out) % 2)
    entry = (320).to_bytes(2, "little") + (3).to_bytes(2, "little")
    entry += table.size.to_bytes(4, "little") + len(out).to_bytes(4, "little")
    out += table.tobytes()
    entries = sorted([*entries, bytearray(entry)], key=lambda e: int.from_bytes(e[:2], "little"))
    start = len(out)
    out += len(entries).to_bytes(2, "little") + b"".join(entries) + bytes(4)
    out[4:8] = start.to_bytes(4, "little")
    return bytes(out)


class Colours(unittest.TestCase):
    def test_lab_in_both_encodings_at_8_and_16_bits(self) -> None:
        lab = np.array([[[54.0, 40.0, -30.0], [75.0, -20.0, 44.0], [30.0, 0.0, 0.0]]])
        for bits in (8, 16):
            for kind in ("cielab", "icclab"):
                with self.subTest(f"{kind} {bits}"):
                    photo = read_photo(tiff(lab_codes(lab, kind, bits), photometric=kind))
                    self.assertTrue(any("L*a*b*" in n for n in photo.notes))
                    rgb = np.moveaxis(decode(photo.codes, photo.profile), 0, -1)
                    off = np.abs(linear_rgb_to_lab(rgb) - lab).max()
                    self.assertLess(off, 0.6 if bits == 8 else 0.1)

    def test_ycbcr_that_is_not_packed(self) -> None:
        rgb = np.dstack([np.full((H, W), v, np.uint8) for v in (180, 120, 60)])
        ycc = np.asarray(Image.fromarray(rgb).convert("YCbCr"))
        data = tiff(ycc, photometric="ycbcr", subsampling=(1, 1))
        self.assertLessEqual(np.abs(read_photo(data).codes.astype(int) - rgb).max(), 2)

    def test_ycbcr_as_jpeg(self) -> None:
        rgb = np.dstack([np.full((32, 48), v, np.uint8) for v in (180, 120, 60)])
        for sampling in ((1, 1), (2, 2)):
            data = tiff(rgb, photometric="rgb", compression="jpeg", subsampling=sampling)
            self.assertLessEqual(np.abs(read_photo(data).codes.astype(int) - rgb).max(), 4)

    def test_planes_apart(self) -> None:
        codes = random_codes(H, W)
        data = tiff(np.moveaxis(codes, 2, 0), photometric="rgb", planarconfig="separate")
        np.testing.assert_array_equal(read_photo(data).codes, codes)

    def test_further_pages_are_told_and_smaller_ones_of_the_same_are_none(self) -> None:
        for kind, told in ((0, True), (2, True), (1, False)):
            out = io.BytesIO()
            with tifffile.TiffWriter(out) as file:
                file.write(random_codes(H, W), photometric="rgb", metadata=None)
                file.write(random_codes(H, W), photometric="rgb", metadata=None, subfiletype=kind)
            photo = read_photo(out.getvalue())
            self.assertEqual(FURTHER in photo.notes, told)
            np.testing.assert_array_equal(photo.codes, random_codes(H, W))

    def test_kinds_that_cannot_be_read_are_named(self) -> None:
        light = np.zeros((H, W, 3), np.uint16)
        for data, named in (
            (retagged(tiff(light, photometric="rgb"), PhotometricInterpretation=32845), "LOGLUV"),
            (tiff(light.astype(np.int16), photometric="rgb"), "signed"),
        ):
            with self.subTest(named), self.assertRaisesRegex(PhotoError, named):
                read_photo(data)


def lab_codes(lab: np.ndarray, kind: str, bits: int) -> np.ndarray:
    """As TIFF 6.0, section 23, and ICC.1 (version 2) have them."""
    light, chroma = lab[..., :1], lab[..., 1:]
    wide = bits == 16
    if kind == "icclab":
        codes = np.concatenate(
            [light / 100.0 * (65280 if wide else 255), (chroma + 128.0) * (256 if wide else 1)], 2
        )
        return np.rint(codes).astype(f"uint{bits}")
    light = np.rint(light / 100.0 * (65535 if wide else 255)).astype(f"uint{bits}")
    signed = np.rint(chroma * (256 if wide else 1)).astype(f"int{bits}").view(f"uint{bits}")
    return np.concatenate([light, signed], 2)


class Transparency(unittest.TestCase):
    def test_colours_times_alpha_come_without_and_go_out_as_they_came(self) -> None:
        for bits in (8, 16):
            rng = np.random.default_rng(bits)
            straight = random_codes(H, W, bits=bits)
            alpha = rng.integers(1, 2**bits, (H, W)).astype(straight.dtype)
            stored = multiplied(straight, alpha)
            data = tiff(np.dstack([stored, alpha]), photometric="rgb", extrasamples=["assocalpha"])
            photo = read_photo(data)
            self.assertEqual(photo.alpha_kind, "associated")
            off = photo.codes.astype(int) - straight
            self.assertLess(np.abs(off[alpha > 2 ** (bits - 1)]).max(), 2)
            out = tifffile.imread(io.BytesIO(written(photo, "tiff" if bits == 8 else "tiff16")))
            np.testing.assert_array_equal(out, np.dstack([stored, alpha]))

    def test_multiplied_again_it_is_the_same(self) -> None:
        colour, alpha = np.meshgrid(np.arange(256), np.arange(1, 256), indexing="xy")
        stored = np.minimum(colour, alpha).astype(np.uint8)[..., None]
        kept = alpha.astype(np.uint8)
        np.testing.assert_array_equal(multiplied(made_straight(stored, kept), kept), stored)

    def test_what_nobody_says_the_meaning_of_stays_so(self) -> None:
        pixels = np.dstack([random_codes(H, W), greys(8)])
        photo = read_photo(tiff(pixels, photometric="rgb", extrasamples=["unspecified"]))
        self.assertEqual(photo.alpha_kind, "unspecified")
        np.testing.assert_array_equal(photo.codes, pixels[..., :3])
        with tifffile.TiffFile(io.BytesIO(written(photo, "tiff"))) as file:
            page: Any = file.pages.first
            self.assertEqual([int(e) for e in page.extrasamples], [0])
            np.testing.assert_array_equal(page.asarray(), pixels)

    def test_further_channels_are_told(self) -> None:
        pixels = np.dstack([random_codes(H, W), greys(8), greys(8)])
        data = tiff(pixels, photometric="rgb", planarconfig="contig",
                    extrasamples=["unassalpha", "unspecified"])  # fmt: skip
        photo = read_photo(data)
        np.testing.assert_array_equal(photo.alpha, pixels[..., 3])
        self.assertTrue(any("further channels" in n for n in photo.notes))


if __name__ == "__main__":
    unittest.main()
