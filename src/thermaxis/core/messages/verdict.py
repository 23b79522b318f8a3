"""Limits, as clauses without a full stop."""

from __future__ import annotations

from thermaxis.core.said import Sentence

PEDAL_OVER = Sentence("more than {allowed:force} at the pedal would be needed")
PEDAL_UNDER = Sentence("the pedal needs {value:force|bare} of {allowed:force}")
FLUID_OVER = Sentence(
    "the {axle} fluid reaches {value:temperature}, {amount:temperatureChange} over boiling at {allowed:temperature}"
)
FLUID_UNDER = Sentence(
    "the {axle} fluid reaches {value:temperature}, {amount:temperatureChange} under boiling at {allowed:temperature}"
)
WORN_FLUID_OVER = Sentence(
    "with worn pads the {axle} fluid reaches {value:temperature}, {amount:temperatureChange} over boiling at "
    "{allowed:temperature}"
)
WORN_FLUID_UNDER = Sentence(
    "with worn pads the {axle} fluid reaches {value:temperature}, {amount:temperatureChange} under boiling at "
    "{allowed:temperature}"
)
PAD_OVER = Sentence(
    "the {axle} ring reaches {value:temperature}, {amount:temperatureChange} over the pad's limit, "
    "{allowed:temperature}"
)
PAD_UNDER = Sentence(
    "the {axle} ring reaches {value:temperature}, {amount:temperatureChange} under the pad's limit, "
    "{allowed:temperature}"
)
ROTOR_OVER = Sentence(
    "the {axle} ring reaches {value:temperature}, {amount:temperatureChange} over what the rotor's material bears, "
    "{allowed:temperature}"
)
ROTOR_UNDER = Sentence(
    "the {axle} ring reaches {value:temperature}, {amount:temperatureChange} under what the rotor's material bears, "
    "{allowed:temperature}"
)
UNDER_DISCARD = Sentence(
    "The {axle} rotor is {thickness:thickness} thick, discard is {discard:thickness}: replace it in pairs before it is "
    "driven again."
)
UNDER_GUESSED_DISCARD = Sentence(
    "The {axle} rotor is {thickness:thickness} thick, discard is {discard:thickness}: replace it in pairs before it is "
    "driven again. That discard is an estimate: read what is cast in the hat."
)
