"""What a bedding plan comes to."""

from __future__ import annotations

from thermaxis.core.said import Sentence

NO_SPEED = Sentence(
    "From {speed:speed} the front rings reach {hottest:temperature} after {hard:count} hard stops, "
    "{short:temperatureChange} short of the bedding window {low:temperature|bare} to {high:temperature}. No speed up "
    "to {fastest:speed} at this deceleration gets there: brake harder, on a closed course."
)
FASTER = Sentence(
    "From {speed:speed} the front rings reach {hottest:temperature} after {hard:count} hard stops, "
    "{short:temperatureChange} short of the bedding window {low:temperature|bare} to {high:temperature}. From "
    "{needed:speed} it would be reached: on a closed course."
)
REACHED = Sentence(
    "{moderate:count} moderate and {hard:count} hard stops, {gap:seconds} apart, end at {end:temperature} in front, "
    "inside {low:temperature|bare} to {high:temperature}."
)
REACHED_IN_FRONT = Sentence(
    "{moderate:count} moderate and {hard:count} hard stops, {gap:seconds} apart, end at {end:temperature} in front, "
    "inside {low:temperature|bare} to {high:temperature}. The rear only reaches {rear:temperature}: it finishes "
    "bedding over the first hard drives."
)
TO_BE_BEDDED = Sentence("new pads went on: bed them in")
