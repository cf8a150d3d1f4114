"""References that everybody has: greys, and a scale of skins of our own.

The scale is computed, not collected. In optical density, skin is pigment-free tissue plus melanin plus
blood (Tsumura, Haneishi, Miyake 1999, eq. 3); seen in three bands at 610, 545 and 465 nm, melanin absorbs
as wavelength to the power -3.33 (Jacques 2013, eq. 12), and oxygenated blood almost nothing in red, most
in green, three quarters of that in blue. Blood is held at what a calm face has, melanin runs from the
lightest to the deepest skin, and two per cent of light that never enters is added. The amounts were chosen
so that lightness falls in even steps. docs/references.md tells it with figures.
"""

import numpy as np

from nubilis.colour.cielab import linear_rgb_to_lab
from nubilis.colour.rgb import SRGB_TO_REC2020
from nubilis.library.reference import Lab, Reference

BANDS = np.array(
    [610.0, 545.0, 465.0]
)  # nm, where the display's red, green and blue have their weight
MELANIN = (BANDS / BANDS[1]) ** -3.33
BLOOD = np.array([0.06, 1.0, 0.75])
TISSUE = np.array([0.86, 0.76, 0.70])  # reflectance without either
BLOOD_AMOUNT = 0.155  # density in the green band
SURFACE = 0.02
SKINS = (0.08, 0.16, 0.25, 0.36, 0.48, 0.63, 0.80, 1.00, 1.27)  # melanin, density in the green band
GREYS = (
    ("Paper white", 95.0),
    ("Light grey", 80.0),
    ("Bright grey", 65.0),
    ("Mid grey", 50.0),
    ("Dark grey", 35.0),
    ("Deep grey", 20.0),
)


def skin(melanin: float) -> Lab:
    """CIELAB D50 of a skin; melanin: density in the green band."""
    density = melanin * MELANIN + BLOOD_AMOUNT * BLOOD
    reflectance = SURFACE + (1.0 - SURFACE) * TISSUE * 10.0**-density
    L, a, b = (round(float(v), 1) for v in linear_rgb_to_lab(SRGB_TO_REC2020 @ reflectance))
    return L, a, b


def built_in() -> list[Reference]:
    """Greys from light to dark, then skins from light to deep."""
    greys = [Reference(name=name, group="neutral", lab=(light, 0.0, 0.0)) for name, light in GREYS]
    skins = [
        Reference(name=f"Skin {i} of {len(SKINS)}", group="skin", lab=skin(m))
        for i, m in enumerate(SKINS, 1)
    ]
    return greys + skins
