"""What the balance and a change of parts say, and what a recording takes away from its answer."""

from __future__ import annotations

from thermaxis.core.said import Sentence

REAR_FIRST_RIDER = Sentence("rear locks first at {at:decel} {road}: the rider's hands decide: less rear brake")
REAR_FIRST = Sentence("rear locks first at {at:decel} {road}: the vehicle turns round")
LIFT = Sentence("the rear wheel lifts at {lift:decel}, before the tyres' {grip:decel} are used")
WEAK = Sentence("no axle locks dry: the greatest pedal force gives {given:decel} of the tyres' {possible:decel}")
FADE = Sentence(
    "at the duty's hottest, {front:temperature} in front and {rear:temperature} behind, the same pedal gives "
    "{lost:percent} less"
)
REAR_FIRST_HOT = Sentence("hot, the rear locks first at {at:decel}: the front has faded more")

CALIPER_TOO_BIG = Sentence("the {axle} caliper does not fit inside the wheel: {over:travel} too big")
TIGHT = Sentence("only {room:thickness} between {axle} caliper and wheel: measure before ordering")
NOW_REAR_FIRST = Sentence("now the rear locks first, at {at:decel} dry: it did not before")
NOW_WEAK = Sentence("the greatest pedal force no longer gives {wanted:decel}")
BALANCE_MOVES = Sentence("balance moves {moved:points} {way}")
BALANCE_MOVES_LOCK = Sentence(
    "balance moves {moved:points} {way}; the first wheel locks {when}, at {after:decel} instead of {before:decel}"
)
LONG_PEDAL = Sentence("the pedal goes down {travel:travel} before the pads touch: too long for comfort")
LONGER_PEDAL = Sentence("the pedal gets {more:percent} longer: more fluid has to move for the same way of the pads")
SHORTER_PEDAL = Sentence("the pedal gets {less:percent} shorter and harder")
GRIP = Sentence("the tyres decide the shortest stop, and they are the same: what changes is the force it takes")

SLOW_RECORDING = Sentence("{rate:tenth} readings a second: short brakings fall between them, and peaks come out low")
GAPS = Sentence("{share:percent} of the time is missing: what was driven there is a guess")

ESTIMATES = Sentence("{count:someEstimates}")
ENTRIES = Sentence("{count:count} entries")
CELLS_IN = Sentence("{count:someCells} in")
PADS_DUE = Sentence("{axle} pads in {events:someEvents}")
PADS_DUE_NOW = Sentence("{axle} pads due now")
