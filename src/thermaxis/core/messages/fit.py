"""Whether parts go in, what is missing from the boxes, and where the fluid goes."""

from __future__ import annotations

from thermaxis.core.said import Sentence

# The stack.
OPENING_NOT_KNOWN = Sentence("caliper opening not known")
TOO_THICK = Sentence("{over:thickness} too thick")
AS_BEFORE = Sentence("as thick as what was in there")
STAYS = Sentence("{axle|capital} stays as it is: these pads on these rings are in there.")
IS_AS_BEFORE = Sentence(
    "{axle|capital} is as thick as what was in there when new. Nobody has measured the opening, so what there is to "
    "spare is not known."
)
AT_LEAST = Sentence("at least {room:thickness} to spare")
TO_SPARE = Sentence("{room:thickness} to spare")
TIGHT = Sentence("tight: {room:thickness} ± {spread:thickness} to spare")
TIGHT_OVER = Sentence("tight: {over:thickness} ± {spread:thickness} too thick")
GOES_IN = Sentence("{axle|capital} goes in: {room:thickness} ± {spread:thickness} to spare with the pistons home.")
GOES_IN_BOUND = Sentence(
    "{axle|capital} goes in, with at least {room:thickness} to spare: as thick parts were in there when new. Nobody "
    "has measured the opening."
)
IS_TIGHT = Sentence(
    "{axle|capital} is tight: {room:thickness} ± {spread:thickness} to spare. Measure the parts before the vehicle "
    "is up."
)
IS_TIGHT_OVER = Sentence(
    "{axle|capital} is tight: {over:thickness} ± {spread:thickness} too thick. Measure the parts before the vehicle "
    "is up."
)
DOES_NOT_GO_IN = Sentence(
    "{axle|capital} does not go in: {over:thickness} ± {spread:thickness} too thick with the pistons home.{measured}"
)
RING_MEASURES = Sentence(" The ring measures {ring:thickness}, its number says {number:thickness}.")
PAD_MEASURES = Sentence(" The pad's friction measures {pad:thickness}, its number says {number:thickness}.")
NOTHING = Sentence("")
CANNOT_SAY = Sentence(
    "Whether {axle} goes in is not known: it is {over:thickness} thicker than what was in there when new, and nobody "
    "has measured the opening. Push the pistons home without pads and measure between piston face and abutment."
)
CANNOT_SAY_AT_ALL = Sentence(
    "Whether {axle} goes in is not known. Push the pistons home without pads and measure between piston face and "
    "abutment."
)
TOO_THICK_FOR_CALIPER = Sentence(
    "It does not go into the {axle} caliper: {over:thickness} ± {spread:thickness} too thick with the pistons home. "
    "Fit has the ways out."
)

SET_GONE = Sentence("the set that was to go on is offered no more")
GOES_NOT_ON = Sentence("does not go in, or something in the boxes is wrong")

# The end of its life.
END_NOT_KNOWN = Sentence(
    "How far the pistons stand out at the end is not known: measure the opening and the piston in its bore."
)
PISTON_HELD = Sentence(
    "Rotor at discard, pads at change: a piston stands out {travel:thickness}, {behind:thickness} stay in its bore. "
    "Held down to {thinnest:thickness} of friction material."
)
PISTON_ALWAYS_HELD = Sentence(
    "Rotor at discard, pads at change: a piston stands out {travel:thickness}, {behind:thickness} stay in its bore. "
    "Even pads without friction material would not push it out."
)
PISTON_NEAR = Sentence(
    "Rotor at discard, pads at change: a piston stands out {travel:thickness} and only {behind:thickness} stay in its "
    "bore. Change pads before {thinnest:thickness}, or the rotor before its discard thickness."
)
PISTON_LEAVES = Sentence(
    "Rotor at discard, pads at change: a piston stands out {travel:thickness} and {behind:thickness} stay in its "
    "bore: it may leave its seal. With such a rotor change pads at {thinnest:thickness}."
)

# Old against new.
FITS = Sentence("fits")
MEASURE_BOTH = Sentence("measure both")
MEASURE_OLD = Sentence("measure what is on it")
MEASURE_NEW = Sentence("measure the new one")
MEASURE_ROOM = Sentence("measure")
LARGER = Sentence("{by:bore} larger")
SMALLER = Sentence("{by:bore} smaller")
OFF_CENTRE_SLIDES = Sentence("{off:bore} off centre: the caliper slides it, check that its pins have the way")
OFF_CENTRE_FIXED = Sentence("{off:bore} off centre, and nothing slides: one side's pistons stand out further")
BORE_SMALL = Sentence("{by:bore} too small: it does not go over the hub")
BORE_LARGE = Sentence("{by:bore} too large: it is not centred on the hub")
MORE_HOLES = Sentence("fits; it has more holes than are used")
COUNT_DIFFERS = Sentence("{new:count} where {old:count} are")
OVERHANG = Sentence("the pad stands {over:bore} over the band: an edge stays unswept, a lip and noise follow")
SWEPT = Sentence("all of it is swept")
EDGE_LABEL = "Bracket and bridge to the ring's edge"
WHEEL_LABEL = "Wheel's barrel to the caliper"
SPOKE_LABEL = "Spokes to the caliper"
TOUCHES = Sentence("{over:bore} too large: it touches")
LITTLE_ROOM = Sentence("only {room:bore}; at least {least:thickness}")
LAY_OVER = Sentence("nobody has said which shape it takes: lay them over each other")
OTHER_OUTLINE = Sentence("another outline than this axle takes")
TOO_LONG = Sentence("{over:bore} too long for the bracket")
BINDS = Sentence("{play:bore} of play: it binds; clean the ears or dress the paint, never the friction")
KNOCKS = Sentence("{play:bore} of play: it knocks")
PLAY = Sentence("{play:bore} of play")

# Ways out.
OTHER_RING = Sentence("{name}, {thick:thickness}: {left}")
OTHER_PAD = Sentence("{name}, {thick:thickness} of friction material: {left}")
SHIM_OFF = Sentence("Without its loose shims of {shim:bore}: {left}. Only where the maker of the pads allows it.")
SEND_BACK = Sentence("The maker states {number:thickness} ± {spread:bore}, it measures {measured:bore}: out of it.")
OTHER_CALIPER = Sentence("A caliper with an opening of {needed:thickness} or more takes these parts.")
TAKE_OFF = Sentence(
    "{each:bore} off the friction material of each pad would just let it in. That costs {share:percent} of the pads' "
    "life."
)
TAKE_OFF_EVENTS = Sentence(
    "{each:bore} off the friction material of each pad would just let it in. That costs {share:percent} of the pads' "
    "life, about {events:someEvents}."
)
TAKE_OFF_CAUTION = Sentence(
    "Most would send the parts back: the dust is not to be breathed, the face is hard to keep flat and even, and no "
    "maker stands for such a pad. Never off the backing plate, never off the rotor."
)

# Fluid.
SCREW_MOTORCYCLE = Sentence(
    "Open the bleed screw while pushing back, a hose from it into a bottle: little room in the reservoir, and "
    "nothing goes back past the lever's piston."
)
SCREW_VALVES = Sentence(
    "Open the bleed screw while pushing back, a hose from it into a bottle: nothing is pushed back through the "
    "valves of the anti-lock or stability system."
)
SCREW_OLD = Sentence(
    "Open the bleed screw while pushing back, a hose from it into a bottle: the fluid at the calipers is "
    "{months:someMonths} old and need not go back up."
)
DRAW_OFF = Sentence(
    "Draw off {over:fluidVolume|up} first: {total:fluidVolume} come back and there is room for {room:fluidVolume|down}."
)
WATCH = Sentence(
    "Take the cap off and watch: {total:fluidVolume} come back and there is room for {room:fluidVolume|down}."
)
LEVEL_NOT_READ = Sentence("Nobody has read the level: taken at the full mark, the side that runs over.")
TOPPED_UP = Sentence(
    "The level is high while the pads are thin: the reservoir was topped up as they wore. That is how it runs over."
)
OLD_PADS_UNREAD = Sentence(
    "Nobody has measured the pads that come off: taken as thin as when they are changed, the side that runs over."
)
WOULD_RUN_OVER = Sentence("Pushed back with the screws closed, {over:fluidVolume|up} would run over.")
RESERVOIR_GUESSED = Sentence("{marks:fluidVolume} between the marks is an estimate.")
