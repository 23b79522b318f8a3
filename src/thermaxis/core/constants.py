"""Numbers that more than one module needs."""

from __future__ import annotations

DAYS_A_MONTH = 365.25 / 12.0
"""Mean length of a month of the calendar, in days."""
SEA_LEVEL_PA = 101325.0
"""Pressure of the standard atmosphere at sea level (ISO 2533)."""
