"""Files that nobody here made: the test pictures of image libraries, out of their source packages.

By hand: .venv/bin/python -m bench.foreign. Fetches source packages of Debian into var/foreign (about 80 MB),
reads every picture, compares it with what Pillow and LittleCMS make of it, exports a tenth of them in every
format, and prints a table. Nothing of it belongs into the project.
"""

import io
import re
import subprocess
import tempfile
import warnings
from collections import Counter, defaultdict
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

import numpy as np
from PIL import Image, ImageCms, ImageOps

from launch.common import VAR
from nubilis.arrays import Floats
from nubilis.colour.rgb import REC2020_TO_SRGB, linear_to_srgb
from nubilis.errors import PhotoError
from nubilis.photo.export import Wanted, exported
from nubilis.photo.picture import Photo
from nubilis.photo.read import read_photo
from nubilis.photo.sampling import decode
from nubilis.photo.write import SUFFIX, write_photo

FOLDER = VAR / "foreign"
PACKAGES = "pillow", "libpng1.6", "tiff", "libjpeg-turbo", "libheif", "exiv2"
ENDINGS = {
    ".jpg",
    ".jpeg",
    ".mpo",
    ".png",
    ".tif",
    ".tiff",
    ".webp",
    ".avif",
    ".heic",
    ".heif",
    ".jxl",
}
LONG_EDGE = 512
WITHIN = 3.0  # of 255, on the average
EVERY = 10


@dataclass(frozen=True)
class Verdict:
    """what: a word for the table; note: what somebody would look at."""

    what: str
    note: str = ""


def fetched() -> list[Path]:
    """Pictures of all packages, fetched and unpacked once."""
    FOLDER.mkdir(parents=True, exist_ok=True)
    if not any(FOLDER.glob("*.orig.tar.*")):
        _fetch()
        for archive in FOLDER.glob("*.orig.tar.*"):
            subprocess.run(["tar", "xf", archive.name], cwd=FOLDER, check=True)
    return sorted(p for p in FOLDER.rglob("*") if p.suffix.lower() in ENDINGS and p.is_file())


def _fetch() -> None:
    """With lists of source packages beside the machine's own."""
    lists = FOLDER / "lists"
    (lists / "partial").mkdir(parents=True, exist_ok=True)
    sources = FOLDER / "debian.sources"
    own = Path("/etc/apt/sources.list.d/debian.sources").read_text()
    sources.write_text(re.sub(r"(?m)^Types:.*", "Types: deb-src", own))
    apt = [
        "apt-get",
        "-o",
        f"Dir::Etc::sourcelist={sources}",
        "-o",
        "Dir::Etc::sourceparts=/dev/null",
    ]
    apt += ["-o", f"Dir::State::lists={lists}"]
    subprocess.run([*apt, "update"], cwd=FOLDER, check=True)
    subprocess.run([*apt, "source", "--download-only", *PACKAGES], cwd=FOLDER, check=True)


def judged(path: Path) -> tuple[Verdict, Photo | None]:
    try:
        photo = read_photo(path)
    except PhotoError as error:
        known = _known(path, 1)
        return Verdict(
            "refused, others read it" if known is not None else "refused", str(error)
        ), None
    except Exception as error:  # that is what is looked for
        return Verdict("CRASH", repr(error)), None
    step = max(max(photo.codes.shape[:2]) // LONG_EDGE, 1)
    known = _known(path, step)
    seen = _seen(photo, step)
    if known is None or known.shape != seen.shape:
        return Verdict("not compared" if known is None else "OTHER SHAPE"), photo
    off = float(np.abs(seen - known).mean()) * 255.0
    return Verdict(
        "same" if off < WITHIN else "differs", f"by {off:.1f}: {photo.profile.name}"
    ), photo


def _seen(photo: Photo, step: int) -> Floats:
    """sRGB 0..1 of every so many pixels."""
    light = decode(np.ascontiguousarray(photo.codes[::step, ::step]), photo.profile)
    rgb = np.clip(np.moveaxis(light, 0, -1) @ REC2020_TO_SRGB.T, 0.0, 1.0)
    return np.asarray(linear_to_srgb(rgb), dtype=np.float32)


def _known(path: Path, step: int) -> Floats | None:
    """The same by others; None where they read nothing, or nothing that can be compared."""
    try:
        image: Image.Image = Image.open(path)
        image.load()
        gamma = image.info.get("gamma") if image.format == "PNG" else None
        icc, named = image.info.get("icc_profile"), image.info.get("srgb") is not None
        if image.format not in ("HEIF", "AVIF"):
            image = ImageOps.exif_transpose(image)
        if image.mode.startswith("I"):
            rgb = np.repeat(np.asarray(image)[..., None] / 65535.0, 3, axis=2)
        elif image.mode in ("F", "CMYK", "LAB"):
            return None
        else:
            plain = image.convert("RGBA").convert("RGB")
            if icc and image.mode in ("RGB", "RGBA"):
                plain = _by_profile(plain, icc)
            rgb = np.asarray(plain) / 255.0
    except Exception:  # whatever another reader raises for a file
        return None
    if gamma and not icc and not named:
        rgb = np.clip(linear_to_srgb(rgb ** (1.0 / gamma)), 0.0, 1.0)
    return np.asarray(rgb[::step, ::step], dtype=np.float32)


def _by_profile(image: Image.Image, icc: bytes) -> Image.Image:
    source = ImageCms.ImageCmsProfile(io.BytesIO(icc))
    done = ImageCms.profileToProfile(
        image, source, ImageCms.createProfile("sRGB"),
        renderingIntent=ImageCms.Intent.RELATIVE_COLORIMETRIC, outputMode="RGB",
    )  # fmt: skip
    assert done is not None
    return done


def exported_in_all(photo: Photo) -> Iterator[str]:
    """What goes wrong."""
    with tempfile.TemporaryDirectory() as folder:
        for file_format in (f for f in SUFFIX if f != "ora"):
            wanted = Wanted(file_format, "srgb" if file_format.startswith("jxl") else "keep")
            path = Path(folder) / f"x{SUFFIX[file_format]}"
            try:
                write_photo(path, exported(photo, wanted), file_format)
                back = read_photo(path)
            except Exception as error:  # that is what is looked for
                yield f"{file_format}: {error!r}"
                continue
            if (back.width, back.height) != (photo.width, photo.height):
                yield f"{file_format}: of another size"


def main() -> None:
    warnings.simplefilter("ignore")
    table: dict[str, Counter[str]] = defaultdict(Counter)
    for number, path in enumerate(fetched()):
        verdict, photo = judged(path)
        table[path.suffix.lower()][verdict.what] += 1
        faults = list(exported_in_all(photo)) if photo and number % EVERY == 0 else []
        if faults or verdict.what not in ("same", "refused", "not compared"):
            print(f"{verdict.what}: {path.relative_to(FOLDER)}: {verdict.note} {'; '.join(faults)}")
    words = sorted({word for counts in table.values() for word in counts})
    print("\n| | " + " | ".join(words) + " |\n|" + "---|" * (len(words) + 1))
    for ending, counts in sorted(table.items()):
        print(f"| {ending} | " + " | ".join(str(counts[word]) for word in words) + " |")


if __name__ == "__main__":
    main()
