"""Looking for casts: from a photo, and what the editor has said, to a map and a short list of findings."""

from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np

from nubilis.arrays import Floats
from nubilis.cast.direction import angle_between, common_shift
from nubilis.cast.take_off import take_off
from nubilis.colour.cielab import linear_rgb_to_lab
from nubilis.engine.engine import Engine
from nubilis.errors import ChoiceError
from nubilis.find.cause import Box
from nubilis.find.choice import MOST_CHOICES, Choice, choices, close_up
from nubilis.find.colours import Reduced, log_shift, reduced
from nubilis.find.face import faces_seen
from nubilis.find.face_words import (
    around_face,
    contradicted,
    face_choices,
    face_to_ask_about,
    told_by,
)
from nubilis.find.field import Explained, Field, Looker, Words
from nubilis.find.finding import Finding, Without, enlarged, make_finding, without
from nubilis.find.palette import DIRECTIONS, WAYS
from nubilis.find.regions import LEAST_CONFIDENCE, Region, guided_region, regions
from nubilis.people.people import People
from nubilis.proof.casts import hue_word
from nubilis.recipe.document import Recipe

MOST_DIRECTIONS = 3
APART = 4  # steps of 15 degrees between directions worth naming apart
LEAST_ENERGY = 0.15  # of the best direction's
KNOWN_ANGLE, KNOWN_SHARE = 35.0, 0.5  # when a finding is one that is adopted or dismissed already
_GREY = np.full((3, 1, 1), 0.2, dtype=np.float32)
_ONE = np.ones((1, 1), dtype=np.float32)
_TYPICAL = 0.2  # scaled log chroma: the size of shift by which a direction is named


@dataclass(frozen=True)
class Direction:
    """A way in which light may turn. shift: log cone chroma (2,); towards: its hue in a word; cast: what
    it adds to a mid grey, a* and b*; share: how much speaks for it, the best being 1."""

    shift: tuple[float, float]
    towards: str
    cast: tuple[float, float]
    share: float


@dataclass(frozen=True, eq=False)
class Survey:
    """taint: estimated CIEDE2000, float32 (h, w) at the analysis size, also of casts that are too
    uncertain to be findings, the fainter the less certain; cast: the a*, b* that it adds there,
    (2, h, w); directions: the most likely ones first; choices: the answers to the finder's one question,
    none when it has none; alternatives: findings that only they speak of; close: where to look closely, a box
    in fractions of the long edge."""

    taint: Floats
    cast: Floats
    findings: tuple[Finding, ...]
    directions: tuple[Direction, ...]
    choices: tuple[Choice, ...] = ()
    alternatives: tuple[Finding, ...] = ()
    close: Box = (0.0, 0.0, 1.0, 1.0)

    def chosen(self, choice_id: str) -> tuple[Finding, ...]:
        """The findings of one choice. Raises ChoiceError."""
        choice = next((c for c in self.choices if c.id == choice_id), None)
        if choice is None:
            there = ", ".join(c.id for c in self.choices) or "none to choose from"
            raise ChoiceError(f"there is no {choice_id!r:.40} on this photo: {there}")
        known = {f.id: f for f in (*self.findings, *self.alternatives)}
        return tuple(known[i] for i in choice.findings)


Question = tuple[
    tuple[Choice, ...], tuple[Finding, ...], Box
]  # answers, of which findings, close up
NO_QUESTION: Question = (), (), (0.0, 0.0, 1.0, 1.0)


class Surveyor:
    """A photo made ready to be looked at, so that the editor's words are answered at once."""

    def __init__(
        self,
        engine: Engine,
        recipe: Recipe = Recipe(),
        others: Sequence[Reduced] = (),
        judged: Sequence[Reduced] = (),
        people: People | None = None,
    ) -> None:
        """recipe: as it leaves the photo; others: further photos of the shoot, as the finder sees them
        (`sight_of`); judged: more, as an editor has left them; people: those in the photo."""
        # The engine itself is not kept: it holds the whole photo.
        self._state = recipe.state
        self.others = len(others) + len(judged)
        self._picture = engine.render(recipe, engine.analysis_view)
        small = reduced(self._picture)
        self._faces = faces_seen(people, self._picture, small.shape) if people else []
        self._looker = Looker(small, others, judged, self._faces)

    def look(self, words: Words = Words()) -> Survey:
        small, picture = self._looker.small, self._picture
        field = self._looker.field(words)
        found: list[Finding] = []
        taint = np.zeros(small.shape, dtype=np.float32)
        cast = np.zeros((2, *small.shape), dtype=np.float32)
        for region in _regions(field, words):
            colours = without(small, region)
            _note(taint, cast, colours, region, words.said)
            if words.said or region.confidence >= LEAST_CONFIDENCE:
                made = make_finding(field, region, colours, picture)
                found.append(told_by(made, self._faces))
        # Who has spoken, or treated something, is not asked.
        silent = not (words.said or words.explained)
        answers, alternatives, close = self._question(field, found) if silent else NO_QUESTION
        return Survey(
            enlarged(taint, picture),
            np.stack([enlarged(c, picture) for c in cast]),
            tuple(found),
            _directions(field, MOST_DIRECTIONS),
            answers,
            alternatives,
            close,
        )

    def _question(self, field: Field, found: Sequence[Finding]) -> Question:
        ways = [d.shift for d in _directions(field, MOST_CHOICES)]
        answers, told = choices(field, found, ways, self._brought_up)
        face = face_to_ask_about(self._faces, found)
        # A face that contradicts the finder is the more telling question: everybody knows skin.
        if face and (not answers or contradicted(face, found)):
            of_face, told_of_face = face_choices(face, found, self._brought_up)
            if of_face:
                return of_face, told_of_face, around_face(face.box, self._looker.small.shape)
        return answers, told, close_up(field.taint)

    def _brought_up(self, words: Words) -> Finding | None:
        """The finding that a word leads to."""
        small, field = self._looker.small, self._looker.field(words)
        region = guided_region(field)
        if region is None:
            return None
        return make_finding(field, region, without(small, region), self._picture)

    def explained(self, engine: Engine, recipe: Recipe) -> tuple[Explained, ...]:
        """What a recipe's casts and dismissed findings say to the finder; engine: of the same photo."""
        h, w = self._looker.small.shape
        view = engine.analysis_view
        known: list[Explained] = []
        for cast in recipe.settled_casts():
            pairs = cast.heard_pairs()
            if pairs:
                cover = cv2.resize(engine.mask(cast.mask, view, self._state), (w, h))
                known.append(Explained(common_shift(pairs), cover))
        for one in recipe.dismissed:
            cover = np.zeros((h, w), dtype=np.float32)
            x0, y0, x1, y1 = (round(v * max(h, w)) for v in one.box)
            cover[y0:y1, x0:x1] = 1.0
            known.append(Explained(one.shift, cover))
        return tuple(known)


def look(
    engine: Engine,
    words: Words = Words(),
    recipe: Recipe = Recipe(),
    others: Sequence[Reduced] = (),
    people: People | None = None,
) -> Survey:
    """Survey once, the photo as a recipe leaves it."""
    return Surveyor(engine, recipe, others, people=people).look(words)


def sight_of(engine: Engine) -> Reduced:
    """A photo as the finder sees it, for looking at another of the same shoot."""
    return reduced(engine.pyramid.analysis)


def _regions(field: Field, words: Words) -> list[Region]:
    if words.said:
        region = guided_region(field)
        return [] if region is None else [region]
    return [r for r in regions(field) if not any(_is(r, known) for known in words.explained)]


def _is(region: Region, known: Explained) -> bool:
    same_way = angle_between(np.array(region.shift), np.array(known.shift)) < KNOWN_ANGLE
    return same_way and float(known.cover[region.inside].mean()) > KNOWN_SHARE


def _note(taint: Floats, cast: Floats, colours: Without, region: Region, said: bool) -> None:
    """Enter a region's cast where it is stronger than what is there already."""
    weight = 1.0 if said else min(1.0, region.confidence / LEAST_CONFIDENCE)
    strength = np.float32(weight) * colours.difference
    stronger = strength > taint
    taint[stronger] = strength[stronger]
    added = np.float32(weight) * (colours.lab - colours.clean)[1:]
    cast[:, stronger] = added[:, stronger]


def _directions(field: Field, most: int) -> tuple[Direction, ...]:
    """The peaks of what the photo's directions explain."""
    left = field.energy.astype(np.float64)
    found: list[Direction] = []
    while len(found) < most and left.max() > LEAST_ENERGY:
        best = int(left.argmax())
        direction = _named(best, float(left[best]))
        if direction.towards not in {d.towards for d in found}:
            found.append(direction)
        off = (np.arange(DIRECTIONS) - best + DIRECTIONS // 2) % DIRECTIONS - DIRECTIONS // 2
        left[np.abs(off) < APART] = 0.0
    return tuple(found)


def _named(way: int, share: float) -> Direction:
    red_green, blue_yellow = (float(v) for v in log_shift(WAYS[way] * _TYPICAL))
    clean = take_off(_GREY, _ONE, _ONE, (red_green, blue_yellow))
    _, a, b = linear_rgb_to_lab(_GREY.ravel()) - linear_rgb_to_lab(clean.ravel())
    cast = float(a), float(b)
    return Direction((red_green, blue_yellow), hue_word(cast) or "another hue", cast, share)
