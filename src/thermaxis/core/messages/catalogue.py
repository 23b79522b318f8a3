"""What is asked about parts that are taken in, and why a machine is offered few of them."""

from __future__ import annotations

from thermaxis.core.said import Sentence

DIAMETER_TYPED = Sentence(
    "a ring {across:diameter} across, more than wheels have room for: was the diameter typed in the place of the "
    "radius?"
)
SMALL_RING = Sentence("a ring only {across:diameter} across: was it typed in another unit?")
THICK_PAD = Sentence("{thick:thickness} of friction material: is the backing plate in it?")

PAD_SIZE = Sentence("{area:area}, {thick:thickness}")
RING_NAMED = Sentence("{name}")

NO_MOUNT = Sentence(
    "No rotor of the catalogue is offered for the {axle}: nobody has said which mount it has. Measure diameter, offset "
    "and bore of what is on it, or say here which of the catalogue's fits."
)
NO_ROTOR = Sentence(
    "No rotor of the catalogue has the {axle} mount, {mount}: add those you can get under Catalogue, or say here which "
    "fits."
)
NO_SHAPE = Sentence(
    "The {axle} pads' shape is not known: every compound made for such vehicles is offered in the size measured. Say "
    "which shape it takes, and only what is sold in it is left."
)
NO_PAD = Sentence(
    "No compound of the catalogue is sold in the {axle} pads' shape, {shape}: add its row under Catalogue, pad shapes, "
    "or say here which shape fits."
)
