"""What is said about a picture goes through as the bytes that came."""

import io
import json
import struct
import subprocess
import tempfile
import unittest
from contextlib import suppress
from dataclasses import replace
from fractions import Fraction
from pathlib import Path
from typing import Any

import numpy as np
import tifffile
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image, IptcImagePlugin

from nubilis.photo.about import told
from nubilis.photo.exif_block import (
    DAMAGED,
    Block,
    Value,
    as_kept,
    block_of,
    collected,
    sized,
    without_place,
)
from nubilis.photo.export import Wanted, exported
from nubilis.photo.iptc import MARKED, PLACES, as_resources, without
from nubilis.photo.jpeg_xmp import with_further
from nubilis.photo.left_out import left_out
from nubilis.photo.metadata import Metadata
from nubilis.photo.read import read_photo

from .pictures import random_codes, written

CODES = random_codes(48, 64)
OWNED = "© Quillwick – Grüße".encode()
TITLE = "Vorhang für Ida".encode()


def data_set(number: int, value: bytes, record: int = 2) -> bytes:
    return struct.pack(">BBBH", 0x1C, record, number, len(value)) + value


IPTC = (
    data_set(90, b"\x1b%G", record=1) + data_set(5, TITLE) + data_set(80, b"Ida")
    + data_set(90, b"Lowmere") + data_set(116, OWNED)
)  # fmt: skip


def resource(number: int, content: bytes, name: bytes = b"") -> bytes:
    named = bytes([len(name)]) + name
    return (
        b"8BIM" + struct.pack(">H", number) + named + bytes(len(named) % 2)
        + struct.pack(">I", len(content)) + content + bytes(len(content) % 2)
    )  # fmt: skip


PATHS = resource(0x07D0, bytes(range(26)) * 3, b"Curtain") + resource(0x0BB7, b"\7Curtain")


def directory(
    order: str, at: int, entries: list[tuple[int, int, int, bytes]], following: int = 0
) -> bytes:
    """A directory that lies at an offset, with its values behind it."""
    start = at + 2 + 12 * len(entries) + 4
    table, values = b"", b""
    for tag, kind, count, value in entries:
        where = value.ljust(4, b"\0")
        if len(value) > 4:
            where = struct.pack(order + "I", start + len(values))
            values += value
        table += struct.pack(order + "HHI", tag, kind, count) + where
    return (
        struct.pack(order + "H", len(entries))
        + table
        + struct.pack(order + "I", following)
        + values
    )


def block(order: str = "<", orientation: int = 6, thumbnail: bytes = b"small" * 40) -> bytes:
    """As cameras write it: names beyond ASCII, a maker's note, places, interoperability, a small picture."""
    note = b"MAKER" + bytes(range(200))
    gps = [(1, 2, 2, b"N\0"), (2, 5, 3, struct.pack(order + "6I", 51, 1, 30, 1, 0, 1))]
    interop = [(1, 2, 4, b"R98\0")]
    pointers = dict.fromkeys((0x8769, 0x8825, 0xA005), 0)
    for _ in range(2):  # the second time the places are known
        first = [
            (0x010F, 2, 11, b"Prompt box\0"), (0x0112, 3, 1, struct.pack(order + "H", orientation)),
            (0x8298, 2, len(OWNED) + 1, OWNED + b"\0"),
            (0x8769, 4, 1, struct.pack(order + "I", pointers[0x8769])),
            (0x8825, 4, 1, struct.pack(order + "I", pointers[0x8825])),
            (0x9C9B, 1, 8, "Vorh".encode("utf-16-le")),
        ]  # fmt: skip
        exif = [
            (0x829A, 5, 1, struct.pack(order + "2I", 1, 60)), (0x927C, 7, len(note), note),
            (0xA002, 4, 1, struct.pack(order + "I", 6000)), (0xA003, 4, 1, struct.pack(order + "I", 4000)),
            (0xA005, 4, 1, struct.pack(order + "I", pointers[0xA005])),
        ]  # fmt: skip
        data = {"<": b"II*\0", ">": b"MM\0*"}[order] + struct.pack(order + "I", 8)
        data += directory(order, 8, first)
        for pointer, entries in ((0x8769, exif), (0x8825, gps), (0xA005, interop)):
            pointers[pointer] = len(data)
            data += directory(order, len(data), entries)
    link = 8 + 2 + 12 * len(first)
    second = len(data)
    small = [
        (0x0201, 4, 1, struct.pack(order + "I", second + 30)),
        (0x0202, 4, 1, struct.pack(order + "I", len(thumbnail))),
    ]
    return (
        data[:link]
        + struct.pack(order + "I", second)
        + data[link + 4 :]
        + directory(order, second, small)
        + thumbnail
    )


def jpeg(exif: bytes, iptc: bytes = IPTC, dpi: int = 300) -> bytes:
    out = io.BytesIO()
    Image.fromarray(CODES).save(out, "JPEG", exif=b"Exif\0\0" + exif, dpi=(dpi, dpi), quality=95)
    data = out.getvalue()
    payload = MARKED + resource(0x0425, bytes(16)) + as_resources(iptc, PATHS)
    return data[:20] + struct.pack(">HH", 0xFFED, len(payload) + 2) + payload + data[20:]


class Blocks(unittest.TestCase):
    def test_in_place_upright_and_without_the_small_picture(self) -> None:
        for order in "<>":
            came = block(order)
            kept, orientation = as_kept(came)
            self.assertEqual(orientation, 6)
            self.assertNotIn(b"smallsmall", kept)
            entry = Block(kept).find(0x0112, 8)
            assert entry is not None
            self.assertEqual(Block(kept).whole(entry), 1)
            self.assertEqual(kept.index(b"MAKER"), came.index(b"MAKER"))
            self.assertEqual(as_kept(kept), (kept, 1))
            self.assertEqual(as_kept(block_of({0: []}))[1], None)

    def test_sizes_follow_the_picture(self) -> None:
        for order in "<>":
            exif = Image.Exif()
            exif.load(b"Exif\0\0" + sized(block(order), (640, 480)))
            within = exif.get_ifd(0x8769)
            self.assertEqual((within[0xA002], within[0xA003]), (640, 480))

    def test_a_place_and_a_maker_s_note_leave_nothing_behind(self) -> None:
        for order in "<>":
            left = without_place(block(order))
            for gone in (b"MAKER", struct.pack(order + "6I", 51, 1, 30, 1, 0, 1)):
                self.assertNotIn(gone, left)
            exif = Image.Exif()
            exif.load(b"Exif\0\0" + left)
            self.assertNotIn(0x8825, exif)
            self.assertEqual(exif[0x010F], "Prompt box")
            self.assertEqual(float(exif.get_ifd(0x8769)[0x829A]), 1 / 60)

    @given(st.data())
    def test_damage_is_nothing_worse(self, data: st.DataObject) -> None:
        damaged = bytearray(block(data.draw(st.sampled_from("<>"))))
        for _ in range(data.draw(st.integers(1, 6))):
            damaged[data.draw(st.integers(0, len(damaged) - 1))] = data.draw(st.integers(0, 255))
        for change in (as_kept, without_place, lambda b: sized(b, (3, 4))):
            with suppress(*DAMAGED):
                change(bytes(damaged[: data.draw(st.integers(0, len(damaged)))]))


def parts(data: bytes) -> tuple[bytes, list[bytes]]:
    """The first packet of a JPEG, and all of its APP1 segments."""
    image: Any = Image.open(io.BytesIO(data))
    return image.info["xmp"], [payload for name, payload in image.applist if name == "APP1"]


class Through(unittest.TestCase):
    """From a camera's JPEG into each format, as others read it."""

    def setUp(self) -> None:
        self.photo = read_photo(jpeg(block()))

    def test_the_block_goes_through_as_it_came(self) -> None:
        kept = self.photo.metadata.exif
        assert kept is not None
        self.assertIn(b"MAKER", kept)
        for file_format in ("jpeg", "png", "png16", "avif", "avif10", "jxl"):
            with self.subTest(file_format):
                back = read_photo(written(self.photo, file_format)).metadata.exif
                assert back is not None
                self.assertEqual(back.rstrip(b"\0"), kept.rstrip(b"\0"))

    def test_a_tiff_has_every_value_and_gives_it_back(self) -> None:
        """In directories of its own: names in both encodings, a maker's note, places, interoperability."""
        for order in "<>":
            came = read_photo(jpeg(block(order))).metadata.exif
            assert came is not None
            known = {p: {v.tag: v for v in vs} for p, vs in collected(Block(came)).items()}
            del known[0][0x0112]  # upright
            data = written(replace(self.photo, metadata=Metadata(exif=came)), "tiff")
            path = Path(self.enterContext(tempfile.TemporaryDirectory())) / "photo.tif"
            path.write_bytes(data)
            seen = subprocess.run(
                ["exiftool", "-j", "-n", "-XPTitle", "-InteropIndex", "-GPSLatitude", "-ExposureTime",
                 "-Make", path], capture_output=True, check=True,
            )  # fmt: skip
            told = json.loads(seen.stdout)[0]
            self.assertEqual(
                (told["XPTitle"], told["InteropIndex"], told["GPSLatitude"], told["Make"]),
                ("Vorh", "R98", 51.5, "Prompt box"),
            )
            self.assertAlmostEqual(told["ExposureTime"], 1 / 60, places=4)
            back = read_photo(data).metadata.exif
            assert back is not None
            again = {p: {v.tag: v for v in vs} for p, vs in collected(Block(back)).items()}
            self.assertEqual(again, known)

    def test_names_beyond_ascii_in_every_format(self) -> None:
        for file_format in ("jpeg", "png", "tiff", "tiff16", "avif", "jxl"):
            with self.subTest(file_format):
                self.assertIn(OWNED, written(self.photo, file_format))

    def test_iptc_and_its_resolution(self) -> None:
        self.assertEqual(self.photo.metadata.iptc, IPTC)
        for file_format in ("jpeg", "png", "tiff", "tiff16"):
            with self.subTest(file_format):
                data = written(self.photo, file_format)
                back = read_photo(data).metadata
                self.assertEqual(back.iptc, IPTC)
                assert back.dpi is not None
                np.testing.assert_allclose(back.dpi, (300, 300), rtol=1e-3)
                image = Image.open(io.BytesIO(data))
                np.testing.assert_allclose(np.array(image.info["dpi"], float), 300, rtol=1e-3)
                if file_format != "png":
                    info = IptcImagePlugin.getiptcinfo(image)
                    assert info is not None
                    self.assertEqual((info[2, 5], info[2, 116]), (TITLE, OWNED))

    def test_clipping_paths_go_along_and_what_says_something_of_the_old_picture_does_not(
        self,
    ) -> None:
        self.assertEqual(self.photo.metadata.resources, PATHS)
        many = replace(self.photo.metadata, resources=PATHS + resource(0x07D1, bytes(90_001)))
        photo = replace(self.photo, metadata=many)
        for file_format in ("jpeg", "png", "tiff", "tiff16"):
            with self.subTest(file_format):
                back = read_photo(written(photo, file_format)).metadata
                self.assertEqual((back.resources, back.iptc), (many.resources, IPTC))
        self.assertIsNone(told(many, "no-place").resources)

    def test_what_a_format_has_no_place_for_is_said(self) -> None:
        found = collected(Block(block()))
        found[0x8769].append(Value(0x9286, 7, 70_000, bytes(70_000)))
        alpha = np.full(CODES.shape[:2], 7, np.uint8)
        said = replace(self.photo.metadata, exif=block_of(found))
        photo = replace(self.photo, metadata=said, alpha=alpha)
        for file_format, words in (
            ("jpeg", ("transparency", "UserComment")), ("png", ()), ("tiff16", ()), ("ora", ()),
            ("avif", ("the IPTC",)), ("avif10", ("transparency", "of 10 bits", "dots an inch")),
            ("jxl16", ("clipping paths",)),
        ):  # fmt: skip
            with self.subTest(file_format):
                notes = " ".join(left_out(photo, file_format))
                self.assertEqual(bool(notes), bool(words))
                for word in words:
                    self.assertIn(word, notes)
        unknown = replace(photo, alpha_kind="unspecified", metadata=Metadata())
        self.assertIn("fourth channel", left_out(unknown, "png")[0])
        self.assertEqual(left_out(replace(photo, alpha=None, metadata=Metadata()), "jpeg"), ())

    def test_an_orientation_that_only_xmp_knows(self) -> None:
        packet = (
            b'<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">'
            b'<rdf:Description xmlns:tiff="http://ns.adobe.com/tiff/1.0/" tiff:Orientation="6"/>'
            b"</rdf:RDF></x:xmpmeta>"
        )
        for file_format in ("jpeg", "png", "tiff"):
            plain = replace(self.photo, metadata=Metadata(xmp=packet))
            photo = read_photo(written(plain, file_format))
            self.assertEqual((photo.width, photo.height), (64, 48))
            self.assertIn(b'Orientation="1"', photo.metadata.xmp or b"")
        both = replace(self.photo, metadata=Metadata(block(orientation=1), packet))
        self.assertEqual(read_photo(written(both, "png")).width, 48)

    def test_exif_that_is_too_large_for_a_jpeg_loses_its_largest_values(self) -> None:
        found = collected(Block(block()))
        found[0x8769].append(Value(0x9286, 7, 70_000, bytes(70_000)))
        large = block_of(found)
        back = read_photo(written(replace(self.photo, metadata=Metadata(exif=large)), "jpeg"))
        assert back.metadata.exif is not None
        tags = {v.tag for v in collected(Block(back.metadata.exif))[0x8769]}
        self.assertEqual((0x9286 in tags, 0x927C in tags), (False, True))
        self.assertIn(OWNED, back.metadata.exif)

    def test_xmp_of_any_size_in_a_jpeg(self) -> None:
        said = "".join(f"<rdf:li>Puppet {i}, {'strings ' * 20}</rdf:li>" for i in range(900))
        packet = (
            '<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">'
            '<rdf:Description rdf:about="" xmlns:dc="http://purl.org/dc/elements/1.1/"><dc:subject><rdf:Bag>'
            f"{said}</rdf:Bag></dc:subject></rdf:Description></rdf:RDF></x:xmpmeta>"
        ).encode()
        wrapped = b'<?xpacket begin="" id="W5M0"?>' + packet + b'<?xpacket end="w"?>'
        data = written(replace(self.photo, metadata=Metadata(xmp=wrapped)), "jpeg")
        self.assertEqual(read_photo(data).metadata.xmp, packet)
        path = Path(self.enterContext(tempfile.TemporaryDirectory())) / "photo.jpg"
        path.write_bytes(data)
        told = subprocess.run(["exiftool", "-j", "-Subject", path], capture_output=True, check=True)
        self.assertEqual(len(json.loads(told.stdout)[0]["Subject"]), 900)
        # Beside what the first segment says; and without a segment that is lost.
        first, segments = parts(data)
        both = first.replace(
            b"/></rdf:RDF>",
            b"><d:title xmlns:d='http://d/'>Gown</d:title></rdf:Description></rdf:RDF>",
        )
        merged = with_further(both, segments)
        self.assertEqual(
            [w in merged for w in (b"Gown", b"Puppet 899,", b"HasExtended")], [True, True, False]
        )
        self.assertEqual(with_further(first, segments[:-1]), first)

    def test_a_tiff_s_own(self) -> None:
        out = io.BytesIO()
        tifffile.imwrite(
            out, CODES, photometric="rgb", resolution=(300, 150), resolutionunit="INCH",
            extratags=[(33723, 7, len(IPTC), IPTC, True), (0x8298, 2, len(OWNED) + 1, OWNED + b"\0", True)],
        )  # fmt: skip
        photo = read_photo(out.getvalue())
        self.assertEqual(photo.metadata.iptc, IPTC)
        self.assertEqual(photo.metadata.dpi, (300.0, 150.0))
        with tifffile.TiffFile(io.BytesIO(written(photo, "tiff"))) as file:
            tags = file.pages.first.tags
            self.assertEqual(
                [Fraction(*tags[name].value) for name in ("XResolution", "YResolution")], [300, 150]
            )
            self.assertEqual(int(tags["ResolutionUnit"].value), 2)

    def test_a_smaller_one_says_its_own_size(self) -> None:
        small = exported(self.photo, Wanted("jpeg", long_edge=32))
        exif = Image.open(io.BytesIO(written(small, "jpeg"))).getexif().get_ifd(0x8769)
        self.assertEqual((exif[0xA002], exif[0xA003]), (small.width, small.height))

    def test_places_and_owners_of_iptc(self) -> None:
        said = Metadata(iptc=IPTC, dpi=(300, 300))
        no_place, owner = told(said, "no-place").iptc, told(said, "copyright").iptc
        assert no_place and owner
        self.assertEqual(
            [word in no_place for word in (b"Lowmere", TITLE, OWNED)], [False, True, True]
        )
        self.assertEqual(
            [word in owner for word in (b"Lowmere", TITLE, OWNED, b"Ida")],
            [False, False, True, True],
        )
        self.assertIsNone(without(IPTC + b"odd", PLACES))
        self.assertEqual(told(replace(said), "none"), Metadata(dpi=(300, 300)))


if __name__ == "__main__":
    unittest.main()
