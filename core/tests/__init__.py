"""Tests of the core. No test times the machine: properties may take as long as they take. They look at the
same examples in every run, unless one looks for new ones."""

from hypothesis import HealthCheck, settings

from .effort import FUZZ

settings.register_profile(
    "any-machine",
    deadline=None,
    derandomize=not FUZZ,
    suppress_health_check=[HealthCheck.too_slow],
)
settings.load_profile("any-machine")
