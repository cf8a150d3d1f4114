"""Tests of the core. No test times the machine: properties may take as long as they take."""

from hypothesis import HealthCheck, settings

settings.register_profile(
    "any-machine", deadline=None, suppress_health_check=[HealthCheck.too_slow]
)
settings.load_profile("any-machine")
