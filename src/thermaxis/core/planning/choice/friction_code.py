"""Two letters on a pad's edge as a coarse guess at its friction, for when nothing better is known."""

from __future__ import annotations

from thermaxis.core.errors import FieldError

# SAE J866: range of the mean friction coefficient by letter; H has no upper end, 0.65 is taken (estimate).
RANGES = {
    "C": (0.0, 0.15),
    "D": (0.15, 0.25),
    "E": (0.25, 0.35),
    "F": (0.35, 0.45),
    "G": (0.45, 0.55),
    "H": (0.55, 0.65),
}
# The first letter is read at 200 to 400 degF, the second on the hot runs, up to 600 degF and more: middles in degC.
NORMAL_C, HOT_C = 150.0, 300.0


def friction_from_code(code: str) -> tuple[tuple[float, float], ...]:
    """Friction points (temperature in degC, coefficient) from an edge code's two letters, as a tuple of pairs.

    The middle of each letter's range (SAE J866): a prior within about a third, not a measurement. A code says nothing
    about wear, window or what happens above 350 degC. Raises FieldError for other letters.

    >>> friction_from_code("FE")
    ((150.0, 0.4), (300.0, 0.3))
    """
    letters = code.strip().upper()
    if len(letters) != 2 or any(letter not in RANGES for letter in letters):
        raise FieldError("code", code, "two letters of " + ", ".join(RANGES))
    normal, hot = (round(sum(RANGES[letter]) / 2.0, 6) for letter in letters)
    return ((NORMAL_C, normal), (HOT_C, hot))
