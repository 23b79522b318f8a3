"""What a drive, a ring or the road says of how far pads are bedded in."""

from __future__ import annotations

from thermaxis.core.said import Sentence

# From a recorded drive.
BEDDED = Sentence("Bedded: {brakings:count} brakings, {axles|semicolons}.")
PARTLY = Sentence("Partly: {brakings:count} brakings, {axles|semicolons}.")
OVERHEATED = Sentence("Overheated: {brakings:count} brakings, {axles|semicolons}.")
AXLE_BEDDED = Sentence(
    "{axle} {inside:count} in {low:temperature|bare} to {high:temperature}, face up to {peak:temperature}"
)
AXLE_PARTLY = Sentence(
    "{axle} {inside:count} in {low:temperature|bare} to {high:temperature}, {missing:count} more to go, face up to "
    "{peak:temperature}"
)
AXLE_OVERHEATED = Sentence("{axle} face {peak:temperature}, over the top of {high:temperature}")

TO_BE_BEDDED = Sentence("new pads went on: bed them in")

# The state of a pad set.
IS_NEW = Sentence("new on these rings: not bedded yet")
IS_BEGUN = Sentence("begun: bedding is not finished")
IS_PARTLY = Sentence("partly bedded: {why}")
IS_BEDDED = Sentence("bedded on these rings, {day}")
BY_ROAD = Sentence("bedded by {km:distance} on the road (estimate)")
AS_FOUND = Sentence("on the machine when it was added: taken to be bedded")
OTHER_RINGS = Sentence("bedded on other rings: to be bedded again on these")
OTHER_RAN = Sentence("{pads} ran on these rings since: to be bedded again")
WAS_OVERHEATED = Sentence("overheated: glazed pads bite late and unevenly; look at the rings and bed in again")
RING_SAYS = Sentence("the ring shows {look}")
BITE = Sentence("{axle} pads not bedded yet: bite uncertain, friction ±20 % (estimate)")
BITE_BOTH = Sentence("Pads not bedded yet: bite uncertain, friction ±20 % (estimate)")

# Another compound's film.
FILM = Sentence(
    "{before} ran on these rings: its {family_before} film is still on them, and {after} is {family_after}. Bedded "
    "over it, the bite comes late and in patches."
)
FILM_SAME = Sentence("{before} ran on these rings: the same family, its film may stay.")
