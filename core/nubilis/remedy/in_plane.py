"""In the plane: colours are taken hold of in the a-b plane of OKLab and dragged; neighbours follow."""

from typing import Annotated, Any, ClassVar, Literal

import numpy as np
from pydantic import Field

from nubilis import kernel_types as of
from nubilis.arrays import Floats
from nubilis.kernels import between, compiled, constants_of_6, f32, kernel, smoothstep
from nubilis.recipe.model import Identifier, Model, Share
from nubilis.remedy.oklab_planes import room_to_move, to_oklab
from nubilis.remedy.remedy import Ground, Remedy
from nubilis.remedy.tint import matrices, relit
from nubilis.remedy.warp import GRID, HALF_RANGE, Warp, Way, between_unfolded, warp_through

WIDE = 0.09  # OKLab: how far a pull is down to a half
SOFT = 0.3  # of lightness, over which dark goes over into light
MOST_POINTS = 24
SHARES = (1.0, 0.8, 0.6, 0.4, 0.2, 0.0)
Reach = Literal["all", "dark", "light"]
Coordinate = Annotated[float, Field(ge=-0.45, le=0.45, allow_inf_nan=False)]
Light = Annotated[float, Field(ge=-0.3, le=0.3, allow_inf_nan=False)]


class Held(Model):
    """A colour that is dragged, or pinned where it ends where it starts. start, end: OKLab a, b; light: of
    OKLab lightness; loose: 0 holds to it, 1 follows its neighbours; reach: of dark tones, light ones, or
    all."""

    id: Identifier
    start: tuple[Coordinate, Coordinate]
    end: tuple[Coordinate, Coordinate]
    light: Light = 0.0
    loose: Share = 0.0
    reach: Reach = "all"


class InPlane(Remedy):
    """width: OKLab distance at which a pull is down to a half; crossover: OKLab lightness between dark and
    light."""

    title: ClassVar[str] = "in the plane"

    kind: Literal["in-plane"] = "in-plane"
    points: Annotated[tuple[Held, ...], Field(max_length=MOST_POINTS)] = ()
    width: Annotated[float, Field(ge=0.03, le=0.3, allow_inf_nan=False)] = WIDE
    crossover: Share = 0.55

    @property
    def apart(self) -> bool:
        """Whether dark and light go different ways."""
        return any(p.reach != "all" for p in self.points)

    def warps(self) -> tuple[Warp, Warp]:
        """Of dark and of light tones; with less of either where what lies between would fold."""
        for share in SHARES:
            dark, light = (
                warp_through(
                    tuple(self._way(p, share) for p in self.points if p.reach in ("all", reach)),
                    self.width,
                )
                for reach in ("dark", "light")
            )
            if not self.apart or between_unfolded(dark, light):
                break
        return dark, light

    def reached(self) -> dict[str, tuple[float, float]]:
        """Where each point comes to, by its id: short of its end where going on would fold the plane."""
        found: dict[str, tuple[float, float]] = {}
        for reach, warp in zip(("light", "dark"), reversed(self.warps()), strict=True):
            ids = [p.id for p in self.points if p.reach in ("all", reach)]
            found |= {i: (float(a), float(b)) for i, (a, b) in zip(ids, warp.reached, strict=True)}
        return found

    def _way(self, point: Held, share: float) -> Way:
        # Part of the effect is part of the way: a mean of two warps might fold where they do not.
        share *= self.amount
        (a0, b0), (a1, b1) = point.start, point.end
        end = a0 + share * (a1 - a0), b0 + share * (b1 - b0)
        return Way(point.start, end, share * point.light, point.loose)

    def applied(self, rgb: Floats, mask: Floats, ground: Ground) -> Floats:
        if all(p.start == p.end and p.light == 0.0 for p in self.points):
            return rgb
        dark, light = self.warps()
        tables = np.stack([dark.table, light.table])
        out = np.empty_like(rgb)
        m = matrices(ground.to_device)
        _warp(rgb.shape[1], rgb, mask, tables, f32(self.crossover), m, out)
        return out


@compiled
def _read(table: Any, iy: Any, ix: Any, ty: Any, tx: Any) -> Any:
    """A table between its four nearest entries."""
    top = table[iy, ix]
    top += tx * (table[iy, ix + 1] - top)
    below = table[iy + 1, ix]
    below += tx * (table[iy + 1, ix + 1] - below)
    return top + ty * (below - top)


@kernel(of.planes, of.plane, of.stack, of.real, of.planes, of.planes)
def _warp(rows: Any, rgb: Any, mask: Any, tables: Any, crossover: Any, m: Any, out: Any) -> None:
    m = constants_of_6(m)
    per = f32((GRID - 1) / (2.0 * HALF_RANGE))
    last = f32(GRID - 1.001)
    for y in range(*rows):
        for x in range(rgb.shape[2]):
            w = mask[y, x]
            r, g, b = rgb[0, y, x], rgb[1, y, x], rgb[2, y, x]
            if w > f32(0.0):
                light, a, c = to_oklab(m, r, g, b)
                fx = between((a + f32(HALF_RANGE)) * per, last)
                fy = between((c + f32(HALF_RANGE)) * per, last)
                ix, iy = np.uint32(fx), np.uint32(fy)
                tx, ty = fx - f32(ix), fy - f32(iy)
                lit = smoothstep((light - crossover) * f32(1.0 / SOFT) + f32(0.5))
                dark = (f32(1.0) - lit) * w
                lit *= w
                da = dark * _read(tables[0, 0], iy, ix, ty, tx)
                da += lit * _read(tables[1, 0], iy, ix, ty, tx)
                dc = dark * _read(tables[0, 1], iy, ix, ty, tx)
                dc += lit * _read(tables[1, 1], iy, ix, ty, tx)
                up = dark * _read(tables[0, 2], iy, ix, ty, tx)
                up += lit * _read(tables[1, 2], iy, ix, ty, tx)
                new = light + up * room_to_move(light)
                r, g, b = relit(m, r, g, b, light, new, a + da, c + dc)
            out[0, y, x], out[1, y, x], out[2, y, x] = r, g, b
