"""What a workshop has to do next."""

from __future__ import annotations

from thermaxis.core.said import Sentence

CHANGE_FOR = Sentence("change {part} before {event}: {chance:percent} to last through it")
DRIVEN = Sentence("was {event} driven?")
EVENT = Sentence("{event}, {duty}")
AGE = Sentence("{part} due by age")
PADS = Sentence("{axle} pads worn at the usual pace")
JOB = Sentence("job open: {work}, {axle} axle")
CHANGE_WHY = Sentence("change {part} before {event}: {why}")
BOLTS = Sentence("wheel bolts of the {axle} axle to be checked again")
BED = Sentence("{axle} pads to be bedded in")
ORDER = Sentence("order {name}")
WAITS = Sentence("{name} is on its way")
