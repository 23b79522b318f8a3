"""What is needed of small parts, and what is wrong with those that came."""

from __future__ import annotations

from thermaxis.core.said import Sentence

BOTH_SIDES = Sentence("both wheels of an axle are done together")
CLIPS = Sentence("new with the pads: worn ones let the pads stick and knock")
SPRINGS = Sentence("one a caliper")
PINS = Sentence("with their clips; grooved ones hold the pads")
PATCHED = Sentence("come with a patch of locking compound that works once; the manual says whether others may go back")
ONCE = Sentence("many are used once: the manual says")
PISTON_CLIPS = Sentence("the inner pads: their clip goes into the hollow piston")
SCREWS = Sentence("they seldom come out whole")
GREASE = Sentence("for brakes; silicone on rubber boots")
LOCKER = Sentence("unless new patched bolts are used, or the manual says dry")
WASHERS = Sentence("two at each hose that is opened, never used twice")
FLUID = Sentence("for what bleeding takes")

TAB_ONE = Sentence("one a wheel, on the {side} pad")
TABS_ALL = Sentence("on every pad")
NO_TABS = Sentence("no pad warns by squealing: look at them more often")
NO_TABS_SENSOR = Sentence("no tabs: the electric sensor warns")
TAB_MISSING = Sentence("none for the {wheel} wheel: packs come two and two, one of them goes to each wheel")
TABS_ON_ONE_WHEEL = Sentence(
    "two on the {wheel} wheel and none for the other: one goes over, both on one wheel leave the other without warning"
)
TABS_TOO_MANY = Sentence("more than the {wheel} wheel has pads")

SENSOR_CUT = Sentence("it has cut in at the {corners}: works once, order it new by corner, its lead and plug differ")
SENSOR_UNSEEN = Sentence("look at the {corners} one: is it whole or cut in?")
SENSOR_NEW = Sentence("new where it has cut in")
SENSOR_WHOLE = Sentence("whole: goes back in")

VANES_BACK = Sentence("its vanes lean back: it pumps outwards")
FACE_RIGHT = Sentence("by the maker's label")
NOT_LOOKED = Sentence("which side is the one for the {side} made for? Look before it goes on")
WRONG_VANES = Sentence("a {mark} rotor in the box for the {side}: its vanes would lean forward and pump nothing")
WRONG_FACE = Sentence("labelled {mark} and in the box for the {side}: the maker says which side its slots are for")
SWAPPED = Sentence("left and right are in each other's place: swap them")
TWO_ALIKE = Sentence("both {vanes} the same way: one has to go back, and one for the {side} come")
