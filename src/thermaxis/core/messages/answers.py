"""Answers to questions about a duty, and what would let a rejected set pass. `reason` is a clause of `verdict`."""

from __future__ import annotations

from thermaxis.core.said import Sentence

NOT_STOPPED = Sentence("at full pedal force the vehicle does not slow down to the wanted speed")
CLOSE_FLUID = Sentence("{left:temperatureChange} of fluid margin are left, under {wanted:temperatureChange}")
BY_CHANGE = Sentence(
    "Changed no later than at {front:thickness} in front and {rear:thickness} behind, the fluid would not boil."
)
NOT_BY_CHANGE = Sentence("Changing the pads earlier does not help: the fluid boils with new ones.")
CLOSE_IN_SOAK = Sentence(
    "{left:temperatureChange} of fluid margin are left in the soak, under {wanted:temperatureChange}"
)
PARKED_HOT = Sentence("a ring is parked at {hottest:temperature}, over {limit:temperature}")

NOT_ONE = Sentence("Not one {noun}: {reason}.")
ALL_REPEATS = Sentence("All {most:count} {nouns} that were tried: no limit is crossed.")
MOST_REPEATS = Sentence("{good:count} {nouns}; with {bad:count}, {reason}.")

NO_SPEED = Sentence("None from {low:speed|two} to {high:speed|two}: already at {low:speed|two} {reason}.")
EVERY_SPEED = Sentence("Every value from {low:speed|two} to {high:speed|two} holds.")
SPEED_UP_TO = Sentence("Up to {value:speed|down}; over that {reason}.")
NO_MASS = Sentence("None from {low:mass|two} to {high:mass|two}: already at {low:mass|two} {reason}.")
EVERY_MASS = Sentence("Every value from {low:mass|two} to {high:mass|two} holds.")
MASS_UP_TO = Sentence("Up to {value:mass|down}; over that {reason}.")

NO_COOLING = Sentence(
    "No factor from {low:plain} to {high:plain} does: the most is {share:percent} of braking in the window, at "
    "× {best:plain|two}. This pad and this duty do not go together."
)
COOLING_EVEN = Sentence("Even × {low:plain} is enough.")
COOLING_EVEN_TO = Sentence("Even × {low:plain} is enough; beyond × {most:plain|down} it is too cold.")
COOLING_PRESENT = Sentence("The present cooling is enough: it takes × {least:plain|up}.")
COOLING_PRESENT_TO = Sentence(
    "The present cooling is enough: it takes × {least:plain|up}; beyond × {most:plain|down} it is too cold."
)
COOLING_TAKES = Sentence("It takes × {least:plain|up}.")
COOLING_TAKES_TO = Sentence("It takes × {least:plain|up}; beyond × {most:plain|down} it is too cold.")

NO_COOL_DOWN = Sentence("No {noun} is needed before parking.")
COOL_DOWN = Sentence("{count:count} {nouns}; with {fewer:count}, {reason}.")
COOL_DOWN_NOT_ENOUGH = Sentence("Even {most:count} {nouns} are not enough: {reason}.")

NOT_BY_COOLING = Sentence("Not by cooling alone: even at × {most:plain} {reason}.")
BY_COOLING = Sentence("Cooling × {value:plain|up} (ducts, less shielding): then no limit is crossed.")
NOT_BY_MASS = Sentence("Not by mass alone: even at {low:mass|two} {reason}.")
BY_MASS = Sentence("No more than {value:mass|down} in all, driven at the same speeds: then no limit is crossed.")
NOT_BY_SPEED = Sentence("Not by speed alone: even at {low:speed|two} {reason}.")
BY_SPEED = Sentence("No faster than {value:speed|down}: then no limit is crossed.")
BY_DRIVER = Sentence("Driven at the pace of level {level} it passes.")
NO_SLOWER_LEVEL = Sentence("Not by driving slower: there is no slower level.")
NOT_BY_DRIVER = Sentence("Not by driving slower: even at the pace of level {level} {reason}.")
BY_FRESH_FLUID = Sentence(
    "The same fluid, fresh: it boils at {fresh:temperature}, {left:temperatureChange} over the {peak:temperature} it "
    "reaches."
)
NOT_BY_FRESH_FLUID = Sentence(
    "Not by changing it for the same: fresh it boils at {fresh:temperature}, and {peak:temperature} are reached."
)
ROOM = Sentence(
    "A wheel with at least {missing:thickness} more radius inside, or a rotor and caliper that stand out as much less; "
    "and then the clearance the wheel's maker asks for."
)
NOT_BY_REAR_PADS = Sentence("Not by rear pads alone: even at {least:percent} of their friction the rear locks first.")
BY_REAR_PADS = Sentence(
    "Rear pads with at most {most:percent|down} of this friction, or a rear valve that holds as much back: then the "
    "front locks first."
)
