"""Why a set is ranked where it is, or rejected."""

from __future__ import annotations

from thermaxis.core.said import Sentence

PAD_TOO_HOT = Sentence(
    "The {axle} ring reaches {value:temperature}, {over:temperatureChange} over the limit of {pad}, "
    "{allowed:temperature}, with μ {there:ratio} left there."
)
ROTOR_TOO_HOT = Sentence(
    "The {axle} ring reaches {value:temperature}, {over:temperatureChange} over what its material bears, "
    "{allowed:temperature}."
)
DOES_NOT_FIT = Sentence(
    "It does not fit inside the {axle} wheel: {missing:thickness} are missing between caliper and rim."
)
DOES_NOT_STOP = Sentence("At full pedal force the vehicle does not slow down to the wanted speed.")
FLUID_BOILS = Sentence(
    "The fluid reaches {peak:temperature} in the hot soak, {over:temperatureChange} over its boiling point at this "
    "age, {boiling:temperature}."
)
FLUID_BOILS_WORN = Sentence(
    "With the pads down to {front:thickness} in front and {rear:thickness} behind, as they are when changed, the fluid "
    "reaches {peak:temperature} in the hot soak, {over:temperatureChange} over its boiling point at this age, "
    "{boiling:temperature}; with new ones {new:temperature}."
)
FADES = Sentence(
    "Friction of the {axle} pads falls to {mu:ratio} at {at:temperature}: for {limited:seconds} more than "
    "{greatest:force} at the pedal would be needed."
)
TOO_COLD = Sentence(
    "Friction of the {axle} pads is only {mu:ratio} at {at:temperature}, cold: for {limited:seconds} more than "
    "{greatest:force} at the pedal would be needed."
)
TOO_HEAVY = Sentence(
    "With friction {mu:ratio} on the {axle} pads at {at:temperature}, near their best, for {limited:seconds} more than "
    "{greatest:force} at the pedal would be needed."
)
REAR_FIRST = Sentence("The rear axle locks first, at {at:decel}.")

RANK = Sentence("{heat}.")
RANK_FOR = Sentence("{heat}. For it: {lifts}.")
RANK_AGAINST = Sentence("{heat}. Against it: {costs}.")
RANK_BOTH = Sentence("{heat}. For it: {lifts}. Against it: {costs}.")
HEAT = Sentence(
    "{hottest:temperature} at most, {inside:percent} of braking in the window, {left:temperatureChange} to the nearest "
    "limit, fluid margin {fluid:temperatureChange} with new pads and {worn:temperatureChange} with worn ones"
)
HEAT_OUTSIDE = Sentence(
    "{hottest:temperature} at most, {inside:percent} of braking in the window, {rest:percent} {outside}, "
    "{left:temperatureChange} to the nearest limit, fluid margin {fluid:temperatureChange} with new pads and "
    "{worn:temperatureChange} with worn ones"
)
COLD_BITE = Sentence("cold friction {mu:ratio}")
PEDAL = Sentence("{worst:force} at the pedal at worst")
PAD_LIFE = Sentence("pads last {events:events} events")
QUIET = Sentence("noise {noise:plain} of 5")
CLEAN_WHEELS = Sentence("dust {dust:plain} of 5")
ROTOR_WEAR = Sentence("takes about {wear:wearPerEvent|two} off a rotor with each pad set")
COST_ROTORS = Sentence("pads at {money}{an_hour:finePrice} an hour, rotors at {money}{bought:price}")
COST_SET_UP = Sentence("pads at {money}{an_hour:finePrice} an hour, the set-up at {money}{bought:price}")
