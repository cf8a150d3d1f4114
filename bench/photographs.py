"""Photographs that general packages carry, fetched for measuring and never shipped."""

import shutil
import subprocess
import sys
import zipfile
import zlib
from dataclasses import dataclass
from pathlib import Path

from bench.scenes import ROOT

STORE = ROOT / "var/bench/photographs"


@dataclass(frozen=True)
class Source:
    """A Debian package, and which of its pictures are photographs in colour."""

    package: str
    folder: str
    files: tuple[str, ...]


MATE = "Aqua Blinds Dune FreshFlower Garden GreenMeadow LadyBird RainDrops Storm TwoWings Wood YellowFlower"
UKUI = (
    "calla.png city.png desert.png goldfish.png rhythm.jpg rollpaper.png string.jpg the-mouse.jpg"
)
LOMIRI = (
    "Bridge_by_Sander_Klootwijk Dragonfly_by_Bolly Picture_0B_by_freespace Picture_1A_by_freespace "
    "Wine_by_Jakkub_Mede aitzgorri_by_Aitzol_Berasategi free_by_Peter_Nerlich "
    "friends_by_Aitzol_Berasategi greentock_by_Peter_Nerlich life_by_Aitzol_Berasategi "
    "picosdeeuropa_by_Aitzol_Berasategi seeding_by_Clements_Engelhardt sunset_by_Aitzol_Berasategi"
)
PLASMA = "BytheWater ColorfulCups EveningGlow FallenLeaf Kite OneStandsOut Path Volna summer_1am"
OPENCV = (
    "alphamat/input_images/plant.jpg reg/home.png dnn_superres/butterfly.png hfs/data/000.jpg "
    "data/aero1.jpg data/aloeL.jpg data/apple.jpg data/baboon.jpg data/board.jpg data/building.jpg "
    "data/butterfly.jpg data/chicky_512.png data/ela_original.jpg data/fruits.jpg data/graf1.png "
    "data/home.jpg data/leuvenA.jpg data/messi5.jpg data/orange.jpg data/rubberwhale1.png "
    "data/squirrel_cls.jpg text/scenetext01.jpg text/scenetext02.jpg text/scenetext03.jpg "
    "text/scenetext04.jpg text/scenetext05.jpg text/scenetext06.jpg"
)
BACKGROUNDS = "usr/share/backgrounds"
# Looked at while the method was chosen: they can only be in the tuning half.
SEEN = (
    Source("mate-backgrounds", f"{BACKGROUNDS}/mate/nature", tuple(f"{n}.jpg" for n in MATE.split())),
    Source("ukui-wallpapers", BACKGROUNDS, tuple(UKUI.split())),
)  # fmt: skip
FURTHER = (
    Source("lomiri-wallpapers-16.04", BACKGROUNDS, tuple(f"{n}.jpg" for n in LOMIRI.split())),
    Source("lomiri-wallpapers-20.04", BACKGROUNDS, ("Kleiber_by_Lukas_Baubkus.jpg",)),
    Source("plasma-workspace-wallpapers", "usr/share/wallpapers",
           tuple(f"{n}/contents/images/*.jpg" for n in PLASMA.split())),
    Source("opencv-doc", "usr/share/doc/opencv-doc/examples", tuple(OPENCV.split())),
)  # fmt: skip
WHEEL = "scikit-image"
IN_WHEEL = ("astronaut.png", "chelsea.png", "coffee.png", "motorcycle_left.png", "rocket.jpg")
SMALLEST = 20_000  # bytes: below it a picture is a thumbnail


@dataclass(frozen=True)
class Photograph:
    """for_test: not to be looked at while anything is tuned."""

    path: Path
    for_test: bool

    @property
    def name(self) -> str:
        return self.path.stem


def photographs() -> list[Photograph]:
    """Fetch once, then list. What cannot be fetched is left out, and said."""
    seen, further = STORE / "seen", STORE / "further"
    for store, sources in ((seen, SEEN), (further, FURTHER)):
        for source in sources:
            _once(store / source.package, lambda to, source=source: _from_debian(source, to))  # type: ignore[misc]
    _once(seen / WHEEL, _from_wheel)
    listed = [Photograph(p, for_test=False) for p in seen.glob("*/*")]
    # Two of three of the others, by their names.
    listed += [Photograph(p, zlib.crc32(p.stem.encode()) % 3 != 0) for p in further.glob("*/*")]
    return sorted(listed, key=lambda p: p.name)


def _once(to: Path, fetch) -> None:  # type: ignore[no-untyped-def]
    if to.is_dir():
        return
    partial = to.with_name(to.name + ".partial")
    shutil.rmtree(partial, ignore_errors=True)
    partial.mkdir(parents=True)
    try:
        fetch(partial)
        partial.rename(to)
    except (OSError, subprocess.CalledProcessError) as error:
        print(f"nubilis: {to.name} could not be fetched: {error}", file=sys.stderr)


def _from_debian(source: Source, to: Path) -> None:
    folder = STORE / source.package
    shutil.rmtree(folder, ignore_errors=True)
    folder.mkdir(parents=True)
    command = ["apt-get", "download", "-q", source.package]
    subprocess.run(command, cwd=folder, check=True, capture_output=True)
    (package,) = folder.glob("*.deb")
    subprocess.run(["dpkg-deb", "-x", package.name, "."], cwd=folder, check=True)
    for pattern in source.files:
        copies = [f for f in (folder / source.folder).glob(pattern) if f.stat().st_size > SMALLEST]
        if copies:  # of several sizes, the least that is large enough
            smallest = min(copies, key=lambda f: f.stat().st_size)
            name = pattern.split("/")[0] if "*" in pattern else smallest.stem
            shutil.copy(smallest, to / (name + smallest.suffix))
    shutil.rmtree(folder)


def _from_wheel(to: Path) -> None:
    command = [sys.executable, "-m", "pip", "download", "-q", "--no-deps", "-d", str(to), WHEEL]
    subprocess.run(command, check=True, capture_output=True)
    (wheel,) = to.glob("*.whl")
    with zipfile.ZipFile(wheel) as archive:
        for name in IN_WHEEL:
            member = f"skimage/data/{name}"
            if member in archive.namelist():
                (to / name).write_bytes(archive.read(member))
    wheel.unlink()
