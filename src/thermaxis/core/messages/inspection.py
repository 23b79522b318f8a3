"""Doubts about readings, and what an inspection finds."""

from __future__ import annotations

from thermaxis.core.said import Sentence

# Doubts.
MEASURED_BEFORE = Sentence("as measured on {day}")
DAY_FROM = Sentence("a day from {first} to today")
NOT_A_LENGTH = Sentence("a number from 0 to {most:thickness}")
DISCARD_SCRAPS = Sentence("{read:reading} would make a rotor of {new:reading} scrap. Is it read in the hat?")
DISCARD_FAR_BELOW = Sentence("{read:reading} is far below the rotor's {new:reading}. Is it read in the hat?")
THICKER_THAN_NEW = Sentence("{read:reading} is thicker than new, {new:reading}.")
THICKER_THAN_BEFORE = Sentence("{read:reading} is thicker than last time, {before:reading}.")
THICKER_WITH_HINT = Sentence("{doubt} {hint}")
MUCH_THINNER = Sentence("{read:reading} is {less:thickness} less than last time, {before:reading}.")
NOTHING_LEFT = Sentence("Nothing is left once the washers are taken off.")
ASTRAY = Sentence("{read:reading} is {away:thickness} from the other points of this rotor.")

# Differences between pads.
TAPER = Sentence("the {pad} pad is {difference:thickness} thinner at one end")
INNER_AND_OUTER = Sentence("the {pad} pad is {difference:thickness} thinner than the other")
LEFT_AND_RIGHT = Sentence("the {side} side is {difference:thickness} thinner than the other")
ALL_THIN = Sentence("every pad is down to the wear tab: all are due")
THICK_BUT_NOISY = Sentence("the pads are thick: clean, lubricate and refit, do not replace")
AT_PLACE = Sentence("{place}: {found}")
LIKELY = Sentence("Most likely: {cause}.")

# Pads.
THINNEST = Sentence("Thinnest is {where} {side}, {thinnest:thickness}; change at {change:thickness}.")
EVENTS_LEFT = Sentence("About {left:someEvents} left at {wear:wearPerEvent|two} an event.")
BOTH_SIDES = Sentence("Both sides of the axle are changed together.")
SENTENCES = Sentence("{sentences|spaces}")
PAD_RULES = {
    "at once": Sentence("at or below {limit:thickness}"),
    "due": Sentence("at or below {limit:thickness}"),
    "plan": Sentence("within {events:someEvents} of the change"),
    "fresh": Sentence("{share:percent} of new or more"),
    "fine": Sentence("more than {events:someEvents} from the change"),
}

# Rotors.
AT_DISCARD = Sentence("{least:reading} is at or below discard, {discard:reading}")
CRACK_REACHES = Sentence("a crack of {length:travel} that reaches {end}")
CRACK_LONG = Sentence("a crack of {length:travel}, {limit:travel} or more")
CHAMFER_GONE = Sentence("the chamfer of the holes is gone: that is this rotor's wear mark")
SCORED = Sentence("scoring {depth:thickness} deep")
UNEVEN = Sentence("thickness varies by {variation:runout}")
RUNOUT = Sentence("runout {runout:runout}, the hub face cleaned first")
PITTED = Sentence("pitted by rust")
HEAT_SPOTS = Sentence("heat spots")
LIP, RUST_FILM, GLAZING = Sentence("a lip"), Sentence("a rust film"), Sentence("glazing")
CLEANABLE = Sentence("{found|and}, nothing deeper")
SOUND = Sentence("{least:reading} at the thinnest, {left:reading} over discard")
WEARS_OUT = Sentence(
    "{least:reading} at the thinnest: one pad set's wear, {planned:reading}, takes it under discard, {discard:reading}"
)
CUT = Sentence("{found|and}; a cut leaves {after:reading}, discard and one pad set's wear need {wanted:reading}")
NEVER_MACHINES = Sentence("{found|and}; this school never machines")
NOT_MACHINABLE = Sentence("{found|and}; this disc is not one to machine")
NOT_MEASURED = Sentence("{reason}; its thickness was not measured today")
CRAZING = Sentence("hairline crazing: watch it")
FULL_STOP = Sentence("{clause|capital}.")
WASHERS = Sentence("It does not count. Was it read without them?")
IN_PAIRS = Sentence("Rotors of an axle are machined or replaced in pairs, or the car pulls.")

# Fluid.
FLUID_OLD = Sentence("Because it is {age:someMonths} old; water in it lowers its boiling point.")
FLUID_STRIP = Sentence("Because the test strip says so; water in it lowers its boiling point.")
FLUID_LEVEL = Sentence("Worn pads lower it a little; a leak lowers it further.")
