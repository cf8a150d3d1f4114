"""Making a recipe from places: what the command line does in one go and a person click by click."""

from collections.abc import Sequence
from pathlib import Path

import numpy as np

from nubilis.cast.direction import MeasuredPair, outvoted, same_cast
from nubilis.engine.engine import Engine
from nubilis.engine.sample import neutral_of, place_of, sampled
from nubilis.errors import PhotoError, RecipeError
from nubilis.mask.combine import Mask
from nubilis.mask.picture import Picture
from nubilis.mask.whole import Whole
from nubilis.photo.grey import grey_png
from nubilis.photo.picture import Photo
from nubilis.photo.read import read_header, read_photo
from nubilis.recipe.asset import Asset
from nubilis.recipe.document import Cast, Guard, Pair, Recipe, Sample
from nubilis.remedy.neutralise import Neutralise

Point = tuple[float, float]


def sample_at(engine: Engine, point: Point) -> Sample:
    """Measure a place given in pixels of the upright photo. Raises PlaceError."""
    return sampled(engine, place_of(engine.photo, *point))


def mask_picture(mask: Photo, photo: Photo) -> bytes:
    """A grey picture as the PNG that a part refers to. Raises RecipeError when it is of another size."""
    _check_size((mask.width, mask.height), photo)
    return grey_png(mask.codes[..., 1])


def read_mask(source: Path, photo: Photo) -> bytes:
    """The same of an imported file, which is decoded only if it is of the right size. Raises RecipeError,
    PhotoError."""
    try:
        with source.open("rb") as file:
            header = read_header(file)
    except OSError as error:
        raise PhotoError(f"cannot read {source}: {error.strerror}") from error
    turned = header.orientation in (5, 6, 7, 8)
    _check_size(header.size[::-1] if turned else header.size, photo)
    return mask_picture(read_photo(source), photo)


def _check_size(size: tuple[int, ...], photo: Photo) -> None:
    if tuple(size) != (photo.width, photo.height):
        width, height = size
        raise RecipeError(
            f"the mask is {width} x {height}, the photo {photo.width} x {photo.height}"
        )


def plan_fix(
    engine: Engine,
    tainted: Sequence[Point],
    references: Sequence[Point] = (),
    neutrals: Sequence[Point] = (),
    guards: Sequence[Point] = (),
    mask: Asset | None = None,
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
    part = Picture(id="mask", asset=mask) if mask else Whole(id="whole")
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


def _pairs(
    engine: Engine,
    tainted: Sequence[Point],
    references: Sequence[Point],
    neutrals: Sequence[Point],
) -> list[Pair]:
    if not tainted:
        return [
            with_made_neutral(f"pair-{i}", sample_at(engine, p)) for i, p in enumerate(neutrals, 1)
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
            pairs.append(with_made_neutral(name, sample))
    return pairs


def with_made_neutral(name: str, sample: Sample) -> Pair:
    made = Sample(at=None, rgb=neutral_of(sample.rgb), origin="neutral")
    return Pair(id=name, tainted=sample, reference=made)
