"""Thermaxis: brake heat, wear and change intervals, computed openly."""

__version__ = "0.2.0"
