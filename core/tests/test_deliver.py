"""What a delivered photo comes to: names, files beside it, layers, what files say of themselves."""

import io
import json
import shutil
import subprocess
import tempfile
import unittest
import xml.etree.ElementTree as ET
from dataclasses import replace
from datetime import datetime
from pathlib import Path
from zipfile import ZIP_STORED, ZipFile

import cv2
import imagecodecs
import numpy as np
import tifffile
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image

from nubilis.colour.profile import srgb
from nubilis.colour.standard import standard_profile
from nubilis.deliver.names import FIELDS, LONGEST, Said, checked, free, named
from nubilis.deliver.pieces import Beside, pieces
from nubilis.engine.engine import Engine
from nubilis.errors import PatternError, PhotoError
from nubilis.mask.brush import Brush, Stroke
from nubilis.mask.combine import Mask
from nubilis.mask.ramp import Ramp
from nubilis.photo.about import told
from nubilis.photo.coding import Coding
from nubilis.photo.depth import at_depth
from nubilis.photo.exif_block import GPS_IFD
from nubilis.photo.export import Wanted
from nubilis.photo.metadata import Metadata
from nubilis.photo.picture import Photo
from nubilis.photo.read import read_photo
from nubilis.photo.write import write_photo
from nubilis.planning import plan_fix
from nubilis.readable import made_readable
from nubilis.recipe.document import Cast, Recipe
from nubilis.recipe.files import read_file
from nubilis.remedy.shift import Shift

SAID = Said("DSC_1", "Wings / left", "Tour", 7, "AC", (600, 400), datetime(2026, 5, 1, 20, 15, 3))
XMP = (
    b'<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">'
    b'<rdf:Description xmlns:dc="http://purl.org/dc/elements/1.1/" xmlns:Iptc4xmpCore="http://iptc.org/std/Iptc4xmpCore/1.0/xmlns/"'
    b' Iptc4xmpCore:Location="Lowmere" dc:source="Curtain"><dc:creator>Ida</dc:creator>'
    b"</rdf:Description></rdf:RDF></x:xmpmeta>"
)


def about_it() -> Metadata:
    exif = Image.Exif()
    exif[0x013B], exif[0x8298], exif[0x0110] = "Ida", "Quillwick", "Prompt box"
    exif[GPS_IFD] = {1: "N", 2: (51.0, 30.0, 0.0)}
    return Metadata(exif.tobytes().removeprefix(b"Exif\0\0"), XMP)


def calm(bits: int = 8, size: tuple[int, int] = (301, 203)) -> Photo:
    small = np.random.default_rng(4).uniform(0.1, 0.9, (7, 9, 3))
    wide = cv2.resize(small, size, interpolation=cv2.INTER_LINEAR)
    kind = np.uint8 if bits == 8 else np.uint16
    codes = np.ascontiguousarray((wide * np.iinfo(kind).max).astype(kind))
    return Photo(codes, standard_profile("display-p3"), about_it())


def treated(photo: Photo) -> tuple[Engine, Recipe]:
    """Two casts, each under a stroke of its own."""
    engine = Engine(photo)
    casts = []
    for i, x in enumerate((0.25, 0.7)):
        stroke = Stroke(size=0.2, feather=0.6, points=(((x, 0.1), 1.0), ((x, 0.5), 1.0)))
        mask = Mask(parts=(Brush(id="b", strokes=(stroke,)),))
        one = plan_fix(engine, [(60 + 150 * i, 80)], [], [(150, 180)]).casts[0]
        casts.append(
            one.model_copy(update={"mask": mask, "id": f"c{i}", "name": "Curtain" if i else ""})
        )
    return engine, Recipe(casts=tuple(casts))


class Names(unittest.TestCase):
    def test_fields_are_filled_and_nothing_else_is_let_through(self) -> None:
        text = named("{shoot}_{date}-{time}_{number:4} {title} {casts} {width}x{height}", SAID)
        self.assertEqual(text, "Tour_2026-05-01-201503_0007 Wings - left AC 600x400")
        self.assertEqual(named("{date}{time}", replace(SAID, taken=None)), "undated")
        first = replace(SAID, taken=datetime(1, 2, 3, 4, 5, 6))
        self.assertEqual(named("{date} {time}", first), "0001-02-03 040506")
        for wrong in ("", "   ", "{nmae}", "{name", "name}", "{title:3}", "x" * 121):
            with self.subTest(wrong), self.assertRaises(PatternError):
                checked(wrong)

    @given(st.text(max_size=60), st.sampled_from(FIELDS))
    def test_whatever_a_title_says_the_name_is_one_file(self, title: str, field: str) -> None:
        name = named(f"{{title}}{{{field}}}", replace(SAID, title=title, name="a/b", shoot="CON"))
        self.assertTrue(0 < len(name.encode()) <= LONGEST + 1)
        self.assertEqual(made_readable(name), name)
        self.assertFalse(set(name) & set('/\\:*?"<>|\0\n'))
        self.assertNotIn(name, (".", ".."))
        self.assertEqual(name, name.strip(" ."))

    def test_names_of_many_bytes_are_cut_at_a_letter_s_border(self) -> None:
        for letter in ("\u6f22", "\U0001f3ad", "e\u0301"):
            name = named("{title}", replace(SAID, title=letter * 200))
            self.assertLessEqual(len(name.encode()), LONGEST)
            self.assertEqual(set(name), set(letter))

    def test_names_that_systems_keep_for_themselves_and_clashes(self) -> None:
        self.assertEqual(named("{shoot}", replace(SAID, shoot="nul")), "_nul")
        taken = {"a.jpg", "a-2.jpg"}
        self.assertEqual(free("a", [".jpg", "-A.png"], taken.__contains__), "a-3")
        self.assertEqual(free("a", [".png"], taken.__contains__), "a")


class About(unittest.TestCase):
    def test_what_is_left(self) -> None:
        everything = about_it()
        self.assertIs(told(everything, "all"), everything)
        self.assertEqual(told(everything, "none"), Metadata())
        for about, model, place, city, headline in (
            ("no-place", True, False, False, True),
            ("copyright", False, False, False, False),
        ):
            left = told(everything, about)  # type: ignore[arg-type]
            exif = Image.Exif()
            exif.load(b"Exif\0\0" + (left.exif or b""))
            self.assertEqual(exif.get(0x8298), "Quillwick")
            self.assertEqual(0x0110 in exif, model, about)
            self.assertEqual(bool(exif.get_ifd(GPS_IFD)), place, about)
            assert left.xmp is not None
            self.assertIn(b"Ida", left.xmp)
            self.assertEqual(b"Lowmere" in left.xmp, city, about)
            self.assertEqual(b"Curtain" in left.xmp, headline, about)

    def test_no_place_is_left_wherever_it_stands(self) -> None:
        """In structures, lists, attributes of properties, typed nodes, and what only a maker knows."""
        said = "".join(
            f"<{text.format('Lowmere')}"
            for text in (
                'e:LocationShown><r:Bag><r:li r:parseType="Resource"><e:City>{}</e:City>'
                "</r:li></r:Bag></e:LocationShown>",
                'd:event r:parseType="Resource"><e:Sublocation>{}</e:Sublocation></d:event>',
                'd:shot><r:Description e:CountryName="{}"/></d:shot>',
                'd:where><r:Description><r:type r:resource="http://e/LocationDetails"/>'
                "<e:n>{}</e:n></r:Description></d:where>",
                'd:list><r:Seq><r:li><e:LocationDetails e:n="{}"/></r:li></r:Seq></d:list>',
                'd:near e:gpsAltitude="{}">4</d:near>',
                'd:at r:resource="geo:51.5,0.1;n={}"/>',
                "d:point>geo:51.5,0.1;{}</d:point>",
            )
        )
        kept = (
            '<d:title>A city of cloth</d:title><d:velocity>3</d:velocity><d:crop d:replaced="1"/>'
        )
        packet = (
            '<x:xmpmeta xmlns:x="adobe:ns:meta/"><r:RDF xmlns:r="http://www.w3.org/1999/02/22-rdf-syntax-ns#">'
            f'<r:Description xmlns:e="http://e/" xmlns:d="http://d/">{said}{kept}</r:Description>'
            "</r:RDF></x:xmpmeta>"
        )
        exif = Image.Exif()
        exif[0x0110] = "Prompt box"
        exif.get_ifd(0x8769).update({0x927C: b"Lowmere, second row", 0x829A: 0.01})
        block = exif.tobytes().removeprefix(b"Exif\0\0")
        self.assertIn(b"Lowmere", block)
        left = told(Metadata(block, packet.encode()), "no-place")
        assert left.xmp and left.exif
        self.assertNotIn(b"Lowmere", left.xmp + left.exif)
        for word in (b"A city of cloth", b"velocity", b"replaced", b"51.5"):
            self.assertEqual(word in left.xmp, word != b"51.5", word)
        back = Image.Exif()
        back.load(b"Exif\0\0" + left.exif)
        self.assertEqual(float(back.get_ifd(0x8769)[0x829A]), 0.01)

    def test_what_cannot_be_understood_goes_rather_than_tell_a_place(self) -> None:
        for odd in (b"<x", b'<!DOCTYPE x [<!ENTITY a "b">]><x>&a;</x>'):
            self.assertIsNone(told(Metadata(None, odd), "no-place").xmp)
        self.assertIsNone(told(Metadata(b"\0\1odd", None), "no-place").exif)


class Jpegs(unittest.TestCase):
    def setUp(self) -> None:
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))

    def test_strips_by_all_cores_are_the_picture_coded_in_one_go(self) -> None:
        for size in ((1001, 1203), (517, 2000), (8, 8), (30, 1700)):
            photo = calm(size=size)
            for subsampling in ("444", "422", "420"):
                path = self.folder / "x.jpg"
                write_photo(path, photo, "jpeg", Coding(90, subsampling))  # type: ignore[arg-type]
                whole = imagecodecs.jpeg8_encode(photo.codes, level=90, subsampling=subsampling)
                for reader in (imagecodecs.jpeg8_decode, _by_pillow, _by_opencv):
                    np.testing.assert_array_equal(
                        reader(path.read_bytes()), reader(bytes(whole)), f"{size} {subsampling}"
                    )

    def test_a_limit_is_kept_with_the_best_quality_that_does(self) -> None:
        photo, path = calm(size=(900, 700)), self.folder / "x.jpg"
        write_photo(path, photo, "jpeg", Coding(100))
        usual = path.stat().st_size
        limit = usual // 2000
        write_photo(path, photo, "jpeg", Coding(100, limit_kb=limit))
        self.assertLessEqual(path.stat().st_size, 1000 * limit)
        self.assertGreater(path.stat().st_size, 800 * limit)
        with self.assertRaisesRegex(PhotoError, "does not fit into 1 kB.*long edge"):
            write_photo(path, photo, "jpeg", Coding(limit_kb=1))


def _by_pillow(data: bytes) -> np.ndarray:
    return np.asarray(Image.open(io.BytesIO(data)))


def _by_opencv(data: bytes) -> np.ndarray:
    return np.asarray(cv2.imdecode(np.frombuffer(data, np.uint8), cv2.IMREAD_COLOR))


class OtherReaders(unittest.TestCase):
    """Each format and depth, read by programs that are not ours."""

    def setUp(self) -> None:
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))

    def test_pixels_profile_and_what_it_says_of_itself(self) -> None:
        for file_format, off in (
            ("jpeg", 0.03), ("png", 0.0), ("png16", 0.0), ("tiff", 0.0), ("tiff16", 0.0),
            ("avif", 0.03), ("avif10", 0.03), ("avif12", 0.03), ("jxl", 0.0), ("jxl16", 0.0),
        ):  # fmt: skip
            with self.subTest(file_format):
                photo = calm(16 if file_format[-1] in "602" else 8)
                if file_format.startswith("jxl"):
                    photo = replace(photo, profile=srgb())
                path = self.folder / f"x-{file_format}"
                write_photo(path, photo, file_format)
                seen = _decoded(path, file_format)
                top = np.iinfo(photo.codes.dtype).max
                self.assertLessEqual(np.abs(seen - photo.codes / top).max(), off)
                said = _exiftool(path)
                self.assertEqual((said["ImageWidth"], said["ImageHeight"]), (301, 203))
                if file_format.startswith("jxl"):  # this reader's version knows no more of them
                    continue
                self.assertEqual(said["ProfileDescription-en-GB"], "Display P3")
                self.assertEqual(said["Copyright"], "Quillwick")
                self.assertEqual(said["Artist"], "Ida")
                self.assertEqual(said["Source"], "Curtain")
                self.assertIn("51 deg 30'", said["GPSLatitude"])
                self.assertIn(said.get("Orientation", "Horizontal (normal)"), "Horizontal (normal)")


def _decoded(path: Path, file_format: str) -> np.ndarray:
    """0..1, by libraries that wrote none of it where there are such."""
    data = path.read_bytes()
    if file_format.startswith("tiff"):
        pixels = tifffile.imread(io.BytesIO(data))
    elif file_format == "png16":
        pixels = cv2.imdecode(np.frombuffer(data, np.uint8), cv2.IMREAD_UNCHANGED)[..., ::-1]
    elif file_format.startswith("jxl"):
        pixels = imagecodecs.jpegxl_decode(data)
    elif file_format in ("avif10", "avif12"):
        return np.asarray(imagecodecs.avif_decode(data)) / (2.0 ** int(file_format[4:]) - 1.0)
    else:
        pixels = np.asarray(Image.open(io.BytesIO(data)))
    return pixels / np.iinfo(pixels.dtype).max


def _exiftool(path: Path) -> dict[str, object]:
    program = shutil.which("exiftool")
    assert program is not None, "libimage-exiftool-perl is one of the tests' packages"
    told = subprocess.run([program, "-json", path], capture_output=True, check=True)
    return dict(json.loads(told.stdout)[0])


class Pieces(unittest.TestCase):
    def setUp(self) -> None:
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))

    def made(self, photo: Photo, wanted: Wanted, beside: Beside) -> dict[str, bytes]:
        engine, recipe = treated(photo)
        self.engine, self.recipe = engine, recipe
        found = {}
        for left in self.folder.iterdir():
            left.unlink()
        for piece in pieces(engine, recipe, wanted, beside):
            path = self.folder / f"out{piece.tail}"
            piece.write(path, lambda _: None)
            found[piece.tail] = path.read_bytes()
        self.assertEqual(len(list(self.folder.iterdir())), len(found))
        return found

    def test_masks_table_and_recipe_beside_the_photo(self) -> None:
        found = self.made(calm(), Wanted("png"), Beside("tiff16", table=True, recipe=True))
        self.assertEqual(list(found), [".png", "-A.tif", "-B.tif", ".cube", ".json"])
        for tail, cast in zip(("-A.tif", "-B.tif"), self.recipe.casts, strict=True):
            codes = tifffile.imread(io.BytesIO(found[tail]))
            np.testing.assert_array_equal(codes, self.engine.mask_codes(cast.mask, 16))
        recipe, _ = read_file(found[".json"])
        self.assertEqual(recipe, self.recipe)
        self.assertIn(b"LUT_3D_SIZE", found[".cube"])

    def test_sixteen_bits_of_eight_are_as_fine_as_what_was_computed(self) -> None:
        """A smooth sky under a fading mask; what no mask reaches is each code 257 times."""
        fall = np.linspace(90.0, 210.0, 2400)[None, :, None] * np.array([0.75, 0.9, 1.1])
        sky = Photo(np.repeat(fall + 0.5, 48, axis=0).astype(np.uint8), srgb())
        remedy = Shift(id="s", hue=0.0, luminance=0.15)
        fading = Mask(parts=(Ramp(id="r", full=(0.02, 0.01), none=(0.9, 0.01)),))
        recipe = Recipe(casts=(Cast(id="c", mask=fading, remedies=(remedy,)),))
        engine, wanted = Engine(sky), Wanted("png16")
        path = self.folder / "sky.png"
        (whole,) = pieces(engine, recipe, wanted)
        self.assertIsNotNone(whole.write(path, lambda _: None))  # the share that stayed is told
        codes = np.asarray(imagecodecs.png_decode(path.read_bytes()))
        for channel in range(3):
            self.assertGreater(len(np.unique(codes[..., channel])), 1000)
        far = np.s_[:, 2300:]
        np.testing.assert_array_equal(codes[far], sky.codes[far].astype(np.uint16) * 257)
        eight = engine.deliver(recipe).codes
        self.assertLessEqual(int(np.abs(at_depth(codes, 8).astype(int) - eight).max()), 1)

    def test_masks_have_the_size_of_the_file(self) -> None:
        found = self.made(calm(), Wanted("jpeg", long_edge=150), Beside("png"))
        self.assertEqual(Image.open(io.BytesIO(found["-A.png"])).size, (150, 101))
        self.assertEqual(Image.open(io.BytesIO(found[".jpg"])).size, (150, 101))
        few = self.made(calm(), Wanted("png", megapixels=0.01), Beside("png"))
        wide, tall = Image.open(io.BytesIO(few[".png"])).size
        self.assertTrue(9_000 < wide * tall <= 10_000)

    def test_openraster_s_layers_are_the_delivered_picture_to_the_bit(self) -> None:
        for bits in (8, 16):
            found = self.made(calm(bits), Wanted("ora"), Beside())
            packed = ZipFile(io.BytesIO(found[".ora"]))
            first = packed.infolist()[0]
            self.assertEqual((first.filename, first.compress_type), ("mimetype", ZIP_STORED))
            self.assertEqual(packed.read("mimetype"), b"image/openraster")
            root = ET.fromstring(packed.read("stack.xml"))
            self.assertEqual((root.get("w"), root.get("h")), ("301", "203"))
            shown = self._composed(packed, root)
            np.testing.assert_array_equal(shown, self.engine.deliver(self.recipe).codes)
            merged = read_photo(packed.read("mergedimage.png"))
            np.testing.assert_array_equal(merged.codes, shown)
            self.assertEqual(merged.profile.name, "Display P3")
            names = [s.get("name") for s in root.iter("stack")][1:]
            self.assertEqual(names, ["B: Curtain", "Cast A"])

    def test_openraster_s_layers_together_have_the_photo_s_transparency(self) -> None:
        alpha = np.tile(np.linspace(0, 255, 301).astype(np.uint8), (203, 1))
        for kind, want in (("straight", alpha), ("associated", alpha), ("unspecified", None)):
            with self.subTest(kind):
                photo = replace(calm(), alpha=alpha, alpha_kind=kind)
                packed = ZipFile(io.BytesIO(self.made(photo, Wanted("ora"), Beside())[".ora"]))
                root = ET.fromstring(packed.read("stack.xml"))
                shown = self._composed(packed, root)
                np.testing.assert_array_equal(shown, self.engine.deliver(self.recipe).codes)
                base = read_photo(packed.read("data/0-0.png")).alpha
                merged = read_photo(packed.read("mergedimage.png")).alpha
                for one in (base, merged):
                    np.testing.assert_array_equal(one, want)
                # What lies atop leaves the alpha below as it is (Porter and Duff, 1984).
                laid = [s.get("composite-op") for s in root.iter("stack")][1:]
                self.assertEqual(laid, ["svg:src-atop"] * 2)

    def _composed(self, packed: ZipFile, root: ET.Element) -> np.ndarray:
        """As any program lays them over each other: from the lowest."""
        out: np.ndarray | None = None
        masks = 0
        for layer in reversed(list(root.iter("layer"))):
            data = np.frombuffer(packed.read(str(layer.get("src"))), np.uint8)
            pixels = cv2.imdecode(data, cv2.IMREAD_UNCHANGED)
            if layer.get("visibility") == "hidden":
                masks += 1
                continue
            rgb = pixels[..., 2::-1]
            if out is None:
                out = rgb.copy()
                continue
            full = pixels[..., 3] == np.iinfo(pixels.dtype).max
            self.assertTrue(full.any())
            out[full] = rgb[full]
        self.assertEqual(masks, 2)
        assert out is not None
        return out
