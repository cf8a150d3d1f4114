"""How near does `fix` come to the truth, and what does it move elsewhere?"""

from dataclasses import dataclass

import numpy as np

from bench.scenes import Scene, lab_of, tainted_scenes
from nubilis.colour.difference import difference_plane
from nubilis.engine import Engine
from nubilis.planning import plan_fix

CLEAN = 0.5  # ΔE2000 below which a pixel counts as never tainted


@dataclass(frozen=True)
class Score:
    """CIEDE2000 to the truth, mean and 95th percentile in the tainted area, before and after.

    outside: mean error added where there was no taint; lightness: mean |ΔL*| moved under the mask;
    share: of the mean taint that is left.
    """

    scene: str
    pairs: int
    before: float
    before95: float
    after: float
    after95: float
    outside: float
    lightness: float

    @property
    def share(self) -> float:
        return self.after / self.before


def score(scene: Scene, pairs: int) -> Score:
    """`fix` with the scene's own samples inside a loose mask. pairs: at least so many."""
    engine = Engine(scene.photo)
    tainted, references = scene.pairs(engine, pairs)
    mask = scene.loose_mask()
    recipe = plan_fix(engine, tainted, references, mask=mask)
    lab_before, lab_after = lab_of(scene.photo), lab_of(engine.deliver(recipe))
    error = difference_plane(lab_after, scene.lab_truth)
    bad, clean = scene.tainted, scene.error_before < CLEAN
    masked = mask.codes[..., 0] > 0
    return Score(
        scene.name,
        len(tainted),
        float(scene.error_before[bad].mean()),
        float(np.percentile(scene.error_before[bad], 95)),
        float(error[bad].mean()),
        float(np.percentile(error[bad], 95)),
        float((error - scene.error_before)[clean].mean()) if clean.any() else 0.0,
        float(np.abs((lab_after[0] - lab_before[0])[masked]).mean()),
    )


def report() -> list[str]:
    """Markdown lines."""
    lines = [
        "| scene | pairs | mean before | after | left | p95 before | after | outside | ΔL* |",
        "|---|---|---|---|---|---|---|---|---|",
    ]
    for least in (1, 3):
        scores = [score(s, least) for s in tainted_scenes()]
        lines += [_line(s) for s in scores]
        mean = np.mean([s.share for s in scores])
        worst = max(scores, key=lambda s: s.share)
        name = "one pair per cast" if least == 1 else "at least three pairs"
        lines.append(
            f"| **mean, {name}** | | | | **{mean:.2f}** (worst {worst.share:.2f}) | | | "
            f"{np.mean([s.outside for s in scores]):.2f} | {np.mean([s.lightness for s in scores]):.2f} |"
        )
    return lines


def _line(s: Score) -> str:
    return (
        f"| {s.scene} | {s.pairs} | {s.before:.1f} | {s.after:.1f} | {s.share:.2f} "
        f"| {s.before95:.1f} | {s.after95:.1f} | {s.outside:.2f} | {s.lightness:.2f} |"
    )
