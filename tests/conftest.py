"""Shared by all tests: property tests are repeatable and never judged by the clock."""

from __future__ import annotations

from hypothesis import HealthCheck, settings

settings.register_profile(
    "thermaxis", deadline=None, derandomize=True, max_examples=40, suppress_health_check=[HealthCheck.too_slow]
)
settings.load_profile("thermaxis")
