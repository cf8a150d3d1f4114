"""Findings adopted: each becomes a cast with its own samples and mask, ready to be adjusted."""

from collections.abc import Callable, Sequence

import cv2
import numpy as np

from nubilis.arrays import Floats
from nubilis.cast.take_off import take_off
from nubilis.engine.engine import Engine
from nubilis.engine.sample import sampled
from nubilis.find.finding import Finding, Told
from nubilis.mask.combine import Mask
from nubilis.mask.disc import widened
from nubilis.mask.picture import Picture
from nubilis.photo.grey import grey_png
from nubilis.recipe.asset import Asset
from nubilis.recipe.document import Cast, Pair, Recipe, Sample
from nubilis.remedy.neutralise import Neutralise

# `fix --auto`, at whose findings nobody looks: only what is more likely right than wrong.
AUTO_AMOUNT, AUTO_CONFIDENCE = 1.0, 0.5
# On the screen, where it is about to be adjusted: from barely possible to certain.
MODEST, PLAIN = 0.5, 0.9
# The amount is read pixel by pixel, so that a mask may reach farther than what was found, as a brush would.
GENEROUS = 0.10  # of the long edge
RADIUS = 0.012  # of the long edge: a finding's patch is flat, and an average of it is calmer
_ONE = np.ones((1, 1), dtype=np.float32)


def sure_enough(found: Sequence[Finding]) -> list[Finding]:
    """The findings that may be adopted without anybody looking."""
    return [f for f in found if f.confidence >= AUTO_CONFIDENCE]


def adopted_amount(finding: Told) -> float:
    """How much of a finding is taken off when it is adopted on the screen: by its confidence."""
    return round(MODEST + (PLAIN - MODEST) * finding.confidence, 2)


def mask_file(finding: Finding) -> bytes:
    """The mask under which a finding is treated, as a grey PNG, 8 bits."""
    return grey_png((_generous(finding.mask) * 255.0 + 0.5).astype(np.uint8))


def _generous(mask: Floats) -> Floats:
    r = max(1, round(GENEROUS * max(mask.shape)))
    wide = cv2.GaussianBlur(widened(mask, r), (0, 0), r / 2)
    return np.asarray(np.maximum(mask, wide))


def adopted(engine: Engine, finding: Told, mask: Asset, amount: float) -> Cast:
    """mask: where its picture is kept. Without a reference in the photo, what the tainted place would be
    is made."""
    tainted = sampled(engine, finding.tainted, RADIUS)
    if finding.reference is not None:
        reference = sampled(engine, finding.reference, RADIUS)
    else:
        colour = np.array(tainted.rgb, dtype=np.float32).reshape(3, 1, 1)
        red, green, blue = (float(v) for v in take_off(colour, _ONE, _ONE, finding.shift).ravel())
        reference = Sample(at=None, rgb=(red, green, blue))
    pairs = [Pair(id="pair-1", tainted=tainted, reference=reference)]
    for i, (place, twin) in enumerate(finding.further, 2):
        more, clean = (sampled(engine, at, RADIUS) for at in (place, twin))
        pairs.append(Pair(id=f"pair-{i}", tainted=more, reference=clean))
    return Cast(
        id=finding.id,
        name=f"{finding.towards.capitalize()} cast",
        pairs=tuple(pairs),
        mask=Mask(parts=(Picture(id="found", asset=mask),)),
        remedies=(Neutralise(id="neutralise", amount=amount),),
        finding=finding.id,
    )


def all_adopted(
    engine: Engine, found: Sequence[Finding], keep: Callable[[bytes], Asset], amount: float
) -> Recipe:
    """A recipe of nothing else; keep: takes the masks."""
    casts = (adopted(engine, f, keep(mask_file(f)), amount) for f in found)
    return Recipe(casts=tuple(casts))
