"""The verb of the simulated camera."""

import argparse
import os
from pathlib import Path

from nubilis.camera.shoot import shoot
from nubilis.errors import NubilisError

# The demo's photos, wherever the product says that they are.
SCENES = "NUBILIS_SCENES"
MOST = 10_000


def camera_arguments(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("--out-dir", type=Path, required=True)
    parser.add_argument("--frames", type=int, metavar="N", help="as many as there are scenes")
    parser.add_argument("--every", type=float, default=0.0, metavar="SECONDS")
    parser.set_defaults(run=_camera)


def _camera(options: argparse.Namespace) -> None:
    scenes = sorted(Path(os.environ.get(SCENES, "demo/photos")).glob("*.png"))
    frames = len(scenes) if options.frames is None else options.frames
    if not 0 < frames <= MOST or not 0.0 <= options.every <= 3600.0:
        raise NubilisError(f"--frames must be within 1..{MOST}, --every within 0..3600")
    options.out_dir.mkdir(parents=True, exist_ok=True)
    for path in shoot(scenes, options.out_dir, frames, options.every):
        print(path, flush=True)
