"""docs/zones.svg: a ramp of greys under opposite moves of its ends, as the remedy leaves it."""

import numpy as np

from bench.scenes import ROOT
from nubilis.arrays import Floats
from nubilis.colour.cielab import lab_planes
from nubilis.colour.oklab import oklab_to_linear_rgb
from nubilis.colour.profile import srgb
from nubilis.engine.engine import Engine
from nubilis.mask.combine import Mask
from nubilis.mask.whole import Whole
from nubilis.photo.picture import Photo
from nubilis.photo.pyramid import View
from nubilis.photo.sampling import encode
from nubilis.recipe.document import Cast, Recipe
from nubilis.remedy.zones import Zones, weights

STEPS = 512
HIGH, WIDE = 150, 640
MOVES = {
    "shadows_yellow": -0.06,
    "lights_yellow": 0.06,
    "shadows_light": -0.05,
    "lights_light": 0.05,
}


def ramp() -> tuple[Floats, Floats]:
    """CIELAB (3, STEPS) of greys, even in OKLab lightness, before and after."""
    light = np.linspace(0.0, 1.0, STEPS)
    grey = oklab_to_linear_rgb(np.stack([light, 0 * light, 0 * light], axis=1)).T
    codes = encode(np.ascontiguousarray(grey[:, None], dtype=np.float32), srgb())
    engine = Engine(Photo(codes, srgb()))
    cast = Cast(id="c", mask=Mask(parts=(Whole(id="w"),)), remedies=(Zones(id="z", **MOVES),))
    view = View((STEPS, 1), (0, 0, STEPS, 1))
    planes = engine.untouched(view), engine.render(Recipe(casts=(cast,)), view)
    before, after = (lab_planes(p)[:, 0] for p in planes)
    return before, after


def _line(values: Floats, low: float, high: float, top: float, style: str) -> str:
    xs = np.linspace(0.0, WIDE, len(values))
    ys = top + HIGH * (1.0 - (np.asarray(values) - low) / (high - low))
    points = " ".join(f"{x:.1f},{y:.1f}" for x, y in zip(xs, ys, strict=True))
    return f'<polyline points="{points}" fill="none" stroke="#161616" {style}/>'


def svg() -> str:
    before, after = ramp()
    joints = (Zones.model_fields[n].default for n in ("low", "high"))
    shares = weights(np.linspace(0.0, 1.0, STEPS), *joints)
    rows = [
        ("shares of shadows, mids, lights", [(s, 0.0, 1.0) for s in shares]),
        ("L* before (dashed) and after", [(before[0], 0.0, 100.0), (after[0], 0.0, 100.0)]),
        ("b* before (dashed) and after", [(before[2], -25.0, 25.0), (after[2], -25.0, 25.0)]),
    ]
    drawn = []
    for i, (title, lines) in enumerate(rows):
        top = 30.0 + i * (HIGH + 40)
        drawn.append(f'<text x="0" y="{top - 8:.0f}" font-size="13">{title}</text>')
        drawn.append(
            f'<rect y="{top}" width="{WIDE}" height="{HIGH}" fill="none" stroke="#9a9a9a"/>'
        )
        for j, (values, low, high) in enumerate(lines):
            style = 'stroke-dasharray="4 3"' if i and j == 0 else ""
            drawn.append(_line(values, low, high, top, style))
    high = len(rows) * (HIGH + 40) + 10
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="-10 0 {WIDE + 20} {high}" width="{WIDE + 20}" '
        f'font-family="sans-serif">{"".join(drawn)}</svg>\n'
    )


if __name__ == "__main__":
    (ROOT / "docs/zones.svg").write_text(svg())
