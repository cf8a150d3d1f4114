"""What is said about a picture and is still said in its exports, counted by an independent reader.

By hand: .venv/bin/python -m bench.kept, after bench.foreign has fetched its pictures; exiftool reads them. Of
every picture with something said, every value that came is looked for in each format. Left out are what must
change (sizes, orientation, thumbnails, how pixels are stored) and what a reader works out by itself.
"""

import json
import subprocess
import tempfile
import warnings
from collections import Counter
from pathlib import Path
from typing import Any

from bench.foreign import ENDINGS, FOLDER
from nubilis.errors import PhotoError
from nubilis.photo.export import Wanted, exported
from nubilis.photo.iptc import MARKED
from nubilis.photo.read import read_photo
from nubilis.photo.write import SUFFIX, write_photo

FORMATS = "jpeg", "png16", "tiff16", "avif", "jxl"
MOST = 160  # pictures
BLOCKS = {
    "EXIF": ("IFD0", "ExifIFD", "InteropIFD"), "GPS": ("GPS",), "IPTC": ("IPTC",), "XMP": ("XMP",),
    "maker's notes": ("MakerNotes",), "profile": ("ICC",), "resources": (MARKED.split()[0].decode(),),
}  # fmt: skip
NOT_COMPARED = (
    "Orientation", "ImageWidth", "ImageHeight", "ExifImage", "PixelXDimension", "PixelYDimension",
    "Thumbnail", "Preview", "Strip", "Tile", "RowsPer", "BitsPerSample", "Compression", "Photometric",
    "Samples", "Planar",
    "SubIFD", "Predictor", "JPEG", "YCbCr", "Offset", "ByteOrder", "Resolution", "SubfileType", "IPTCDigest",
    "XMPToolkit", "FillOrder", "Transfer", "WhitePoint", "PrimaryChrom", "ReferenceBlackWhite", "PageNumber",
    "ExtraSamples", "SampleFormat", "ColorMap", "T4Options", "T6Options", "DocumentName", "Displayed",
    "PageName", "HalftoneHints", "InkNames", "InkSet", "Padding", "ImageLength", "XPosition", "YPosition",
)  # fmt: skip


def said(path: Path) -> dict[str, Counter[str]]:
    """Values by block."""
    asked = ["exiftool", "-json", "-a", "-G1:0", "-n", "-struct", path]
    told = subprocess.run(asked, capture_output=True, check=False).stdout
    found: dict[str, Counter[str]] = {block: Counter() for block in BLOCKS}
    for name, value in (json.loads(told)[0] if told else {}).items():
        groups, _, tag = name.rpartition(":")
        own = groups.split(":")
        if any(word in tag for word in NOT_COMPARED):
            continue
        for block, names in BLOCKS.items():
            if any(g == n or g.startswith((n + "-", n + "_")) for g in own for n in names):
                found[block][f"{tag}={value}"] += 1
                break
    return found


def main() -> None:
    warnings.simplefilter("ignore")
    came: dict[str, Counter[str]] = {f: Counter() for f in FORMATS}
    kept: dict[str, Counter[str]] = {f: Counter() for f in FORMATS}
    pictures = 0
    for path in sorted(p for p in FOLDER.rglob("*") if p.suffix.lower() in ENDINGS and p.is_file()):
        if pictures >= MOST:
            break
        before = said(path)
        if sum(sum(v.values()) for b, v in before.items() if b != "profile") < 3:
            continue
        try:
            photo = read_photo(path)
        except PhotoError:
            continue
        pictures += 1
        with tempfile.TemporaryDirectory() as folder:
            for file_format in FORMATS:
                _count(photo, file_format, Path(folder), before, came, kept)
    print(f"{pictures} pictures")
    print("| | " + " | ".join(FORMATS) + " |\n|" + "---|" * (len(FORMATS) + 1))
    for block in BLOCKS:
        counts = [f"{kept[f][block]} of {came[f][block]}" for f in FORMATS]
        print(f"| {block} | " + " | ".join(counts) + " |")


def _count(
    photo: Any,
    file_format: str,
    folder: Path,
    before: dict[str, Counter[str]],
    came: dict[str, Counter[str]],
    kept: dict[str, Counter[str]],
) -> None:
    wanted = Wanted(file_format, "srgb" if file_format == "jxl" else "keep")
    path = folder / f"x-{file_format}{SUFFIX[file_format]}"
    try:
        write_photo(path, exported(photo, wanted), file_format)
        after = said(path)
    except Exception as error:  # what is lost with it is lost
        print(file_format, repr(error)[:120])
        after = {block: Counter() for block in BLOCKS}
    for block, values in before.items():
        came[file_format][block] += sum(values.values())
        kept[file_format][block] += sum((values & after[block]).values())


if __name__ == "__main__":
    main()
