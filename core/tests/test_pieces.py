"""Files of far more pieces than anybody makes are refused before anybody goes through them."""

import io
import struct
import unittest
import zlib
from unittest import mock

import imagecodecs
import numpy as np

from nubilis.errors import PhotoError
from nubilis.photo import jpeg_walk, pieces
from nubilis.photo.jpeg_walk import MOST_FILL
from nubilis.photo.pieces import MOST, MOST_SCANNED, check_scans
from nubilis.photo.raw_kinds import is_raw
from nubilis.photo.read import read_photo

from .pictures import file_of, random_codes

CODES = random_codes(16, 24)


def png(before: bytes = b"", behind: bytes = b"") -> bytes:
    """Chunks before and behind its pixels."""
    data = file_of(CODES, "PNG")
    first, last = data.index(b"IDAT") - 4, data.index(b"IEND") - 4
    return data[:first] + before + data[first:last] + behind + data[last:]


def chunk(kind: bytes, data: bytes = b"") -> bytes:
    check = zlib.crc32(kind + data).to_bytes(4, "big")
    return len(data).to_bytes(4, "big") + kind + data + check


def jpeg(between: bytes, **more: object) -> bytes:
    data = file_of(CODES, "JPEG", **more)
    return data[:2] + between + data[2:]


class Pieces(unittest.TestCase):
    def refused(self, data: bytes) -> None:
        with self.assertRaisesRegex(PhotoError, "far more pieces"):
            read_photo(data)

    def test_chunks_of_a_png(self) -> None:
        many = chunk(b"teSt") * (MOST + 1)
        self.refused(png(before=many))
        self.refused(png(behind=many))
        with mock.patch.object(pieces, "MOST_OF_PIXELS", 30):
            self.refused(png(before=chunk(b"IDAT") * 31))
        some = chunk(b"tEXt", b"Comment\0Quillwick") * 900
        np.testing.assert_array_equal(read_photo(png(some, some)).codes, CODES)

    def test_segments_of_a_jpeg(self) -> None:
        for segment in (b"\xff\xfe\x00\x02", b"\xff\xe1\x00\x08Exif\0\0", b"\xff\xd0"):
            self.refused(jpeg(segment * (MOST + 1)))
        self.refused(jpeg(b"\xff" * (MOST_FILL + 1)))
        whole = jpeg(b"\xff\xff\xff\xff\xfe\x00\x02" * 300)
        self.assertEqual(read_photo(whole).width, 24)

    def test_scans_of_a_jpeg(self) -> None:
        whole = jpeg(b"", progressive=True)
        self.assertEqual(read_photo(whole).width, 24)
        last = whole.rindex(b"\xff\xda")
        self.refused(whole[:-2] + whole[last:-2] * 101 + whole[-2:])
        with mock.patch.object(jpeg_walk, "MOST_SCANS", 3):
            self.refused(whole)
        check_scans(20, (20_000, 10_000))
        with self.assertRaises(PhotoError):
            check_scans(MOST_SCANNED // 10**8 + 1, (10_000, 10_000))

    def test_boxes_of_a_jpeg_xl(self) -> None:
        whole = bytes(imagecodecs.jpegxl_encode(CODES, usecontainer=True, lossless=True))
        self.refused(whole + struct.pack(">I4s", 8, b"free") * (MOST + 1))
        np.testing.assert_array_equal(
            read_photo(whole + struct.pack(">I4s", 8, b"free") * 90).codes, CODES
        )

    def test_of_a_tiff_as_many_directories_are_looked_at_as_may_matter(self) -> None:
        class Counted(io.BytesIO):
            times = 0

            def seek(self, *where: int) -> int:
                self.times += 1
                return super().seek(*where)

        chain = [b"II*\0" + struct.pack("<I", 8)]
        for number in range(1, 5001):
            chain.append(struct.pack("<HHHIII", 1, 256, 4, 1, 16, 8 + 18 * number))
        file = Counted(b"".join(chain))
        self.assertFalse(is_raw(b"II*\0", file))
        self.assertLess(file.times, 500)
