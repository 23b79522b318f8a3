"""What a bedding plan comes to, what it keeps and needs; what a run, a log and a ring say of it."""

from __future__ import annotations

from thermaxis.core.said import Sentence

# What a school reaches.
REACHED = Sentence(
    "{inside:count} brakings end in the front window of {low:temperature|bare} to {high:temperature}, the hottest at "
    "{hottest:temperature}."
)
TOO_FEW = Sentence(
    "Only {inside:count} of the {wanted:count} brakings it takes end in the front window of {low:temperature|bare} to "
    "{high:temperature}, the hottest at {hottest:temperature}."
)
SHORT_OF = Sentence(
    "The front rings reach {hottest:temperature}, {short:temperatureChange} short of the window of "
    "{low:temperature|bare} to {high:temperature}."
)
NEEDS_HARDER = Sentence("Braking at {g:ratio} g would reach it.")
NEEDS_FASTER = Sentence("From {speed:speed} it would be reached: on a closed course.")
NEEDS_OTHER = Sentence("This school does not reach it on this machine: take one that does.")
REAR = Sentence(
    "The rear reaches {rear:temperature} of {low:temperature}: it beds in over some {km:distance} of ordinary braking. "
    "Until then the rear bites less than it will."
)
REAR_RIDER = Sentence(
    "The rear reaches {rear:temperature} of {low:temperature}: brake with the rear alone, short and easy, over the "
    "first {km:distance}."
)
NO_CIRCUIT = Sentence("No circuit to drive it on: pick a circuit duty under Duty first.")

# What a plan keeps.
TOP_KEPT = Sentence("{axle} face {peak:temperature}, under the window's top of {top:temperature}")
TOP_PASSED = Sentence("{axle} face {peak:temperature}, over the window's top of {top:temperature}")
GRIP = Sentence("{hardest:ratio} g, of {allowed:ratio} g that 0.8 of the tyres' grip allows")
RIDER_G = Sentence("{hardest:ratio} g, of at most {allowed:ratio} g on two wheels")
SPEED = Sentence("from {fastest:speed}, of {most:speed}, 0.95 of the machine's top speed")
STANDING = Sentence("never to a standstill; parked at {parked:temperature}, without the parking brake")
STANDS_HOT = Sentence("comes to a standstill: hot pads print their outline on the ring")
FLUID = Sentence("fluid {fluid:temperature}, boils at {boiling:temperature}; {spare:temperatureChange} are kept")
NO_TRAILER = Sentence("without the trailer: leave it at home")

# Where, and what to mind.
CLOSED_SCHOOL = Sentence("Closed course: braking like this belongs on no road.")
CLOSED_SPEED = Sentence("Closed course: brakings from {fastest:speed}.")
CLOSED_G = Sentence("Closed course: brakings at {hardest:ratio} g.")
FADES = Sentence("First fade after {stops:count} brakings: the pedal wants {rise:percent} more for the same braking.")
NO_FADE = Sentence(
    "The pedal wants {rise:percent} more after {stops:count} brakings: this compound has not faded by the top of its "
    "window, and the series ends there."
)
STRONGER = Sentence("From {speed:speed}: from {named:speed} this machine does not reach the window.")
PEDAL_SHORT = Sentence("The pedal at its greatest force does not give all of it: brake as hard as it goes.")
REGEN = Sentence("Turn regeneration to its least, so that the pads do the work.")
COATED = Sentence("The rings are coated: first wear the coating off the faces, some 30 easy brakings, then begin.")
DRILLED = Sentence("Drilled discs: never to fade.")
NO_ROOM = Sentence(
    "No braking of this school stays under the window's top of {high:temperature} and keeps the fluid cool: ask its "
    "maker."
)
NOT_SAFE = Sentence("Not on this machine: even at its mildest, {why}.")
DRILLED_FADE = Sentence("Not on drilled discs: heated to fade they crack from the holes.")

# Why this school.
BY_MAKER = Sentence("the maker's rows were typed in: they come first")
BY_WORDS = Sentence("the compound's own words ask for it")
INSTEAD_OF = Sentence("the nearest to it that can be driven here, for {why}")
BY_FAMILY = Sentence("what {family} pads for {use} usually want; the compound has no words of its own")
