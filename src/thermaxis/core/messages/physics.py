"""What a computation says about itself."""

from __future__ import annotations

from thermaxis.core.said import Sentence

CANNOT_STOP = Sentence("the brakes could not slow the vehicle to the wanted speed")
FORCE_ASKED_FOR = Sentence(
    "the speed asked for {wanted:force} at the pedal, more than {greatest:force}, from {when:shortSeconds} on, for "
    "{limited:shortSeconds} in all: the brakes could not have given it"
)
FORCE_LIMITED = Sentence(
    "at {greatest:force} on the pedal the brakes gave less than wanted from {when:shortSeconds} on, with friction "
    "{mu:friction} of the {axle} pads at {at:temperature}, near their best: the stop takes longer"
)
FORCE_LIMITED_FADE = Sentence(
    "at {greatest:force} on the pedal the brakes gave less than wanted from {when:shortSeconds} on, the friction of "
    "the {axle} pads down to {mu:friction} at {at:temperature}: fade, the stop takes longer"
)
FORCE_LIMITED_COLD = Sentence(
    "at {greatest:force} on the pedal the brakes gave less than wanted from {when:shortSeconds} on, the friction of "
    "the {axle} pads only {mu:friction} at {at:temperature}: cold, the stop takes longer"
)
GRIP_LIMITED = Sentence(
    "the tyres (grip {grip:friction}) held less than wanted from {when:shortSeconds} on, for {lasting:shortSeconds} in "
    "all: the stop takes longer"
)
BEYOND_GRIP = Sentence(
    "the speed asked for more than the tyres (grip {grip:friction}) hold, from {when:shortSeconds} on, for "
    "{lasting:shortSeconds} in all: it could not have been driven"
)
BEYOND_GRIP_RIDER = Sentence(
    "the speed asked for more than the tyres (grip {grip:friction}) hold, or than leaves the rear wheel on the ground, "
    "from {when:shortSeconds} on, for {lasting:shortSeconds} in all: it could not have been driven"
)
REGEN_BEYOND_GRIP = Sentence(
    "regeneration asked more of its axle than its tyres (grip {grip:friction}) hold, from {when:shortSeconds} on, for "
    "{lasting:shortSeconds} in all: the axle would lock or slip"
)
NOT_BRAKED = Sentence("the brakes are not used: drag, rolling, the engine and any regeneration hold the speed")
PRESSURE = Sentence("line pressure above {limit:pressure} at the greatest pedal force")
