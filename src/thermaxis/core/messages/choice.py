"""Why a set is ranked where it is, or rejected."""

from __future__ import annotations

from thermaxis.core.messages.verdict import UNDER_DISCARD, UNDER_GUESSED_DISCARD
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

# The same in a line: what is out, and by how much.
HEADS = {
    PAD_TOO_HOT.template: Sentence("{axle|capital} pads fade: {value:temperature}, limit {allowed:temperature}"),
    ROTOR_TOO_HOT.template: Sentence("{axle|capital} rotor too hot: {value:temperature}, limit {allowed:temperature}"),
    DOES_NOT_FIT.template: Sentence("Does not fit inside the {axle} wheel: {missing:thickness} are missing"),
    DOES_NOT_STOP.template: Sentence("Cannot stop: full pedal force does not slow it to the wanted speed"),
    FLUID_BOILS.template: Sentence("Fluid boils: {peak:temperature}, limit {boiling:temperature}"),
    FLUID_BOILS_WORN.template: Sentence(
        "Fluid boils once the pads are worn: {peak:temperature}, limit {boiling:temperature}"
    ),
    FADES.template: Sentence("{axle|capital} pads fade: friction {mu:ratio}, more than {greatest:force} needed"),
    TOO_COLD.template: Sentence(
        "{axle|capital} pads too cold to bite: friction {mu:ratio}, more than {greatest:force} needed"
    ),
    TOO_HEAVY.template: Sentence("Pedal too heavy: more than {greatest:force} needed"),
    REAR_FIRST.template: Sentence("Rear locks first, at {at:decel}"),
    UNDER_DISCARD.template: Sentence("{axle|capital} rotor worn out: {thickness:reading}, discard {discard:reading}"),
    UNDER_GUESSED_DISCARD.template: Sentence(
        "{axle|capital} rotor worn out: {thickness:reading}, discard {discard:reading} (estimate)"
    ),
}
DUE_NOW = Sentence("{axle|capital} pads due now")
DUE_IN = Sentence("{axle|capital} pads due in {events:someEvents}")
OUTSIDE = Sentence("Braking outside the pad's window: {share:percent}, {where}")
NEAR_RING = Sentence("{axle|capital} ring close: {value:temperature}, limit {limit:temperature}")
NEAR_PEDAL = Sentence("Pedal close: {value:force}, limit {limit:force}")
NEAR_FLUID = Sentence("Fluid close: {value:temperature}, limit {limit:temperature}")
WITHIN = Sentence(
    "Every limit holds: pads and rings with {left:temperatureChange} to spare, the fluid with "
    "{fluid:temperatureChange} on worn pads"
)

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
PAD_LIFE = Sentence("pads last {events:someEvents}")
QUIET = Sentence("noise {noise:plain} of 5")
CLEAN_WHEELS = Sentence("dust {dust:plain} of 5")
ROTOR_WEAR = Sentence("takes about {wear:wearPerEvent|two} off a rotor with each pad set")
COST_ROTORS = Sentence("pads at {money}{an_hour:finePrice} an hour, rotors at {money}{bought:price}")
COST_PADS = Sentence("pads at {money}{an_hour:finePrice} an hour, on the rotors it has")
COST_SET_UP = Sentence("pads at {money}{an_hour:finePrice} an hour, the set-up at {money}{bought:price}")
