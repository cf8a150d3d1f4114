"""Zones and tone: parts of lightness that move their own ways without a kink; settings in a mask."""

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from nubilis.arrays import Floats
from nubilis.colour.cielab import lab_planes
from nubilis.colour.rgb import LUMINANCE
from nubilis.colour.temperature import balance_matrix
from nubilis.engine.engine import Engine
from nubilis.mask.combine import Mask
from nubilis.mask.whole import Whole
from nubilis.photo.picture import Photo
from nubilis.photo.pyramid import View
from nubilis.recipe.document import Cast, Recipe
from nubilis.remedy.tone import Tone
from nubilis.remedy.zones import LEAST_APART, Zones, weights
from nubilis.settle.apply import settled
from nubilis.settle.base import Base, Settings
from nubilis.settle.tone import curve

from .effort import examples
from .grounds import colours, ground, lch
from .pictures import wall_photo

signed = st.floats(-1.0, 1.0)


def ramp(n: int = 400) -> Floats:
    """Greys from black to white, even in OKLab lightness, (3, 1, n)."""
    greys = (np.linspace(0.0, 1.0, n) ** 3).astype(np.float32)
    return np.ascontiguousarray(np.broadcast_to(greys, (3, 1, n)))


def full(rgb: Floats) -> Floats:
    return np.ones(rgb.shape[1:], dtype=np.float32)


class Joints(unittest.TestCase):
    @given(st.floats(0.0, 1.0 - LEAST_APART), st.floats(LEAST_APART, 1.0))
    @settings(max_examples=examples(50))
    def test_shares_sum_to_one_and_none_is_negative(self, low: float, apart: float) -> None:
        shares = weights(np.linspace(-0.2, 1.2, 700), low, min(low + apart, 1.0))
        np.testing.assert_allclose(shares.sum(axis=0), 1.0, atol=1e-6)
        self.assertGreaterEqual(shares.min(), 0.0)

    def test_slopes_are_continuous(self) -> None:
        step = 1.0 / 4000
        for low, high in ((0.3, 0.7), (0.4, 0.4 + LEAST_APART)):
            shares = weights(np.arange(0.0, 1.0, step), low, high)
            # A corner would be of the order of the slope, and not of its change over a step.
            bend = np.abs(np.diff(shares, 2, axis=1)).max() / step
            self.assertLess(bend, 7.0 * step / (high - low) ** 2)

    def test_crossovers_keep_their_order(self) -> None:
        with self.assertRaises(ValidationError):
            Zones(id="z", low=0.6, high=0.6)


class Moving(unittest.TestCase):
    def test_at_rest_it_is_the_identity(self) -> None:
        rgb = colours()
        self.assertIs(Zones(id="z", low=0.2, high=0.5).applied(rgb, full(rgb), ground(rgb)), rgb)

    def test_opposite_moves_leave_a_ramp_of_greys_without_a_kink(self) -> None:
        rgb = ramp()
        zones = Zones(
            id="z", shadows_yellow=-0.06, lights_yellow=0.06, shadows_light=-0.05, lights_light=0.05
        )
        lab = lab_planes(zones.applied(rgb, full(rgb), ground(rgb)))[:, 0]
        self.assertLess(lab[2, 100], -4.0)
        self.assertGreater(lab[2, 300], 4.0)
        self.assertGreater(np.diff(lab[0, 20:-5]).min(), 0.0)
        for plane in lab:
            self.assertLess(float(np.abs(np.diff(plane[20:-40], 2)).max()), 0.08)

    def test_each_zone_moves_its_own_tones(self) -> None:
        rgb = ramp()
        names = ("shadows", "mids", "lights")
        places = (60, 220, 330)
        for zone, place in zip(names, places, strict=True):
            done = Zones(id="z", **{f"{zone}_red": 0.05}).applied(rgb, full(rgb), ground(rgb))
            a = lab_planes(done)[1, 0]
            for other in places:
                if other == place:
                    self.assertGreater(a[other], 4.0, zone)
                else:
                    self.assertLess(abs(a[other]), 0.5, zone)

    def test_a_move_of_colour_holds_luminance_and_black_stays_black(self) -> None:
        rgb = ramp()
        done = Zones(id="z", shadows_red=0.1, mids_red=0.1, lights_red=0.1).applied(
            rgb, full(rgb), ground(rgb)
        )
        np.testing.assert_allclose(lab_planes(done)[0], lab_planes(rgb)[0], atol=0.05)
        self.assertLess(float(np.abs(done[:, 0, 0]).max()), 1e-4)

    def test_saturation_is_that_of_the_zone(self) -> None:
        rgb = colours()
        done = Zones(id="z", shadows_saturation=-1.0, mids_saturation=-1.0, lights_saturation=-1.0)
        self.assertLess(lch(done.applied(rgb, full(rgb), ground(rgb)))[1].max(), 2e-3)


class Settling(unittest.TestCase):
    @given(signed, signed, st.floats(-2.0, 2.0), signed, signed, st.floats(0.2, 0.8))
    @settings(max_examples=examples(30))
    def test_against_plain_numpy(
        self, contrast: float, saturation: float, stops: float, lights: float, shadows: float,
        pivot: float,
    ) -> None:  # fmt: skip
        tone = Tone(
            id="t", contrast=contrast, saturation=saturation, exposure=stops, highlights=lights,
            shadows=shadows, pivot=pivot, temperature=5200.0, tint=4.0,
        )  # fmt: skip
        rgb = colours(200)
        done = tone.applied(rgb, full(rgb), ground(rgb))
        x = rgb.reshape(3, -1).astype(np.float64)
        x = 2.0**stops * balance_matrix(5200.0, 4.0) @ x
        x = LUMINANCE @ x + (1.0 + saturation) * (x - LUMINANCE @ x)
        t = np.cbrt(np.maximum(LUMINANCE @ x, 1e-9))
        x = x * (curve(t, tone) / t) ** 3
        np.testing.assert_allclose(done.reshape(3, -1), x, atol=2e-3, rtol=2e-3)

    def test_it_is_the_base_inside_a_mask(self) -> None:
        rgb = colours()
        how = {"exposure": 0.7, "contrast": 0.4, "highlights": -0.5, "pivot": 0.35}
        done = Tone(id="t", **how).applied(rgb, full(rgb), ground(rgb))
        np.testing.assert_allclose(done, settled(rgb, Base(**how)), atol=1e-6)

    def test_a_pivot_is_held_and_no_tones_swap_places(self) -> None:
        t = np.linspace(0.0, 1.2, 500)
        for pivot in (0.2, 0.5, 0.8):
            for contrast in (-1.0, 1.0):
                done = curve(t, Settings(contrast=contrast, pivot=pivot))
                self.assertAlmostEqual(float(np.interp(pivot, t, done)), pivot, delta=2e-3)
                self.assertGreaterEqual(float(np.diff(done).min()), -1e-9)

    def test_at_rest_it_is_the_identity(self) -> None:
        rgb = colours()
        self.assertIs(Tone(id="t", pivot=0.3).applied(rgb, full(rgb), ground(rgb)), rgb)


def step_photo(texture: float = 0.0) -> Photo:
    """Two flat greys, 40 L* apart, and a fine ripple on them."""
    light = (
        np.where(np.arange(600) < 300, 35.0, 75.0)[None]
        + texture * np.sin(np.arange(600) * 0.9)[None]
    )
    y = ((light + 16.0) / 116.0) ** 3
    encoded = np.where(y <= 0.0031308, 12.92 * y, 1.055 * y ** (1 / 2.4) - 0.055)
    codes = (np.broadcast_to(encoded, (400, 600)) * 65535 + 0.5).astype(np.uint16)
    return Photo(np.ascontiguousarray(np.repeat(codes[..., None], 3, axis=2)), wall_photo().profile)


class Deepening(unittest.TestCase):
    def lightness(self, photo: Photo, tone: Tone, size: int = 600) -> np.ndarray:
        cast = Cast(id="c", mask=Mask(parts=(Whole(id="m"),)), remedies=(tone,))
        view = View.fit(photo, size)
        return np.asarray(
            lab_planes(Engine(photo).render(Recipe(casts=(cast,)), view))[0, size // 3]
        )

    def test_a_strong_edge_gets_no_halo(self) -> None:
        for how in (
            {"local": 1.0},
            {"detail": 1.0},
            {"local": 1.0, "detail": 1.0},
            {"local": -1.0},
        ):
            line = self.lightness(step_photo(), Tone(id="t", **how))
            halo = max(np.abs(line[:295] - 35.0).max(), np.abs(line[305:] - 75.0).max())
            self.assertLess(float(halo), 1.0, how)

    def test_detail_grows_and_shrinks(self) -> None:
        photo = step_photo(texture=1.0)
        spread = [
            float(self.lightness(photo, Tone(id="t", detail=k))[20:280].std())
            for k in (-1.0, 0.0, 1.0)
        ]
        self.assertLess(spread[0], 0.55 * spread[1])
        self.assertGreater(spread[2], 1.4 * spread[1])


if __name__ == "__main__":
    unittest.main()
