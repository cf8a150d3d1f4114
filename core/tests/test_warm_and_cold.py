"""Whatever was looked at before, a picture is what a fresh engine makes of the recipe, to the bit."""

import random
import unittest
from typing import Any

import numpy as np

from nubilis.engine.engine import Engine
from nubilis.library.looks import OWN, own_table
from nubilis.mask.combine import Mask
from nubilis.mask.ramp import Ramp
from nubilis.mask.similar import Similar
from nubilis.photo.pyramid import View
from nubilis.planning import sample_at
from nubilis.proof.casts import prove
from nubilis.recipe.asset import Bundle
from nubilis.recipe.document import Cast, Guard, Recipe, Touch
from nubilis.remedy.calm import Calm
from nubilis.remedy.look import Look
from nubilis.remedy.neutralise import Neutralise
from nubilis.settle.base import Base

from .effort import TIMES
from .pictures import brush, recipe_for, wall_photo, warm_key
from .test_every_kind import KINDS, patched_photo

# What remedies need, or do that they do not at rest.
MOVED: dict[str, dict[str, Any]] = {
    "shift": {"hue": 20.0},
    "even-out": {"target": (0.3, 0.25, 0.2), "hue": 0.5},
    "recolour": {"target": (0.1, 0.2, 0.3)},
    "glaze": {"target": (0.4, 0.2, 0.1)},
    "zones": {"shadows_red": 0.05},
    "tone": {"contrast": 0.3, "local": 0.4},
    "calm": {"colour": 1.0},
    "by-hue": {"points": [{"id": "1", "hue": 40.0, "saturation": 0.3}]},
    "curves": {"lightness": [(0.5, 0.6)]},
    "restore": {"to": "before-look"},
}
STEPS, SEQUENCES = 8, 3 * TIMES


class Changes:
    """A recipe that is changed at random, one thing at a time, as somebody at work would."""

    def __init__(self, seed: int) -> None:
        self.rng = random.Random(seed)
        self.photo, self.files = patched_photo(160, 240), Bundle()
        looks = [own_table(o.name) for o in OWN[:2]]
        self.tables = [self.files.keep_table(table) for table in looks]
        self.recipe = recipe_for(self.photo, brush(0.5, 0.6))
        self.engine = Engine(self.photo, assets=self.files)

    def step(self) -> Recipe:
        look, mask, base, touch = self._look, self._mask, self._base, self._touch
        others = (
            self._amount,
            self._remedy,
            self._guard,
            self._after_look,
            self._second,
            self._order,
        )
        change = self.rng.choice((look, look, mask, base, touch, *others))
        self.recipe = Recipe.model_validate(change().model_dump())
        return self.recipe

    def _cast(self, **more: Any) -> Recipe:
        at = self.rng.randrange(len(self.recipe.casts))
        casts = list(self.recipe.casts)
        casts[at] = casts[at].model_copy(update=more)
        return self.recipe.model_copy(update={"casts": tuple(casts)})

    def _look(self) -> Recipe:
        look = Look(table=self.rng.choice(self.tables), amount=self.rng.choice((0.01, 0.4, 1.0)))
        return self.recipe.model_copy(update={"look": self.rng.choice((look, look, None))})

    def _amount(self) -> Recipe:
        cast = self.rng.choice(self.recipe.casts)
        amount = self.rng.choice((0.3, 0.8, 1.2))
        remedies = tuple(r.model_copy(update={"amount": amount}) for r in cast.remedies)
        return self._cast(remedies=remedies)

    def _remedy(self) -> Recipe:
        kind = self.rng.choice(list(KINDS))
        one = {"kind": kind, "id": "new", "amount": self.rng.choice((0.5, 1.0))}
        one |= MOVED.get(kind, {})
        made = Cast.model_validate({"id": "c", "remedies": [one]}).remedies
        return self._cast(remedies=(*made, Neutralise(id="n"), Calm(id="noise", lightness=1.0)))

    def _mask(self) -> Recipe:
        parts = self.rng.choice(
            (
                (brush(self.rng.choice((0.3, 0.6))),),
                (brush(), warm_key()),
                (Ramp(id="r", full=(0.1, 0.1), none=(0.6, 0.5)),),
                (Similar(id="s", seeds=((0.05, 0.3),)),),
            )
        )
        return self._cast(mask=Mask(parts=parts))

    def _base(self) -> Recipe:
        base = self.rng.choice((Base(), Base(temperature=5000.0), Base(exposure=0.4)))
        return self.recipe.model_copy(update={"base": base})

    def _touch(self) -> Recipe:
        touch = Touch(id="t", at=(0.05, 0.3), amount=self.rng.choice((0.2, 0.9)))
        return self._cast(touches=self.rng.choice(((touch,), ())))

    def _guard(self) -> Recipe:
        guard = Guard(id="g", sample=sample_at(self.engine, (60.0, 40.0)))
        return self._cast(guards=self.rng.choice(((guard,), ())))

    def _after_look(self) -> Recipe:
        return self._cast(after_look=self.rng.random() < 0.6)

    def _second(self) -> Recipe:
        first = self.recipe.casts[0]
        if len(self.recipe.casts) > 1:
            return self.recipe.model_copy(update={"casts": (first,)})
        other = first.model_copy(update={"id": "other", "after_look": self.rng.random() < 0.5})
        return self.recipe.model_copy(update={"casts": (first, other)})

    def _order(self) -> Recipe:
        return self.recipe.model_copy(update={"casts": tuple(reversed(self.recipe.casts))})


class WarmAndCold(unittest.TestCase):
    def test_after_any_changes_a_warm_engine_makes_what_a_cold_one_makes(self) -> None:
        for seed in range(SEQUENCES):
            work = Changes(seed)
            for number in range(STEPS):
                recipe = work.step()
                with self.subTest(seed=seed, step=number):
                    self.same(work, recipe)

    def same(self, work: Changes, recipe: Recipe) -> None:
        cold = Engine(work.photo, assets=work.files)
        views = [View.fit(work.photo, 120), View((240, 160), (30, 20, 150, 100))]
        for view in views:
            np.testing.assert_array_equal(
                work.engine.render(recipe, view), cold.render(recipe, view)
            )
        self.assertEqual(prove(work.engine, recipe), prove(cold, recipe))
        np.testing.assert_array_equal(work.engine.deliver(recipe).codes, cold.deliver(recipe).codes)


class ThroughALook(unittest.TestCase):
    """What the property found at first, by itself."""

    def setUp(self) -> None:
        self.photo, self.files = wall_photo(), Bundle()
        tables = [self.files.keep_table(own_table(o.name)) for o in OWN[:2]]
        recipe = recipe_for(self.photo)
        after = recipe.casts[0].model_copy(update={"after_look": True})
        self.recipes = [
            recipe.model_copy(update={"casts": (after,), "look": Look(table=t, amount=amount)})
            for t in tables
            for amount in (1.0, 0.5)
        ]

    def test_a_cast_after_a_look_is_planned_through_that_look(self) -> None:
        view, warm = View.fit(self.photo, 150), Engine(self.photo, assets=self.files)
        for recipe in self.recipes:
            cold = Engine(self.photo, assets=self.files)
            np.testing.assert_array_equal(warm.render(recipe, view), cold.render(recipe, view))

    def test_a_look_that_hardly_shows_leaves_noise_to_be_calmed(self) -> None:
        rng = np.random.default_rng(2)
        codes = np.clip(np.rint(wall_photo().codes + rng.normal(0, 6, (200, 300, 3))), 0, 255)
        codes[:, 150:] = np.clip(np.rint(wall_photo().codes[:, 150:]), 0, 255)
        photo = type(self.photo)(codes.astype(np.uint8), self.photo.profile)
        recipe = self.recipes[0]
        calm = recipe.casts[0].model_copy(update={"remedies": (Calm(id="n", lightness=1.0),)})
        view = View.fit(photo, 300)

        def left(amount: float) -> float:
            look = recipe.look and recipe.look.model_copy(update={"amount": amount})
            laid = Recipe(casts=(calm,), look=look if amount else None)
            shown = Engine(photo, assets=self.files).render(laid, view)
            return float(np.diff(shown[1, :, 5:60], axis=1).std())

        self.assertLess(left(0.01), 1.3 * left(0.0))
