"""Make the files of this folder and the pictures that others make of them, and the documentation's table.

By hand, from core/: python -m tests.kinds.make. What comes out differs by the versions of those who write.
"""

import io
import json
import struct
import tempfile
import zlib
from collections.abc import Iterator
from dataclasses import asdict
from pathlib import Path
from typing import Any

import cv2
import imagecodecs
import numpy as np
import OpenEXR
import pillow_heif
import tifffile
from PIL import Image, ImageCms, ImageOps

from nubilis.camera.shoot import write_shot
from nubilis.colour.profile import srgb
from nubilis.colour.rgb import SRGB_PRIMARIES
from nubilis.colour.standard import P3_PRIMARIES, curve_tag, made_icc, standard_icc
from nubilis.photo.picture import Photo
from tests.kinds.table import FROM, HERE, TABLE, TO, Kind, described
from tests.test_foreign import inks
from tests.test_pieces import chunk
from tests.test_png_colour import P3_BY_NUMBER, PQ, gamma, grey_profile
from tests.test_tiff import lab_codes, retagged, tiff

H, W = 24, 36
DOCS = Path(__file__).parents[3] / "docs/photos.md"
Made = tuple[Kind, bytes, np.ndarray | None]
P3, ROOT = (
    standard_icc("display-p3"),
    made_icc("Root", SRGB_PRIMARIES, (0.3127, 0.3290), curve_tag(0, (1.8,))),
)

WIDE_ROOT = made_icc("", P3_PRIMARIES, (0.3127, 0.3290), curve_tag(0, (1.8,)))


def chart() -> np.ndarray:
    """Calm colours that every space here holds, uint8 (h, w, 3)."""
    small = np.random.default_rng(39).uniform(60, 200, (3, 4, 3))
    return cv2.resize(small, (W, H), interpolation=cv2.INTER_CUBIC).astype(np.uint8)


RGB = chart()
DEEP = RGB.astype(np.uint16) * 257
GREY = np.ascontiguousarray(RGB[..., 1])
ALPHA = np.tile(np.linspace(40, 255, W).astype(np.uint8), (H, 1))


def by_pillow(data: bytes) -> np.ndarray:
    """Upright in sRGB, by Pillow and LittleCMS."""
    image = ImageOps.exif_transpose(Image.open(io.BytesIO(data)))
    icc = image.info.get("icc_profile")
    if image.mode in ("P", "1", "LA", "RGBA", "YCbCr") or (image.mode == "L" and not icc):
        image = image.convert("RGBA" if "A" in image.mode else "RGB").convert("RGB")
    if icc:
        done = ImageCms.profileToProfile(
            image, ImageCms.ImageCmsProfile(io.BytesIO(icc)), ImageCms.createProfile("sRGB"),
            renderingIntent=ImageCms.Intent.RELATIVE_COLORIMETRIC, outputMode="RGB",
            flags=ImageCms.Flags.BLACKPOINTCOMPENSATION,
        )  # fmt: skip
        assert done is not None
        image = done
    return np.asarray(image.convert("RGB"))


def saved(codes: np.ndarray, kind: str, mode: str | None = None, **more: Any) -> bytes:
    out = io.BytesIO()
    Image.fromarray(codes, mode).save(out, kind, **more)
    return out.getvalue()


def three(grey: np.ndarray) -> np.ndarray:
    return np.repeat(np.asarray(grey, np.uint8)[..., None], 3, axis=2)


def stretched(codes: np.ndarray, bits: int) -> np.ndarray:
    return np.rint(codes / (2**bits - 1) * 255).astype(np.uint8)


def in_srgb(codes: np.ndarray, icc: bytes) -> np.ndarray:
    return by_pillow(saved(codes, "PNG", icc_profile=icc))


def jpegs() -> Iterator[Made]:
    def one(file: str, what: str, data: bytes, **more: Any) -> Made:
        return Kind(file, "JPEG", what, "Pillow", within=6, **more), data, by_pillow(data)

    plain = saved(RGB, "JPEG", quality=95)
    yield one("colours.jpg", "colours", plain)
    yield one("grey.jpg", "grey", saved(GREY, "JPEG", quality=95))
    yield one("progressive.jpg", "progressive", saved(RGB, "JPEG", quality=95, progressive=True))
    yield one(
        "p3.jpg", "a profile", saved(RGB, "JPEG", quality=95, icc_profile=P3), profile="Display P3"
    )
    turned = Image.Exif()
    turned[0x0112] = 6
    yield one("turned.jpg", "turned by EXIF", saved(RGB, "JPEG", quality=95, exif=turned.tobytes()))
    out = io.BytesIO()
    other = Image.fromarray(255 - RGB)
    Image.fromarray(RGB).save(out, "MPO", save_all=True, append_images=[other], quality=95)
    yield one("two.jpg", "with a second picture behind", out.getvalue())
    yield one("film.jpg", "with a film behind", plain + b"\xff\xda\x00\x08" * 4000)
    yield one("zeros.jpg", "with zeros behind", plain + bytes(9000))
    large = np.random.default_rng(2).bytes(80_000)
    icc = struct.pack(">I", len(P3) + len(large)) + P3[4:] + large
    yield one(
        "large-profile.jpg",
        "a profile of many segments",
        saved(RGB, "JPEG", quality=95, icc_profile=icc),
        profile="Display P3",
    )
    cmyk = np.asarray(Image.fromarray(RGB).convert("CMYK"))
    yield one(
        "inks.jpg",
        "CMYK with its profile",
        saved(cmyk, "JPEG", "CMYK", quality=95, icc_profile=inks()),
        profile="Display P3",
    )
    bare = saved(cmyk, "JPEG", "CMYK", quality=95)
    yield (
        Kind("bare-inks.jpg", "JPEG", "CMYK without", refusal="CMYK without a profile"),
        bare,
        None,
    )
    half = saved(np.kron(RGB, np.ones((8, 8, 1), np.uint8)), "JPEG", quality=95)
    half = half[: len(half) * 2 // 3]
    yield Kind("half.jpg", "JPEG", "half a file", refusal="incomplete"), half, None


def with_said(data: bytes, *said: bytes) -> bytes:
    return data[:33] + b"".join(said) + data[33:]


def few(codes: np.ndarray, bits: int) -> bytes:
    """A grey PNG of few bits, by hand (PNG, third edition, section 7.2)."""
    rows = b""
    for row in codes:
        packed = np.unpackbits(row[:, None].astype(np.uint8), axis=1)[:, -bits:].ravel()
        rows += b"\0" + np.packbits(packed).tobytes()
    head = struct.pack(">IIBBBBB", codes.shape[1], codes.shape[0], bits, 0, 0, 0, 0)
    return (
        b"\x89PNG\r\n\x1a\n"
        + chunk(b"IHDR", head)
        + chunk(b"IDAT", zlib.compress(rows))
        + chunk(b"IEND", b"")
    )


def pngs() -> Iterator[Made]:
    def one(
        file: str, what: str, data: bytes, seen: np.ndarray, by: str = "Pillow", **more: Any
    ) -> Made:
        return Kind(file, "PNG", what, by, **more), data, seen

    for bits in (1, 2, 4):
        data = few(GREY >> (8 - bits), bits)
        seen = stretched(GREY >> (8 - bits), bits)
        yield one(
            f"grey{bits}.png",
            f"grey of {bits} bit{'s' * (bits > 1)}",
            data,
            three(seen),
            "what was put in",
        )
    plain = saved(RGB, "PNG")
    yield one("grey8.png", "8", saved(GREY, "PNG"), three(GREY))
    deep = bytes(imagecodecs.png_encode(GREY.astype(np.uint16) * 257))
    yield one(
        "grey16.png",
        "16",
        deep,
        three(cv2.imdecode(np.frombuffer(deep, np.uint8), cv2.IMREAD_UNCHANGED) >> 8),
        "OpenCV",
        bits=16,
    )
    palette = io.BytesIO()
    Image.fromarray(RGB).quantize(16).save(palette, "PNG")
    yield one("palette.png", "a palette", palette.getvalue(), by_pillow(palette.getvalue()))
    yield one("rgb8.png", "colours of 8 bits", plain, RGB)
    wide = bytes(imagecodecs.png_encode(DEEP))
    by_others = cv2.imdecode(np.frombuffer(wide, np.uint8), cv2.IMREAD_UNCHANGED)[..., ::-1] >> 8
    yield one("rgb16.png", "16", wide, by_others.astype(np.uint8), "OpenCV", bits=16)
    yield one("rgba8.png", "with alpha", saved(np.dstack([RGB, ALPHA]), "PNG"), RGB, alpha=True)
    yield one(
        "rgba16.png",
        "alpha of 16 bits",
        bytes(imagecodecs.png_encode(np.dstack([DEEP, ALPHA.astype(np.uint16) * 257]))),
        RGB,
        "what was put in",
        bits=16,
        alpha=True,
    )
    through = chunk(b"tRNS", struct.pack(">3H", *map(int, RGB[3, 3])))
    yield one(
        "through.png", "one colour that is transparent", with_said(plain, through), RGB, alpha=True
    )
    grey_through = chunk(b"tRNS", struct.pack(">H", int(GREY[3, 3])))
    yield one(
        "grey-through.png",
        "one grey",
        with_said(saved(GREY, "PNG"), grey_through),
        three(GREY),
        alpha=True,
    )
    for file, what, said, icc in (
        ("cicp.png", "a space by number", (P3_BY_NUMBER,), P3),
        ("gama.png", "gAMA", (gamma(1 / 1.8),), ROOT),
        ("gama-chrm.png", "gAMA with cHRM", (gamma(1 / 1.8), primaries()), WIDE_ROOT),
    ):  # fmt: skip
        yield one(
            file,
            what,
            with_said(plain, *said),
            in_srgb(RGB, icc),
            "LittleCMS, with a profile that says the same",
            profile="",
            within=2,
        )
    yield one("srgb.png", "sRGB", with_said(plain, chunk(b"sRGB", b"\0")), RGB)
    yield one(
        "iccp.png",
        "a profile",
        saved(RGB, "PNG", icc_profile=P3),
        in_srgb(RGB, P3),
        "Pillow and LittleCMS",
        profile="Display P3",
        within=2,
    )
    yield one(
        "grey-profile.png",
        "grey with a curve of its own",
        saved(GREY, "PNG", icc_profile=grey_profile(1.8)),
        in_srgb(three(GREY), ROOT),
        "LittleCMS, with a profile that says the same",
        profile="",
        within=2,
    )
    yield Kind("pq.png", "PNG", "light beyond white", refusal="HDR"), with_said(plain, PQ), None
    yield (
        Kind("cut.png", "PNG", "half a file", refusal="damaged or incomplete"),
        plain[: len(plain) // 2],
        None,
    )


def primaries() -> bytes:
    said = (0.3127, 0.3290, *np.ravel(P3_PRIMARIES))
    return chunk(b"cHRM", struct.pack(">8I", *(round(v * 1e5) for v in said)))


def tiffs() -> Iterator[Made]:
    def one(
        file: str, what: str, data: bytes, seen: np.ndarray, by: str = "tifffile", **more: Any
    ) -> Made:
        return Kind(f"{file}.tif", "TIFF", what, by, **more), data, seen

    for bits in (1, 2, 4, 8, 10, 12, 14, 16):
        codes = (GREY.astype(np.uint16) * 257 >> (16 - bits)).astype(
            np.uint8 if bits <= 8 else np.uint16
        )
        whole: Any = codes.astype(bool) if bits == 1 else codes
        data = tiff(whole, photometric="minisblack", bitspersample=bits)
        seen = stretched(np.asarray(tifffile.imread(io.BytesIO(data))).astype(np.uint16), bits)
        what = "grey of 1 bit" if bits == 1 else str(bits)
        yield one(f"grey{bits}", what, data, three(seen), bits=8 if bits <= 8 else 16)
    wide = tiff(GREY.astype(np.uint32) << 24, photometric="minisblack")
    yield one("grey32", "32", wide, three(GREY), bits=16)
    for bits in (1, 8, 16):
        codes = GREY > 128 if bits == 1 else GREY if bits == 8 else GREY.astype(np.uint16) * 257
        data = tiff(codes, photometric="miniswhite", **({"bitspersample": 1} if bits == 1 else {}))
        seen = 255 - (codes * 255 if bits == 1 else GREY)
        what = "white as nothing: 1 bit" if bits == 1 else str(bits)
        yield one(f"white{bits}", what, data, three(seen), "what was put in", bits=max(bits, 8))
    table = np.random.default_rng(7).integers(0, 256, (3, 256))
    numbers = np.random.default_rng(8).integers(0, 256, (H, W)).astype(np.uint8)
    data = tiff(numbers, photometric="palette", colormap=(table * 257).astype(np.uint16))
    yield one("palette8", "a palette", data, by_pillow(data), "Pillow")
    data = tiff(RGB, photometric="rgb", compression="lzw", predictor=True)
    yield one("lzw", "colours of 8 bits (LZW)", data, tifffile.imread(io.BytesIO(data)))
    data = tiff(DEEP, photometric="rgb", compression="zlib")
    yield one(
        "rgb16", "16 (Deflate)", data, stretched(tifffile.imread(io.BytesIO(data)), 16), bits=16
    )
    data = tiff(DEEP, photometric="rgb", iccprofile=P3, byteorder=">")
    yield one(
        "p3-16",
        "a profile",
        data,
        in_srgb(RGB, P3),
        "LittleCMS",
        bits=16,
        profile="Display P3",
        within=2,
    )
    data = tiff(
        (RGB / 255.0).astype(np.float32), photometric="rgb", iccprofile=standard_icc("srgb")
    )
    yield one("float", "floats with a profile", data, RGB, "what was put in", bits=16)
    data = tiff(
        np.asarray(Image.fromarray(RGB).convert("YCbCr")), photometric="ycbcr", subsampling=(1, 1)
    )
    yield one("ycbcr", "YCbCr", data, by_pillow(data), "Pillow", within=2)
    data = tiff(
        np.kron(RGB, np.ones((2, 2, 1), np.uint8)),
        photometric="rgb",
        compression="jpeg",
        subsampling=(2, 2),
    )
    yield one("jpeg", "YCbCr as JPEG", data, by_pillow(data), "Pillow", within=6)
    yield from labs(one)
    data = tiff(np.moveaxis(RGB, 2, 0), photometric="rgb", planarconfig="separate")
    yield one("planes", "planes apart", data, np.moveaxis(tifffile.imread(io.BytesIO(data)), 0, 2))
    for kind, what in (
        ("unassalpha", "alpha beside"),
        ("unspecified", "a fourth channel without a meaning"),
    ):
        data = tiff(np.dstack([RGB, ALPHA]), photometric="rgb", extrasamples=[kind])
        yield one(kind, what, data, tifffile.imread(io.BytesIO(data))[..., :3], alpha=True)
    for bits, straight in ((8, RGB), (16, DEEP)):
        alpha = ALPHA.astype(np.uint16) * 257 if bits == 16 else ALPHA
        times = np.rint(straight / (2**bits - 1.0) * alpha[..., None]).astype(straight.dtype)
        data = tiff(np.dstack([times, alpha]), photometric="rgb", extrasamples=["assocalpha"])
        what = "colours times alpha" if bits == 8 else "the same of 16 bits"
        yield one(
            f"assoc{bits}",
            what,
            data,
            RGB,
            "what was put in",
            bits=bits,
            alpha=True,
            within=4 if bits == 8 else 1,
        )
    cmyk = np.asarray(Image.fromarray(RGB).convert("CMYK"))
    data = saved(cmyk, "TIFF", "CMYK", icc_profile=inks())
    yield one(
        "inks",
        "CMYK with its profile",
        data,
        by_pillow(data),
        "Pillow and LittleCMS",
        profile="Display P3",
        within=3,
    )
    logluv = retagged(tiff(DEEP, photometric="rgb"), PhotometricInterpretation=32845)
    refused = (
        ("bare-inks", "CMYK without", saved(cmyk, "TIFF", "CMYK"), "CMYK without a profile"),
        ("logluv", "LogLuv", logluv, "LOGLUV"),
        ("signed", "signed numbers", tiff(DEEP.astype(np.int16), photometric="rgb"), "signed"),
    )  # fmt: skip
    for file, what, data, words in refused:
        yield Kind(f"{file}.tif", "TIFF", what, refusal=words), data, None


def labs(one: Any) -> Iterator[Made]:
    """Under D50, as LittleCMS has it, there and back."""
    space, rgb = ImageCms.createProfile("LAB"), ImageCms.createProfile("sRGB")
    there = ImageCms.profileToProfile(Image.fromarray(RGB), rgb, space, outputMode="LAB")
    assert there is not None
    back = ImageCms.profileToProfile(there, space, rgb, outputMode="RGB")
    codes = np.asarray(there)
    signed = codes[..., 1:].view(np.int8).astype(np.float64)
    lab = np.dstack([codes[..., 0] / 2.55, signed])
    for kind, bits in (("cielab", 8), ("cielab", 16), ("icclab", 8), ("icclab", 16)):
        data = tiff(lab_codes(lab, kind, bits), photometric=kind)
        whose = "L\\*a\\*b\\*" if kind == "cielab" else "L\\*a\\*b\\* as profiles have it"
        what, own = f"{whose} of {bits} bits", {"profile": "Rec. 2020", "within": 3}
        yield one(f"{kind}{bits}", what, data, np.asarray(back), "LittleCMS", bits=16, **own)


def others() -> Iterator[Made]:
    data = saved(RGB, "WEBP", quality=95)
    yield (
        Kind("lossy.webp", "WebP", "lossy", "imagecodecs", within=2),
        data,
        np.asarray(imagecodecs.webp_decode(data)),
    )
    data = saved(np.dstack([RGB, ALPHA]), "WEBP", lossless=True, exact=True, icc_profile=P3)
    yield (
        Kind(
            "p3.webp",
            "WebP",
            "lossless with alpha and profile",
            "LittleCMS",
            profile="Display P3",
            alpha=True,
            within=2,
        ),
        data,
        in_srgb(RGB, P3),
    )
    data = saved(RGB, "AVIF", quality=95, subsampling="4:4:4")
    yield (
        Kind("8.avif", "AVIF", "8 bits", "imagecodecs", within=3),
        data,
        np.asarray(imagecodecs.avif_decode(data)),
    )
    for bits in (10, 12):
        data = bytes(
            imagecodecs.avif_encode(
                DEEP >> (16 - bits),
                level=98,
                bitspersample=bits,
                pixelformat="444",
                primaries=12,
                transfer=13,
            )
        )
        yield (
            Kind(
                f"{bits}.avif",
                "AVIF",
                f"{bits} with a space by number",
                "LittleCMS",
                bits=16,
                profile="Display P3",
                within=4,
            ),
            data,
            in_srgb(RGB, P3),
        )
    data = bytes(imagecodecs.avif_encode(DEEP >> 6, bitspersample=10, primaries=9, transfer=16))
    yield Kind("pq.avif", "AVIF", "light beyond white", refusal="HDR"), data, None
    for bits, codes in ((8, RGB), (10, DEEP)):
        image = pillow_heif.from_bytes("RGB" if bits == 8 else "RGB;16", (W, H), codes.tobytes())
        out = io.BytesIO()
        image.save(out, quality=100, chroma=444)
        yield (
            Kind(
                f"{bits}.heic",
                "HEIF",
                f"{bits} bits",
                "what was put in",
                bits=8 if bits == 8 else 16,
                within=4,
            ),
            out.getvalue(),
            RGB,
        )
    both = pillow_heif.HeifFile()
    for codes in (RGB, 255 - RGB):
        both.add_frombytes("RGB", (W, H), codes.tobytes())
    out = io.BytesIO()
    both.save(out, quality=100, chroma=444)
    yield (
        Kind("two.heic", "HEIF", "the first of several pictures", "what was put in", within=4),
        out.getvalue(),
        RGB,
    )
    for bits in (8, 10, 12, 16):
        codes = RGB if bits == 8 else DEEP >> (16 - bits)
        data = bytes(
            imagecodecs.jpegxl_encode(
                codes, lossless=True, **({"bitspersample": bits} if bits in (10, 12) else {})
            )
        )
        linear = bits > 8  # what writes it takes more bits for linear light
        seen = (
            in_srgb(RGB, made_icc("", SRGB_PRIMARIES, (0.3127, 0.3290), curve_tag(0, (1.0,))))
            if linear
            else RGB
        )
        yield (
            Kind(
                f"{bits}.jxl",
                "JPEG XL",
                f"{bits} bits{' of linear light' * linear}",
                "LittleCMS" if linear else "what was put in",
                bits=8 if bits == 8 else 16,
                profile="" if linear else "sRGB",
                within=2,
            ),
            data,
            seen,
        )
    data = bytes(imagecodecs.jpegxl_encode(np.dstack([RGB, ALPHA]), lossless=True))
    yield Kind("alpha.jxl", "JPEG XL", "with alpha", "what was put in", alpha=True), data, RGB
    light = np.where(
        RGB / 255.0 <= 0.04045, RGB / 255.0 / 12.92, ((RGB / 255.0 + 0.055) / 1.055) ** 2.4
    )
    for kind in (np.float16, np.float32):
        yield (
            Kind(
                f"{kind.__name__}.exr",
                "OpenEXR",
                f"{kind.__name__[5:]}-bit floats",
                "IEC 61966-2-1",
                bits=16,
                profile="Rec. 2020",
                within=2,
            ),
            exr(light.astype(kind)),
            RGB,
        )
    shot = Photo(np.kron(RGB, np.ones((4, 4, 1), np.uint8)), srgb())
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "shot.dng"
        write_shot(path, shot)
        data = path.read_bytes()
    yield (
        Kind("shot.dng", "raw", "DNG", "what was put in", bits=16, profile="Rec. 2020", within=40),
        data,
        shot.codes,
    )
    packed = bytearray(data)
    with tifffile.TiffFile(io.BytesIO(data)) as file:
        tag = file.pages.first.pages[0].tags["Compression"]
        struct.pack_into("<H", packed, tag.valueoffset, 52546)
    yield (
        Kind("packed.dng", "raw", "DNG packed as JPEG XL", refusal="packed as JPEG XL"),
        bytes(packed),
        None,
    )


def exr(light: np.ndarray) -> bytes:
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "x.exr"
        told = {"compression": OpenEXR.ZIP_COMPRESSION, "type": OpenEXR.scanlineimage}
        OpenEXR.File(told, {"RGB": np.ascontiguousarray(light)}).write(str(path))
        return path.read_bytes()


def main() -> None:
    for old in (p for p in HERE.iterdir() if p.suffix not in (".py", ".json") and p.is_file()):
        old.unlink()
    rows = []
    for kind, data, seen in (*jpegs(), *pngs(), *tiffs(), *others()):
        kind.path.write_bytes(data)
        if seen is not None:
            kind.expected.write_bytes(saved(np.ascontiguousarray(seen), "PNG", optimize=True))
        rows.append(kind)
    TABLE.write_text(json.dumps([asdict(k) for k in rows], indent=1, ensure_ascii=False) + "\n")
    text = DOCS.read_text()
    before, rest = text.split(FROM)
    DOCS.write_text(before + FROM + described(rows) + TO + rest.split(TO)[1])


if __name__ == "__main__":
    main()
