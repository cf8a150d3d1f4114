"""The recipe: what is wrong with a photo and what is done about it. Format described in docs/recipe.md."""

from collections.abc import Callable
from typing import Annotated, Any, Literal

from pydantic import Field, field_validator, model_validator

from nubilis.cast.chroma import levelled
from nubilis.cast.direction import MeasuredPair, carried, outvoted
from nubilis.colour.kind import Kind
from nubilis.errors import RecipeError
from nubilis.mask.brush import Brush, bounded
from nubilis.mask.combine import Mask
from nubilis.mask.people import People
from nubilis.mask.picture import Picture
from nubilis.readable import Readable
from nubilis.recipe.asset import Asset, TableFile
from nubilis.recipe.lending import with_lent
from nubilis.recipe.link import REFINE, Link, mark_of
from nubilis.recipe.link import carried as carried_items
from nubilis.recipe.model import Identifier, LinearRgb, Model, Place
from nubilis.recipe.modest import modest
from nubilis.remedy.kinds import AnyRemedy
from nubilis.remedy.look import Look
from nubilis.remedy.remedy import Evidence
from nubilis.remedy.wash import Wash
from nubilis.settle.apply import settled_colour
from nubilis.settle.base import Base
from nubilis.settle.state import Settled

FORMAT: Literal["nubilis-recipe"] = "nubilis-recipe"
VERSION: Literal[6] = 6  # whoever adds or changes a field raises it, with a step in versions.py
MOST_CASTS = 52
MOST_POINTS = 60_000  # of all strokes together
MOST_TOUCHED = 4.0  # how much of a cast a touch may say that a place carries
Origin = Literal["made", "neutral", "library", "photo", "original"]
_Shift = Annotated[float, Field(ge=-5.0, le=5.0, allow_inf_nan=False)]
_Edge = Annotated[float, Field(ge=0.0, le=1.0, allow_inf_nan=False)]
_Radius = Annotated[float, Field(ge=0.0, le=0.5, allow_inf_nan=False)]


class Sample(Model):
    """A colour, measured or brought in. rgb: linear Rec. 2020; of a place, the robust mean of the photo
    as it came.

    at, further: the place and those averaged with it; radius: of each disc, fraction of the long edge;
    spread, count: of the pixels that were kept; kind: of surface, as corrected by the editor; origin,
    name: where a colour without a place comes from; it is meant as it will be seen.
    """

    at: Place | None
    further: Annotated[tuple[Place, ...], Field(max_length=60)] = ()
    radius: _Radius = 0.0025
    rgb: LinearRgb
    spread: Annotated[float, Field(ge=0.0, le=500.0, allow_inf_nan=False)] = 0.0
    count: Annotated[int, Field(ge=0)] = 0
    kind: Kind | None = None
    origin: Origin = "made"
    name: Annotated[str, Field(max_length=120), Readable] = ""

    def settled(self, base: Base) -> "Sample":
        """As it looks under a base."""
        if self.at is None or not base.active:
            return self
        return self.model_copy(update={"rgb": settled_colour(self.rgb, base)})


class Pair(Model):
    """A tainted sample and what it should be. Without a reference the pair waits for one.

    level: the reference counts under as much light as the sample has; second: it speaks for a cast of
    its own, though it contradicts the others.
    """

    id: Identifier
    tainted: Sample
    reference: Sample | None = None
    level: bool = False
    second: bool = False

    def resampled(self, seen: Callable[[Sample], Sample]) -> "Pair":
        """With its samples as they are seen under some circumstance."""
        reference = self.reference and seen(self.reference)
        return self.model_copy(update={"tainted": seen(self.tainted), "reference": reference})

    def measured(self) -> MeasuredPair | None:
        if self.reference is None:
            return None
        wanted = self.reference.rgb
        return MeasuredPair(
            self.tainted.rgb,
            levelled(wanted, self.tainted.rgb) if self.level else wanted,
            self.tainted.at,
            self.reference.at,
            self.tainted.further,
        )


class Guard(Model):
    """A colour that must not change."""

    id: Identifier
    sample: Sample


class Touch(Model):
    """A place where the editor said how much of the cast lies there. amount: 1 is the pairs' mean."""

    id: Identifier
    at: Place
    amount: Annotated[float, Field(ge=0.0, le=MOST_TOUCHED, allow_inf_nan=False)]


class Cast(Model):
    """One taint: its evidence, where it lies, and what is done about it. touches: amounts set by hand;
    after_look: it acts on the photo with its look; link: on a copy, to the others; finding: the one that it
    was adopted from."""

    id: Identifier
    name: Annotated[str, Field(max_length=120), Readable] = ""
    on: bool = True
    pairs: Annotated[tuple[Pair, ...], Field(max_length=50)] = ()
    guards: Annotated[tuple[Guard, ...], Field(max_length=50)] = ()
    touches: Annotated[tuple[Touch, ...], Field(max_length=50)] = ()
    mask: Mask = Mask()
    remedies: Annotated[tuple[AnyRemedy, ...], Field(max_length=20)] = ()
    after_look: bool = False
    link: Link | None = None
    finding: Identifier | None = None

    @property
    def shared_id(self) -> str:
        """What it has in common with its copies."""
        return self.link.id if self.link else self.id

    def linked(self) -> Link:
        """The link of a copy of it as it is now."""
        items = (*self.mask.parts, *self.remedies)
        marks = ((i.id, mark_of(i)) for i in items)
        return Link(id=self.shared_id, came=(*marks, (REFINE, mark_of(self.mask.refine))))

    @property
    def touched_up(self) -> bool:
        """Whether the mask of a copy was changed since it was brought."""
        came = dict(self.link.came) if self.link else {}
        marks = {p.id: mark_of(p) for p in self.mask.parts}
        return bool(came) and any(came.get(part) != mark for part, mark in marks.items())

    def carried_over(self, target: "Cast") -> "Cast":
        """A linked cast of another photo, with this one's mask and remedies except what was touched up
        there."""
        ancestor = target.link or self.link
        came = dict(ancestor.came) if ancestor else {}
        refine = target.mask.refine
        if mark_of(refine) == came.get(REFINE):
            refine = self.mask.refine
        mask = Mask(parts=carried_items(self.mask.parts, target.mask.parts, came), refine=refine)
        remedies = carried_items(self.remedies, target.remedies, came)
        return target.model_copy(update={"mask": mask, "remedies": remedies, "link": self.linked()})

    def measured_pairs(self) -> list[MeasuredPair]:
        """The complete pairs."""
        return [m for p in self.pairs if (m := p.measured()) is not None]

    def outvoted(self) -> set[str]:
        """Ids of the pairs that contradict the others, and were not said to be of a cast of their own."""
        complete = [(p, m) for p in self.pairs if (m := p.measured()) is not None]
        contrary = outvoted([m for _, m in complete])
        return {complete[i][0].id for i in contrary if not complete[i][0].second}

    def heard_pairs(self) -> list[MeasuredPair]:
        """The complete pairs without those that are outvoted."""
        out = self.outvoted()
        return [m for p in self.pairs if p.id not in out and (m := p.measured()) is not None]

    def numbers(self) -> dict[str, str]:
        """What samples go by, by the id of their pair or guard: in the order of the list, references only
        if they have a place; a pair goes by its tainted sample."""
        given: dict[str, str] = {}
        count = 0
        for pair in self.pairs:
            count += 1
            given[pair.id] = str(count)
            count += pair.reference is not None and pair.reference.at is not None
        for guard in self.guards:
            count += 1
            given[guard.id] = str(count)
        return given

    @property
    def follows(self) -> bool:
        """Whether any remedy asks how much of the cast each place carries."""
        return any(r.follows_cast and r.on for r in self.remedies)

    @property
    def evidence(self) -> Evidence:
        """What was sampled, for the remedies."""
        guards = tuple(g.sample.rgb for g in self.guards)
        pairs = tuple(self.measured_pairs())
        return Evidence(pairs, guards, carried(pairs))

    def resampled(self, seen: Callable[[Sample], Sample]) -> "Cast":
        """With its samples as they are seen under some circumstance."""
        guards = tuple(g.model_copy(update={"sample": seen(g.sample)}) for g in self.guards)
        pairs = tuple(p.resampled(seen) for p in self.pairs)
        return self.model_copy(update={"pairs": pairs, "guards": guards})

    def abroad(self, base: Base, title: str, places: bool = False) -> "Cast":
        """For another photo: its samples are colours of this one, titled, as its base shows them; touches
        are of places, and stay behind, as do the strokes of its remedies unless `places` are to come."""

        def carried_over(sample: Sample) -> Sample:
            seen = sample.settled(base).model_copy(update={"at": None, "further": ()})
            if sample.at is None:
                return seen
            return seen.model_copy(update={"origin": "photo", "name": title})

        remedies = self.remedies if places else tuple(r.abroad() for r in self.remedies)
        return self.resampled(carried_over).model_copy(update={"touches": (), "remedies": remedies})


class Dismissed(Model):
    """A finding that the editor does not hold for a cast.

    id: the finding's; shift: what it added, in log cone chroma; box: x0, y0, x1, y1 as fractions of the
    long edge.
    """

    id: Identifier
    shift: tuple[_Shift, _Shift]
    box: tuple[_Edge, _Edge, _Edge, _Edge]


class Recipe(Model):
    """Version 5. base: how the whole photo is set; look: laid over it between the casts before and after;
    dismissed: findings not to be shown again; answered:
    whether the finder's question was, so that it is not asked again."""

    format: Literal["nubilis-recipe"] = FORMAT
    version: Literal[6] = VERSION
    base: Base = Base()
    casts: Annotated[tuple[Cast, ...], Field(max_length=MOST_CASTS)] = ()
    look: Look | None = None
    dismissed: Annotated[tuple[Dismissed, ...], Field(max_length=100)] = ()
    answered: bool = False

    @property
    def state(self) -> Settled:
        """What the casts find."""
        return Settled(self.base)

    @property
    def bare(self) -> "Recipe":
        """The photo as it stands before its casts, and no more."""
        return Recipe(base=self.base)

    @property
    def uncast(self) -> "Recipe":
        """The photo with its base and its look, and no casts."""
        return Recipe(base=self.base, look=self.look)

    @property
    def assets(self) -> dict[str, Asset | TableFile]:
        """All that it refers to, by SHA-256."""
        parts = (p for c in self.casts for p in c.mask.parts)
        found: dict[str, Asset | TableFile] = {
            p.asset.sha256: p.asset for p in parts if isinstance(p, Picture | People)
        }
        if self.look:
            found[self.look.table.sha256] = self.look.table
        return found

    def settled_casts(self) -> tuple[Cast, ...]:
        """The casts, with their samples as they look under the base."""
        if not self.base.active:
            return self.casts
        return tuple(c.resampled(lambda s: s.settled(self.base)) for c in self.casts)

    @model_validator(mode="before")
    @classmethod
    def _known(cls, document: Any) -> Any:
        """Say what is wrong with the whole before what is wrong with a detail."""
        if isinstance(document, dict):
            modest(document)
            if document.get("format", FORMAT) != FORMAT:
                raise RecipeError("this is not a Nubilis recipe")
            version = document.get("version", VERSION)
            if version != VERSION or isinstance(version, bool):
                raise RecipeError(
                    f"the recipe is of version {version!r:.20}; this program works with {VERSION}"
                )
        return document

    @field_validator("casts")
    @classmethod
    def _bounded(cls, casts: tuple[Cast, ...]) -> tuple[Cast, ...]:
        """Each mask by itself is; all of them are drawn for one picture."""
        parts = (p for c in casts for p in c.mask.parts if isinstance(p, Brush))
        washes = (r for c in casts for r in c.remedies if isinstance(r, Wash))
        drawn = [part.strokes for part in parts] + [wash.strokes for wash in washes]
        if len(drawn) > 1:
            bounded([stroke for strokes in drawn for stroke in strokes])
        if sum(len(s.points) for strokes in drawn for s in strokes) > MOST_POINTS:
            raise ValueError(f"its strokes have more than {MOST_POINTS} points together")
        return casts

    @field_validator("casts")
    @classmethod
    def _lent(cls, casts: tuple[Cast, ...]) -> tuple[Cast, ...]:
        masks = {c.id: c.mask for c in casts}
        if len(masks) < len(casts):
            raise RecipeError("two casts have the same id")
        filled = with_lent(masks)
        return tuple(c.model_copy(update={"mask": filled[c.id]}) for c in casts)
