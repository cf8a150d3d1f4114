"""sRGB's curve between light and code values, 0..1, in kernels (IEC 61966-2-1)."""

from typing import Any

from nubilis.kernels import compiled, exp2, f32, log

_PER_LN2 = 1.0 / 0.6931471806


@compiled
def coded(v: Any) -> Any:
    """The code value of light, in a kernel; straight on below 0."""
    power = exp2(f32(_PER_LN2 / 2.4) * log(max(v, f32(1e-7))))
    curved = f32(1.055) * power - f32(0.055)
    return f32(12.92) * v if v <= f32(0.0031308) else curved


@compiled
def light(v: Any) -> Any:
    """The light of a code value, in a kernel."""
    base = max((v + f32(0.055)) * f32(1.0 / 1.055), f32(1e-7))
    curved = exp2(f32(2.4 * _PER_LN2) * log(base))
    return v * f32(1.0 / 12.92) if v <= f32(0.04045) else curved
