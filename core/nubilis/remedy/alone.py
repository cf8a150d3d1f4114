"""Remedies on colours that belong to no place: what of a treatment a table can carry."""

from collections.abc import Callable, Sequence
from typing import Any, cast

import numpy as np

from nubilis.arrays import Floats
from nubilis.look.cube import Cube
from nubilis.photo.pyramid import View
from nubilis.remedy.by_hue import SMOOTH
from nubilis.remedy.oklab_planes import lightness_plane, planes_of
from nubilis.remedy.remedy import Evidence, Ground, Remedy, Statistic, applied_in_order


def no_table(sha256: str) -> Cube:
    """Of whoever lays no look."""
    raise KeyError(sha256)


def colours_alone(
    remedies: Sequence[Remedy],
    rgb: Floats,
    to_device: Floats,
    *,
    evidence_for: Callable[[str], Evidence] = lambda _: Evidence(),
    shifts: Sequence[tuple[float, float]] = (),
    measured: Callable[[Statistic], Any] = lambda _: None,
    table: Callable[[str], Cube] = no_table,
) -> Floats:
    """Colours (3, 1, n) in linear Rec. 2020 after remedies, as if all of the mask were full and each carried
    all of the cast. shifts: of its directions; measured: what is measured under the mask."""
    full = np.ones(rgb.shape[1:], dtype=np.float32)
    view = View((rgb.shape[2], 1), (0, 0, rgb.shape[2], 1))

    def plane(statistic: Statistic) -> Floats:
        # What is smoothed on a photo is the colour itself, which has no neighbours.
        if statistic in SMOOTH:
            return np.asarray(planes_of(rgb)[SMOOTH.index(statistic) + 1])
        return lightness_plane(rgb)

    ground = Ground(
        came=rgb,
        settled=rgb,
        evidence_for=evidence_for,
        passes=lambda _: [(shift, full) for shift in shifts],
        measured=lambda s: measured(s) if s.of_mask else plane(s),
        read=lambda known: cast(Floats, known),
        # Strokes and noise are of places: a colour by itself has none.
        drawn=lambda _: None,
        grain_for=lambda _: None,
        before_look=lambda: None,
        table=table,
        to_device=to_device,
        view=view,
        scale=1.0,
    )
    return applied_in_order(remedies, rgb, full, ground)
