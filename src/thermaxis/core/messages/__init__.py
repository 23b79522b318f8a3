"""Every sentence of the core, once, by what it speaks of. `core/said.py` says how they are filled."""
