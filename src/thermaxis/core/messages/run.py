"""What a bedding run says while it is driven."""

from __future__ import annotations

from thermaxis.core.said import Sentence

MORE = Sentence(
    "Cooler than planned: {left:count} brakings left, {gap:seconds} between them, to end at {end:temperature}."
)
FEWER = Sentence(
    "Hotter than planned: {left:count} brakings left, {gap:seconds} between them, to end at {end:temperature}."
)
OTHER_GAP = Sentence(
    "Planned anew: {left:count} brakings left, {gap:seconds} between them, to end at {end:temperature}."
)
ENOUGH = Sentence("Hot enough: no more braking, drive on and let them cool.")
NOT_BELIEVED = Sentence(
    "{value:temperature} is not believed: {expected:temperature} was expected, and no cooling within its spread "
    "explains it. Measure again."
)
BELIEVED = Sentence("{value:temperature} read, {expected:temperature} expected now.")
