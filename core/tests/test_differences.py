"""Two states of a recipe, told in words."""

import unittest

from nubilis.mask.brush import Brush
from nubilis.mask.combine import Mask
from nubilis.mask.oval import Oval
from nubilis.mask.refine import Refine
from nubilis.recipe.asset import TableFile
from nubilis.recipe.differences import differences
from nubilis.recipe.document import Cast, Dismissed, Guard, Pair, Recipe, Sample
from nubilis.remedy.look import Look
from nubilis.remedy.neutralise import Neutralise
from nubilis.remedy.shift import Shift
from nubilis.settle.base import Base

from .pictures import brush

OVAL = Oval(id="o", centre=(0.5, 0.3), radii=(0.2, 0.1))
RED = Sample(at=(0.1, 0.1), rgb=(0.4, 0.2, 0.2))
GREY = Sample(at=(0.2, 0.1), rgb=(0.2, 0.2, 0.2))


def cast(ident: str = "a", **more: object) -> Cast:
    return Cast.model_validate({"id": ident, "remedies": (Neutralise(id="n"),), **more})


class Words(unittest.TestCase):
    def told(self, before: Cast, after: Cast) -> list[str]:
        one, two = Recipe(casts=(before,)), Recipe(casts=(after,))
        return [t.removeprefix("Cast A: ") for t in differences(one, two)]

    def test_the_same_is_nothing(self) -> None:
        self.assertEqual(differences(Recipe(casts=(cast(),)), Recipe(casts=(cast(),))), [])

    def test_casts_come_and_go(self) -> None:
        one, two = Recipe(casts=(cast("a"),)), Recipe(casts=(cast("a"), cast("b")))
        self.assertEqual(differences(one, two), ["Cast B added"])
        self.assertEqual(differences(two, one), ["Cast B deleted"])

    def test_the_base_in_its_units(self) -> None:
        one, two = Recipe(), Recipe(base=Base(temperature=5200.0, exposure=0.5, on=False))
        told = differences(one, two)
        self.assertIn("Base: exposure 0 EV → 0.5 EV", told)
        self.assertIn("Base: switched off", told)
        self.assertTrue(any(t.endswith("5200 K") for t in told), told)

    def test_the_look(self) -> None:
        look = Look(table=TableFile(sha256="a" * 64, name="Matinee"))
        bare, laid = Recipe(), Recipe(look=look)
        thinner = Recipe(look=look.model_copy(update={"amount": 0.4}))
        other = Recipe(look=Look(table=TableFile(sha256="b" * 64, name="Plaster")))
        self.assertEqual(differences(bare, laid), ["Look Matinee laid"])
        self.assertEqual(differences(laid, bare), ["Look Matinee taken away"])
        self.assertEqual(differences(laid, thinner), ["Look: amount 100 % → 40 %"])
        self.assertEqual(differences(laid, other), ["Look Plaster laid"])
        after = cast(after_look=True)
        self.assertEqual(self.told(cast(), after), ["put after the look"])

    def test_samples(self) -> None:
        pair = Pair(id="p", tainted=RED)
        done = pair.model_copy(update={"reference": GREY})
        self.assertEqual(self.told(cast(), cast(pairs=(pair,))), ["sampled"])
        self.assertEqual(self.told(cast(pairs=(pair,)), cast(pairs=(done,))), ["reference chosen"])
        self.assertEqual(self.told(cast(pairs=(done,)), cast()), ["sample deleted"])
        keep = (Guard(id="g", sample=GREY),)
        self.assertEqual(self.told(cast(), cast(guards=keep)), ["colour kept"])

    def test_masks(self) -> None:
        def masked(*parts: object, **refine: float) -> Cast:
            return cast(mask=Mask(parts=parts, refine=Refine(**refine)))  # type: ignore[arg-type]

        painted = brush()
        twice = painted.model_copy(update={"strokes": painted.strokes * 2})
        moved = OVAL.model_copy(update={"centre": (0.6, 0.3), "inside": 0.5})
        off = OVAL.model_copy(update={"on": False})
        for before, after, words in (
            (masked(), masked(painted), ["mask painted"]),
            (masked(painted), masked(twice), ["mask painted"]),
            (masked(twice), masked(painted), ["stroke taken back"]),
            (masked(Brush(id="b")), masked(Brush(id="b"), OVAL), ["mask, oval added"]),
            (masked(OVAL), masked(off), ["mask, oval switched off"]),
            (
                masked(OVAL),
                masked(moved),
                ["mask, oval centre changed", "mask, oval inside 30 % → 50 %"],
            ),
            (masked(OVAL), masked(OVAL, grow=0.01), ["mask, grow 0 % → 1 %"]),
        ):
            self.assertEqual(self.told(before, after), words)

    def test_remedies(self) -> None:
        shift = Shift(id="s", hue=10.0)
        both = cast(remedies=(Neutralise(id="n"), shift))
        turned = cast(remedies=(Neutralise(id="n"), Shift(id="s", hue=25.0)))
        self.assertEqual(self.told(cast(), both), ["shift added"])
        self.assertEqual(self.told(both, turned), ["shift hue 10° → 25°"])
        swapped = cast(remedies=both.remedies[::-1])
        self.assertEqual(self.told(both, swapped), ["remedies in another order"])
        self.assertEqual(
            self.told(cast(), cast(on=False, name="Glow")), ["switched off", "named Glow"]
        )

    def test_dismissals(self) -> None:
        gone = Recipe(dismissed=(Dismissed(id="d", shift=(0.1, 0.0), box=(0.0, 0.0, 1.0, 1.0)),))
        self.assertEqual(differences(Recipe(), gone), ["A finding dismissed"])
        self.assertEqual(differences(gone, Recipe()), ["A dismissed finding taken back"])


if __name__ == "__main__":
    unittest.main()
