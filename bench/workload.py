"""Photos and recipes of the sizes that the budgets speak of."""

import cv2
import numpy as np

from bench.scenes import Scene
from nubilis.engine.engine import Engine
from nubilis.mask.brush import Brush, Stroke
from nubilis.mask.colour_key import key_around
from nubilis.mask.combine import Mask
from nubilis.photo.picture import Photo
from nubilis.planning import sample_at
from nubilis.recipe.document import Cast, Pair, Recipe
from nubilis.remedy.calm import Calm
from nubilis.remedy.glaze import Glaze
from nubilis.remedy.kinds import AnyRemedy
from nubilis.remedy.neutralise import Neutralise
from nubilis.remedy.recolour import Recolour
from nubilis.remedy.tone import Tone
from nubilis.remedy.wash import Wash, WashStroke
from nubilis.remedy.zones import Zones

# Tainted and reference places of the curtain scene, in its own pixels.
PLACES = (((365, 424), (468, 527)), ((336, 772), (1111, 714)), ((191, 410), (1075, 494)))
SCENE_EDGE = 1200


def large_photo(width: int, height: int, bits: int = 8) -> Photo:
    """The curtain scene enlarged, with grain, so that it encodes like a photo."""
    small = Scene("d1-curtain-spill").photo
    codes = cv2.resize(small.codes, (width, height), interpolation=cv2.INTER_CUBIC)
    rng = np.random.default_rng(1)
    for y in range(0, height, 512):
        rows = codes[y : y + 512]
        grain = rng.normal(0.0, 3.0, rows.shape[:2])[..., None]
        rows[:] = np.clip(rows + grain, 0, 255).astype(np.uint8)
    if bits == 16:
        codes = codes.astype(np.uint16) * np.uint16(257)
    return Photo(np.ascontiguousarray(codes), small.profile)


def three_casts(photo: Photo, engine: Engine | None = None) -> Recipe:
    """Three casts, each a loose brush times a tight colour key."""
    engine = engine or Engine(photo)
    scale = photo.long_edge / SCENE_EDGE
    casts = []
    for i, (tainted, reference) in enumerate(PLACES):
        one, two = (sample_at(engine, (x * scale, y * scale)) for x, y in (tainted, reference))
        x, y = (v / SCENE_EDGE for v in tainted)
        stroke = Stroke(size=0.25, feather=0.6, points=(((x, y - 0.1), 1.0), ((x, y + 0.1), 1.0)))
        key = key_around([one.rgb], "key").model_copy(update={"join": "intersect"})
        casts.append(
            Cast(
                id=f"cast-{i}",
                pairs=(Pair(id="pair", tainted=one, reference=two),),
                mask=Mask(parts=(Brush(id="brush", strokes=(stroke,)), key)),
                remedies=(Neutralise(id="remedy"),),
            )
        )
    return Recipe(casts=tuple(casts))


def with_every_kind(recipe: Recipe) -> Recipe:
    """Three remedies on every cast, every kind once; what is dragged comes first."""
    x, y = (v / SCENE_EDGE for v in PLACES[0][0])
    strokes = tuple(
        WashStroke(id=f"s{i}", size=0.1, tone=(0.3, 0.25, 0.2), points=(((x, y + 0.01 * i), 1.0),))
        for i in range(20)
    )
    more: tuple[tuple[AnyRemedy, ...], ...] = (
        (Recolour(id="b", target=(0.2, 0.25, 0.3)), Wash(id="c", strokes=strokes)),
        (Tone(id="b", contrast=0.2, local=0.4), Glaze(id="c", target=(0.4, 0.25, 0.15))),
        (Zones(id="b", shadows_yellow=-0.02, lights_red=0.01), Calm(id="c")),
    )
    casts = (
        c.model_copy(update={"remedies": (*c.remedies, *others)})
        for c, others in zip(recipe.casts, more, strict=True)
    )
    return recipe.model_copy(update={"casts": tuple(casts)})


def with_amount(recipe: Recipe, amount: float) -> Recipe:
    """The last cast's amount moved, as a dragged handle does."""
    last = recipe.casts[-1]
    remedies = (last.remedies[0].model_copy(update={"amount": amount}), *last.remedies[1:])
    return recipe.model_copy(
        update={"casts": (*recipe.casts[:-1], last.model_copy(update={"remedies": remedies}))}
    )
