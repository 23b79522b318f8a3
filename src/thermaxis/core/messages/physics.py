"""What a computation says about itself."""

from __future__ import annotations

from thermaxis.core.said import Sentence

CANNOT_STOP = Sentence("the brakes could not slow the vehicle to the wanted speed")
FORCE_ASKED_FOR = Sentence(
    "the speed asked for {wanted:force} at the pedal, more than {greatest:force}, from {when:shortSeconds} on, for "
    "{limited:shortSeconds} in all: the brakes could not have given it"
)
FADE = Sentence("at {greatest:force} on the pedal the brakes gave less than wanted from {when:shortSeconds} on: fade")
PRESSURE = Sentence("line pressure above {limit:pressure} at the greatest pedal force")
