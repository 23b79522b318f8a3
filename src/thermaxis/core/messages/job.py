"""Why a step is not on a sheet, why a tick is not taken, and what a torque makes one ask."""

from __future__ import annotations

from thermaxis.core.said import Sentence

OTHER_WORK = Sentence("not part of this work: {work}")
ONLY_FOR = Sentence("only for {what}")
NOT_FOR = Sentence("not for {what}")

# Torques.
FAR_FROM_USUAL = Sentence(
    "{torque:torque} is far from what {thread} usually bears, {low:torque} to {high:torque}. Is it right, and in its "
    "unit?"
)
AS_OTHER_AXLE = Sentence(
    "{torque:torque} is what the other axle has: front and rear are seldom the same. Is it this one's?"
)
OVER_TORQUE = Sentence(
    "{torque:torque} is {off:percent} over {wanted:torque}: loosen it, look at the thread, use a new bolt where it "
    "is used once, and tighten again."
)
UNDER_TORQUE = Sentence("{torque:torque} is {off:percent} under {wanted:torque}: go on until it clicks.")

TORQUE_NOW = Sentence(
    "tightened to {torque:torque}, and {wanted:torque} is written down by now: tighten it to that, or see which is "
    "right"
)

# Why a tick is not taken yet.
WAITS_FOR = Sentence("first: {what}")
NO_TORQUE = Sentence(
    "no torque: look it up in the vehicle's manual and write it down, or say in words why it needs none"
)
NOT_RELEASED = Sentence("the parking brake is not in service mode: pushing now breaks its motor")
NOT_HOME = Sentence("the tool has not said home yet: pushing now breaks the motor")
NOT_LEARNED = Sentence("the parking brake has not learned where the pads are: not to be driven")
KIT_STOPS = Sentence("Fit says stop: {what}")
KIT_NOT_LOOKED = Sentence("nobody has looked yet which side this ring is made for: say so under Fit")
NOT_A_STEP = Sentence("no step of this sheet")
RECHECK_FIRST = Sentence("it is checked again once it is tightened")
NOT_TIGHTENED = Sentence("only what is tightened is checked again")

# What stands against closing.
OPEN_STEPS = Sentence("{count:count} steps that block are open, the first: {what}")
NOT_RECHECKED = Sentence("not checked again: {what}")
OTHER_TORQUE = Sentence("{what}: {why}")

BOLTS_DUE = Sentence("wheel bolts once more, due at {at:distance}")

# Stand-ins.
LOW_VOLTAGE = Sentence("{volts:tenth} V: under {least:tenth} V. Put a charger on and try again.")
STALLED = Sentence(
    "The motor stalled. Stop, look whether the lead and the caliper are free, read voltage, then try once more."
)
LOST_CONTACT = Sentence(
    "No contact to the vehicle. Check the plug and the ignition, connect again: it goes on where it was."
)
TOOL_READY = Sentence("connected, {volts:tenth} V")
TOOL_RELEASED = Sentence("released")
TOOL_HOME = Sentence("home after {took:seconds}")
TOOL_LEARNED = Sentence("clamped and learned")
CONNECT_FIRST = Sentence("connect the tool first")
RELEASE_FIRST = Sentence("release the parking brake first")
HOME_FIRST = Sentence("the pistons are not home yet: nothing to leave")
SENSORS_CUT = Sentence("reported worn: {corners}")
SENSORS_WHOLE = Sentence("no wear sensor has reported")
MESSAGE_RESET = Sentence("pad-wear message reset")

# Said once on a sheet, and beside the steps they belong to.
CAUTIONS = {
    "stands": "Stands under named points and chocks; never under a jack alone; one axle at a time.",
    "springs": "Springs fly: eye protection on.",
    "dust": "Brake dust is not to be breathed: wet, never with compressed air.",
    "fluid": "Brake fluid eats paint and skin: water at hand. Nothing drawn off goes back in.",
    "motor": "Never push against the parking brake's motor: service mode first, or the manual's own way by hand.",
    "hot": "Hot parts burn, and hot fluid boils out: let it cool.",
    "pedal": "Pedal firm before anything moves. First stops are weak: walking pace, empty ground.",
}
