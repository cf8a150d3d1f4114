"""Compile every kernel for every type it meets, into the cache on disk."""

import sys

import numpy as np

from nubilis.arrays import Codes
from nubilis.colour.profile import srgb
from nubilis.engine.engine import Engine
from nubilis.engine.overlay import Show, display
from nubilis.find.look import look
from nubilis.library.looks import OWN, own_table
from nubilis.mask.brush import Brush, Stroke
from nubilis.mask.colour_key import ColourKey, Range
from nubilis.mask.combine import Mask
from nubilis.mask.guess import Guess
from nubilis.mask.oval import Oval
from nubilis.mask.path import Node, Path
from nubilis.mask.ramp import Ramp
from nubilis.mask.refine import Refine
from nubilis.mask.similar import Similar
from nubilis.mask.snap import Scribble, Snap
from nubilis.photo.picture import Photo
from nubilis.photo.pyramid import View
from nubilis.planning import plan_fix
from nubilis.proof.casts import prove
from nubilis.proof.compare import compare
from nubilis.proof.scopes import scopes
from nubilis.recipe.asset import Bundle
from nubilis.recipe.document import Recipe, Touch
from nubilis.remedy.by_hue import ByHue, HuePoint
from nubilis.remedy.calm import Calm
from nubilis.remedy.channel_mix import ChannelMix
from nubilis.remedy.curves import Curves
from nubilis.remedy.even_out import EvenOut
from nubilis.remedy.glaze import Glaze
from nubilis.remedy.in_plane import Held, InPlane
from nubilis.remedy.look import Look as PhotoLook
from nubilis.remedy.match import Match
from nubilis.remedy.recolour import Recolour
from nubilis.remedy.restore import Restore
from nubilis.remedy.shift import Shift
from nubilis.remedy.tone import Tone
from nubilis.remedy.wash import Wash, WashStroke
from nubilis.remedy.zones import Zones
from nubilis.series.follow import Series
from nubilis.series.frame import frame_of
from nubilis.settle.base import Base

SIZE = (401, 1101, 3)  # wider than a tile of delivery, whose rows lie apart in memory


def warm(what: str) -> None:
    """Run small jobs at both bit depths: "remedies", "masks" with all that is looked for, or all of it."""
    for bits in (8, 16):
        files = Bundle()
        engine = Engine(Photo(noise(bits), srgb()), assets=files)
        recipe = plan_fix(engine, [(20.0, 20.0)], guards=[(60.0, 60.0)])
        if what != "masks":
            _remedies(engine, recipe, files)
        if what != "remedies":
            _masks(engine, recipe)


def noise(bits: int) -> Codes:
    """(h, w, 3) at random."""
    codes = np.random.default_rng(1).integers(0, 2**bits - 1, SIZE)
    return codes.astype(np.uint8) if bits == 8 else codes.astype(np.uint16)


def _remedies(engine: Engine, recipe: Recipe, files: Bundle) -> None:
    """Every kind, the base and a look, seen and delivered."""
    one = WashStroke(id="1", size=0.3, points=(((0.3, 0.2), 1.0),), tone=(0.4, 0.2, 0.1))
    strokes = (
        one,
        one.model_copy(update={"id": "2", "edges": True}),
        one.model_copy(update={"id": "3", "erase": True}),
    )
    remedies = (
        *recipe.casts[0].remedies,
        Match(id="m"),
        Shift(id="s", hue=10.0),
        EvenOut(id="e", target=(0.3, 0.3, 0.2), lightness=0.5),
        Recolour(id="c", target=(0.1, 0.2, 0.3)),
        Wash(id="w", strokes=strokes),
        Glaze(id="g", target=(0.4, 0.2, 0.1)),
        Zones(id="z", shadows_red=0.05),
        Tone(id="t", contrast=0.2, local=0.5, detail=0.5),
        Calm(id="n", lightness=2.0),
        ByHue(id="h", points=(HuePoint(id="1", hue=40.0, saturation=0.2),)),
        InPlane(id="p", points=(Held(id="1", start=(0.1, 0.0), end=(0.1, 0.05)),)),
        Curves(id="k", lightness=((0.5, 0.6),), red=((0.5, 0.4),)),
        ChannelMix(id="x", red=(0.8, 0.2, 0.0), hold_luminance=True),
        Restore(id="r", amount=0.5),
    )
    more = {"remedies": remedies, "touches": (Touch(id="t", at=(0.3, 0.2), amount=0.5),)}
    laid = PhotoLook(table=files.keep_table(own_table(OWN[0].name)))
    casts = (recipe.casts[0].model_copy(update=more),)
    treated = Recipe(casts=casts, base=Base(temperature=5000.0), look=laid)
    prove(engine, treated)
    compare(engine.photo, engine.deliver(treated), np.zeros(SIZE[:2], dtype=bool))


def _masks(engine: Engine, recipe: Recipe) -> None:
    """Every kind of part, every way to show it, and what is looked for by itself."""
    any_range = Range(core=(0.0, 100.0), fade=(10.0, 10.0))
    parts = (
        Brush(id="b", strokes=(Stroke(size=0.5, points=(((0.3, 0.3), 1.0), ((0.5, 0.3), 0.5))),)),
        Brush(id="e", strokes=(Stroke(size=0.2, points=(((0.5, 0.2), 1.0),), edges=True),)),
        Ramp(id="r", full=(0.2, 0.2), none=(0.5, 0.3)),
        Oval(id="o", centre=(0.4, 0.2), radii=(0.3, 0.2)),
        Path(id="p", nodes=(Node(at=(0.1, 0.1)), Node(at=(0.4, 0.2)), Node(at=(0.2, 0.3)))),
        ColourKey(
            id="k",
            hue=any_range,
            saturation=any_range,
            luminance=any_range,
            left_out=((0.5, 0.1, 0.1),),
        ),
        Snap(id="n", loop=((0.2, 0.1), (0.4, 0.1), (0.3, 0.3))),
        Snap(id="m", this=(Scribble(points=((0.3, 0.2),)),)),
        Similar(id="s", seeds=((0.4, 0.2),)),
        Guess(id="g", of="subject"),
    )
    mask = Mask(parts=parts, refine=Refine(follow=0.01))
    masked = recipe.model_copy(
        update={"casts": (recipe.casts[0].model_copy(update={"mask": mask}),)}
    )
    for show in Show:
        display(engine, masked, View.fit(engine.photo, 300), show, masked.casts[0].id)
    display(engine, masked, View((225, 100), (0, 0, 50, 50)), Show.NOW, None)
    look(engine)
    scopes(engine, masked)
    frame = frame_of(engine.sight())
    shape = np.zeros(frame.shape, dtype=np.float32)
    shape[40:80, 40:80] = 1.0
    Series(2, lambda _: frame).follow({0: shape})


if __name__ == "__main__":
    warm(sys.argv[1] if len(sys.argv) > 1 else "all")
