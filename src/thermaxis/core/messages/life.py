"""What Life says of parts, events, changes and orders."""

from __future__ import annotations

from thermaxis.core.said import Sentence

# How long a part lasts, and by what.
BY_RUST = Sentence("ends by age and rust, not by wear: look at it")
LIMIT_SCHOOL = Sentence("changed at {school}")
LIMIT_FLUID = Sentence("under this the fluid is within {margin:temperatureChange} of boiling on {duty}")
LIMIT_PISTON = Sentence("under this the piston leaves the length its seal holds")
LIMIT_DISCARD = Sentence("discard thickness")
CRACKS = Sentence("hairline cracks likely from the {early:count}. to the {late:count}. event (estimate)")
CRACKS_LATE = Sentence("hairline cracks unlikely within {late:someEvents} (estimate)")
CRACKED = Sentence("hairlines were seen: look before and after every event, and replace it when one reaches an edge")
FLUID_HEAT = Sentence("{event} leaves {margin:temperatureChange} to boiling, less than {least:temperatureChange}")
FLUID_AGE = Sentence("two years old by {day}")
FLUID_HOT = Sentence("it was within {within:temperatureChange} of its boiling point: change it")
FLUID_BLACK = Sentence("it is black: change it")
FLUID_GOOD = Sentence("{margin:temperatureChange} to boiling at the worst event")
OLD_BY = Sentence("due by age on {day} (estimate)")
LOOK_FROM = Sentence("look closely from {day} on (estimate)")

# When to change.
CHANGE_EARLY = Sentence(
    "with the {other}, before {day}: {share:percent} of its life thrown away, {currency}{lost:price}, against "
    "{currency}{saved:price} of work done once"
)
CHANGE_LATE = Sentence(
    "not with the {other}: {currency}{lost:price} of its life would be thrown away, more than the "
    "{currency}{saved:price} of work saved"
)
RISK = Sentence(
    "one event later: {chance:percent} not to last, worth {currency}{risk:price}, against {currency}{lost:price} "
    "thrown away"
)
RISK_ONLY = Sentence("one event later: {chance:percent} not to last, worth {currency}{risk:price}")
TOO_LATE = Sentence("ordered today it comes on {day}, after {event}: take the other set, or leave that event out")
ON_SHELF = Sentence("{name} is on the shelf: nothing to order")
ORDER_BY = Sentence("order by {day}")
ORDER_NOW = Sentence("order now: {day} has gone by")

# Ready for it?
PART_HOLDS = Sentence("{part}: {chance:percent} to last through it")
PART_SPARES = Sentence("{part}: {chance:percent} to last through it, take another")
PART_NOT = Sentence("{part}: {chance:percent} to last through it")
PART_LOOK = Sentence("{part}: {chance:percent} without hairlines after it: look before and after")
FLUID_HOLDS = Sentence("fluid: {margin:temperatureChange} to boiling nine times in ten, air {air:temperature}")
FLUID_CLOSE = Sentence("fluid: only {margin:temperatureChange} to boiling nine times in ten, air {air:temperature}")
FLUID_BOILS = Sentence("fluid: may boil, {over:temperatureChange} over one time in ten, air {air:temperature}")
BOLTS_OPEN = Sentence("wheel bolts of the {axle} axle are still to be checked again")
NOT_BEDDED = Sentence("{axle} pads: {state}")
BEDDED = Sentence("pads are bedded")
JOB_OPEN = Sentence("a job is not closed: {work}, {axle} axle")
NO_JOB = Sentence("no job is open")
OTHER_SET = Sentence("{name} is for this event and not on the {axle} axle yet")

# How a forecast was worked out.
NOW_OF = Sentence("{now:reading} now, {new:reading} new, ends at {limit:reading}: {why}")
ALSO = Sentence("{mm:reading}: {why}")
WEARS = Sentence("{duty}: {wear:reading} an event as computed, times {scale:ratio} ({low:ratio} to {high:ratio})")
BY_READINGS = Sentence("from {count:count} readings of the weakest, each duty by itself as far as they tell them apart")
BY_ONE = Sentence("from one reading of the weakest, each duty by itself as far as it tells them apart")
BY_NONE = Sentence("nothing measured yet: the computed wear as it is, with its whole spread")
SPREAD = Sentence(
    "taken for it: wear as computed within {wear:percent}, a gauge within {gauge:reading}, a new part within "
    "{new:reading}, events among themselves within {event:percent} (estimates, one standard deviation)"
)
DAMAGE_USED = Sentence("{used:percent} of its life to hairlines used as computed, {each:percent} more by {event}")
DAMAGE_SPREAD = Sentence("real over computed life is lognormal of sigma {sigma:ratio} (estimate), cut by what was seen")
FLUID_NOW = Sentence("{months:months} old, boils at {boiling:temperature} by its label and age")
FLUID_TESTED = Sentence("tested on {day}: {boiling:temperature}")
FLUID_WATER = Sentence("tested on {day}: {water:percent} water")
FLUID_EVENT = Sentence(
    "{event}: {margin:temperatureChange} left, likely {low:temperatureChange} to {high:temperatureChange}"
)
FLUID_SPREAD = Sentence(
    "taken for it: water gain within {gain:percent}, its own boiling point within {own:temperatureChange}, rise over "
    "the air within {rise:percent} (estimates, one standard deviation)"
)
AGED = Sentence("{months:months} old; looked at from {look:months}, changed at {change:months} whatever they look like")
FOUND = Sentence("found at the last inspection: {what}")
UNUSED = Sentence("no event ahead is driven on it")
