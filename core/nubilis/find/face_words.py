"""What a face says in words: of a finding that it bears out, and which of its sides is right."""

from collections.abc import Callable, Sequence
from dataclasses import replace

import cv2
import numpy as np

from nubilis.cast.direction import angle_between
from nubilis.cast.take_off import take_off
from nubilis.colour.cielab import linear_rgb_to_lab
from nubilis.colour.difference import ciede2000
from nubilis.find.cause import Box
from nubilis.find.choice import Choice
from nubilis.find.face import FaceSeen
from nubilis.find.field import Words
from nubilis.find.finding import PATCHES, Finding
from nubilis.find.regions import LEAST_CONFIDENCE
from nubilis.proof.casts import hue_word

TELLS = 1.15  # of a probe's score: from which on it bears a finding out, or contradicts it
ASKS = 1.6  # from which on it is asked about, where nothing else was found
AGREES = 30.0  # degrees
COVERED = 0.3  # of what is tainted of a face
AROUND = 0.25  # of a face's width
SIDEWAYS = 0.15  # of a face's width: two places that lie nearer across are above each other
OTHER = {
    "left": "right",
    "right": "left",
    "upper half": "lower half",
    "lower half": "upper half",
}


def told_by(found: Finding, faces: Sequence[FaceSeen]) -> Finding:
    """A finding in the words of a face that bears it out, with the same place of its other half as what the
    tainted one should be; the finding as it is where none does."""
    said = [f for f in faces if f.probe.score >= TELLS and _covers(found, f) and _agrees(found, f)]
    face = max(said, key=lambda f: f.probe.score, default=None)
    if face is None:
        return found
    pair = ((found.tainted, found.reference),) if found.reference else ()
    return replace(
        found,
        tainted=face.worst,
        reference=face.mirrored,
        further=(*pair, *found.further)[: PATCHES - 1],
        reason=f"{sentence(face)} {found.reason}",
        face=face.who,
    )


def sentence(face: FaceSeen) -> str:
    side = side_of(face)
    turns = f"turns {turn(face)[0]:.1f} towards {_towards(face)}"
    return f"The {side} of face {face.who} {turns} against its {OTHER[side]}."


def side_of(face: FaceSeen) -> str:
    """Which end of a face is tainted, as the viewer sees it."""
    width = face.box[2] - face.box[0]
    across, down = (w - m for w, m in zip(face.worst, face.mirrored, strict=True))
    if abs(across) < SIDEWAYS * width:
        return "lower half" if down > 0.0 else "upper half"
    return "left" if across < 0.0 else "right"


def face_to_ask_about(faces: Sequence[FaceSeen], own: Sequence[Finding]) -> FaceSeen | None:
    """The face whose sides differ by what nothing else explains, or the other way than the finder has it."""
    asked = [f for f in faces if _worth_asking(f, own)]
    return max(asked, key=lambda f: f.probe.score, default=None)


def face_choices(
    face: FaceSeen, own: Sequence[Finding], look: Callable[[Words], Finding | None]
) -> tuple[tuple[Choice, ...], tuple[Finding, ...]]:
    """The answers to which side of a face is right, and the findings that these speak of. look: what a word
    to the finder brings up."""
    sure = face.side_sure and not contradicted(face, own)
    answers: list[Choice] = []
    found: list[Finding] = []
    for one in (face,) if sure else (face, face.turned):
        brought = look(Words(direction=one.probe.shift, places=(one.worst,)))
        if brought is None:
            continue
        told = replace(told_by(brought, (one,)), alternative=True)
        found.append(told)
        says = f"less {_towards(one)}: the {OTHER[side_of(one)]} of face {one.who} is right"
        answers.append(Choice(f"choice-{len(answers) + 1}", (told.id,), says))
    return tuple(answers), tuple(found)


def around_face(box: Box, shape: tuple[int, int]) -> Box:
    """A face with a little around it, within the photo; shape: (h, w) at any size."""
    room = AROUND * (box[2] - box[0])
    right, bottom = (n / max(shape) for n in shape[::-1])
    x0, y0 = (max(v - room, 0.0) for v in box[:2])
    x1, y1 = (min(v + room, most) for v, most in zip(box[2:], (right, bottom), strict=True))
    return x0, y0, x1, y1


def contradicted(face: FaceSeen, own: Sequence[Finding]) -> bool:
    """Whether the finder takes the other side of the same difference for the tainted one."""
    return any(_agrees(f, face.turned) and _covers(f, face.turned) for f in _convincing(own))


def _worth_asking(face: FaceSeen, own: Sequence[Finding]) -> bool:
    """What the finder says already is not asked; that it says the contrary is."""
    if any(_agrees(f, face) for f in _convincing(own)):
        return False
    least = TELLS if contradicted(face, own) else ASKS
    return face.probe.score >= least


def _convincing(own: Sequence[Finding]) -> list[Finding]:
    return [f for f in own if f.confidence >= LEAST_CONFIDENCE]


def _agrees(found: Finding, face: FaceSeen) -> bool:
    return angle_between(np.array(found.shift), np.array(face.probe.shift)) < AGREES


def _covers(found: Finding, face: FaceSeen) -> bool:
    h, w = face.tainted.shape
    mask = cv2.resize(found.mask, (w, h), interpolation=cv2.INTER_AREA)
    return float((mask * face.tainted).sum()) > COVERED * float(face.tainted.sum())


def turn(face: FaceSeen) -> tuple[float, tuple[float, float]]:
    """By how much the colour of the tainted side turns, CIEDE2000, and the a* and b* that this adds."""
    one = np.ones((1, 1), dtype=np.float32)
    rgb = face.colour.reshape(3, 1, 1)
    clean = take_off(rgb, one, one, face.probe.shift)
    now, without = (linear_rgb_to_lab(np.maximum(v, 0.0).ravel()) for v in (rgb, clean))
    _, a, b = now - without
    return ciede2000(now, without), (float(a), float(b))


def _towards(face: FaceSeen) -> str:
    return hue_word(turn(face)[1]) or "another hue"
