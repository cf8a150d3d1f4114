"""Making a recipe from places: what the command line does in one go and a person click by click."""

import base64
from collections.abc import Sequence
from typing import Any

import imagecodecs
import numpy as np
import numpy.typing as npt

from nubilis.engine import Engine
from nubilis.errors import RecipeError
from nubilis.find.finding import Finding
from nubilis.mask.combine import AnyPart, Mask
from nubilis.mask.picture import Picture
from nubilis.mask.whole import Whole
from nubilis.photo.picture import Photo
from nubilis.recipe.document import Cast, Guard, Pair, Recipe, Sample
from nubilis.remedy.direction import Pair as MeasuredPair
from nubilis.remedy.direction import outvoted, same_cast
from nubilis.remedy.neutralise import Neutralise, take_off
from nubilis.sample import DEFAULT_RADIUS, measure_place, neutral_of, place_of

Point = tuple[float, float]
# `fix --auto`, at whose findings nobody looks: only what is more likely right than wrong.
AUTO_AMOUNT, AUTO_CONFIDENCE = 1.0, 0.5
FOUND_RADIUS = 0.012  # of the long edge: a finding's patch is flat, and an average of it is calmer
ADOPTED_AMOUNT = 0.7  # of a finding adopted on the screen, where it is about to be adjusted
_ONE = np.ones((1, 1), dtype=np.float32)


def sample_at(engine: Engine, point: Point) -> Sample:
    """Measure a place given in pixels of the upright photo. Raises PlaceError."""
    return _sample_of(engine, place_of(engine.photo, *point))


def mask_part(mask: Photo, photo: Photo, part_id: str = "mask") -> AnyPart:
    """An imported grey picture as a part. Raises RecipeError when it is of another size."""
    if (mask.width, mask.height) != (photo.width, photo.height):
        raise RecipeError(
            f"the mask is {mask.width} x {mask.height}, the photo {photo.width} x {photo.height}"
        )
    return _grey_part(mask.codes[..., 1], part_id)


def _grey_part(grey: npt.NDArray[Any], part_id: str = "mask") -> Picture:
    """grey: uint8 or uint16 (h, w)."""
    png = base64.b64encode(imagecodecs.png_encode(np.ascontiguousarray(grey), level=6)).decode()
    return Picture(id=part_id, png=png)


def plan_fix(
    engine: Engine,
    tainted: Sequence[Point],
    references: Sequence[Point] = (),
    neutrals: Sequence[Point] = (),
    guards: Sequence[Point] = (),
    mask: Photo | None = None,
    amount: float = 1.0,
) -> Recipe:
    """A recipe that neutralises what the places show.

    The i-th tainted place belongs to the i-th reference. Tainted places beyond the references belong to
    the neutral of nearest lightness, or, without any, to a made neutral. Neutral places alone are
    themselves what should be grey. Pairs that point more than 30 degrees apart become separate casts, but one
    that contradicts the others stays with them and is outvoted.
    Raises PlaceError, RecipeError.
    """
    if len(references) > len(tainted):
        raise RecipeError("more references than tainted places: each needs a partner")
    if not tainted and not neutrals:
        raise RecipeError("nothing to neutralise: give --tainted or --neutral, or --auto")
    pairs = _pairs(engine, tainted, references, neutrals)
    held = tuple(
        Guard(id=f"guard-{i}", sample=sample_at(engine, p)) for i, p in enumerate(guards, 1)
    )
    part = mask_part(mask, engine.photo) if mask else Whole(id="whole")
    measured = [m for p in pairs if (m := p.measured()) is not None]
    casts = [
        Cast(
            id=f"cast-{n}",
            name=f"Cast {chr(64 + n)}",
            pairs=tuple(pairs[i] for i in group),
            guards=held,
            mask=Mask(parts=(part,)),
            remedies=(Neutralise(id="neutralise", amount=amount),),
        )
        for n, group in enumerate(_groups(measured), 1)
    ]
    return Recipe(casts=tuple(casts))


def _groups(pairs: list[MeasuredPair]) -> list[list[int]]:
    """Which pairs make a cast together; one that is outvoted stays with those that outvote it."""
    contrary = outvoted(pairs)
    heard = [i for i in range(len(pairs)) if i not in contrary]
    groups = [[heard[j] for j in group] for group in same_cast([pairs[i] for i in heard])]
    max(groups, key=len).extend(sorted(contrary))
    return groups


def sure_enough(found: Sequence[Finding]) -> list[Finding]:
    """The findings that may be adopted without anybody looking."""
    return [f for f in found if f.confidence >= AUTO_CONFIDENCE]


def plan_findings(engine: Engine, found: Sequence[Finding], amount: float) -> Recipe:
    """A recipe that adopts findings, each with its own samples and mask."""
    return Recipe(casts=tuple(cast_of(engine, finding, amount) for finding in found))


def cast_of(engine: Engine, finding: Finding, amount: float) -> Cast:
    """A finding adopted, ready to be adjusted. Without a reference in the photo, what the tainted place
    would be is made."""
    tainted = _sample_of(engine, finding.tainted, FOUND_RADIUS)
    if finding.reference is not None:
        reference = _sample_of(engine, finding.reference, FOUND_RADIUS)
    else:
        colour = np.array(tainted.rgb, dtype=np.float32).reshape(3, 1, 1)
        red, green, blue = (float(v) for v in take_off(colour, _ONE, _ONE, finding.shift).ravel())
        reference = Sample(at=None, rgb=(red, green, blue))
    return Cast(
        id=finding.id,
        name=f"{finding.towards.capitalize()} cast",
        pairs=(Pair(id="pair-1", tainted=tainted, reference=reference),),
        mask=Mask(parts=(_grey_part((finding.mask * 255.0 + 0.5).astype(np.uint8)),)),
        remedies=(Neutralise(id="neutralise", amount=amount),),
    )


def _sample_of(engine: Engine, at: tuple[float, float], radius: float = DEFAULT_RADIUS) -> Sample:
    measured = measure_place(engine, at, radius)
    return Sample(
        at=at, radius=radius, rgb=measured.rgb, spread=measured.spread, count=measured.count
    )


def _pairs(
    engine: Engine,
    tainted: Sequence[Point],
    references: Sequence[Point],
    neutrals: Sequence[Point],
) -> list[Pair]:
    if not tainted:
        return [
            _with_made_neutral(f"pair-{i}", sample_at(engine, p)) for i, p in enumerate(neutrals, 1)
        ]
    clean = [sample_at(engine, p) for p in neutrals]
    pairs = []
    for i, point in enumerate(tainted):
        sample, name = sample_at(engine, point), f"pair-{i + 1}"
        if i < len(references):
            pairs.append(Pair(id=name, tainted=sample, reference=sample_at(engine, references[i])))
        elif clean:
            gaps = [abs(MeasuredPair(sample.rgb, c.rgb).lightness_gap) for c in clean]
            pairs.append(Pair(id=name, tainted=sample, reference=clean[int(np.argmin(gaps))]))
        else:
            pairs.append(_with_made_neutral(name, sample))
    return pairs


def _with_made_neutral(name: str, sample: Sample) -> Pair:
    made = Sample(at=None, rgb=neutral_of(sample.rgb), origin="neutral")
    return Pair(id=name, tainted=sample, reference=made)
