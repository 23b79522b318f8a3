"""A number opened: its formula with this machine's values in it. Every sum holds in either system of units."""

from __future__ import annotations

from thermaxis.core.said import Sentence

PARTS = Sentence("{parts|semicolons}")
LIST = Sentence("{parts|commas}")
MARGIN = Sentence("{axle} {limit} {allowed:temperature|bare} − {value:temperature|bare} = {left:temperatureChange}")
WINDOW = Sentence(
    "{axle} {working:percent} within {low:temperature|bare} to {high:temperature} ({cold:percent} below, "
    "{hot:percent} over)"
)
PEDAL = Sentence(
    "{worst:force}, {when:seconds} into the duty, of {greatest:force}; μ {front:ratio} front, {rear:ratio} rear then"
)
PEDAL_LEFT = Sentence(
    "{greatest:force|bare} − {worst:force|bare} = {left:force}, {when:seconds} into the duty; μ {front:ratio} "
    "front, {rear:ratio} rear then"
)
FLUID = Sentence("{boiling:temperature} − {peak:temperature} = {left:temperatureChange}")
FLUID_WORN = Sentence(
    "{boiling:temperature} − {peak:temperature} = {left:temperatureChange} with {front:thickness} of material left in "
    "front and {rear:thickness} behind; new ones {new:temperature}"
)
FLUID_LEFT = Sentence(
    "{boiling:temperature} at {age:someMonths}, {altitude:altitude} up − {peak:temperature} = "
    "{left:temperatureChange} with {front:thickness} of material left in front and {rear:thickness} behind; at their "
    "change, {front_change:thickness} and {rear_change:thickness}: {worn:temperature}, "
    "{worn_left:temperatureChange} left"
)
LIFE = Sentence("{axles|semicolons}: the lesser, {events:tenth} events")
LIFE_AXLE = Sentence("{axle} ({new:thickness|bare} − {limit:thickness}) / {wear:wearPerEvent}")
LIFE_LEFT = Sentence("{axle} ({now:thickness|bare} − {limit:thickness}) / {wear:wearPerEvent} = {events:tenth} events")
COST = Sentence(
    "({money}{front:price} / {front_events:tenth} events in front + {money}{rear:price} / {rear_events:tenth} events "
    "behind) / {hours:hours} = {money}{cost:finePrice} an hour"
)
YEAR = Sentence(
    "12 × {a_month:plain} events × ({money}{front:price} / {front_events:tenth} events in front + "
    "{money}{rear:price} / {rear_events:tenth} events behind) = {money}{cost:price} a year"
)
STRESS = Sentence(
    "{axle} {modulus:modulus} × {expansion:expansion} × {excess:temperatureChange} / (1 − {poisson:plain}) × "
    "{factor:plain} = {stress:stress}"
)
LOCK = Sentence(
    "grip {grip:ratio} is reached {ends|commas}; at {at:decel} the axles carry {front:force|bare} and {rear:force}"
)
LOCK_AT = Sentence("{axle} at {at:decel}")
LOCK_NEVER = Sentence("{axle} not within the greatest pedal force")
SHARE = Sentence(
    "{front:force} / ({front:force|bare} + {rear:force}) = {share:percent} at {pedal:force} on the "
    "pedal, rings at {ring:temperature}"
)
SCORE = Sentence("100 × ({parts|plus}) / {weights:plain} = {score:tenth}")
SCORE_PART = Sentence("{name} {score:ratio} × {weight:plain}")
CHANCE = Sentence(
    "runs over a limit: {over:count} of {runs:count} ({crossed|commas}); nearest, {limit}: "
    "{low:temperatureChange|bare} to {high:temperatureChange} left in 8 of 10 runs"
)
CHANCE_PEDAL = Sentence(
    "runs over a limit: {over:count} of {runs:count} ({crossed|commas}); nearest, {limit}: {low:force|bare} to "
    "{high:force} left in 8 of 10 runs"
)
CROSSED = Sentence("{limit} {over:count} of {runs:count}")
CROSSED_NONE = Sentence("none crosses any")
SPREAD = Sentence("estimates taken off in every run, {axles|semicolons}; mass ±{mass:percent}")
SPREAD_AXLE = Sentence(
    "{axle} friction ±{mu:percent}, cooling σ {cooling:ratio}, plates to caliper ±{backing:percent}, pad gap "
    "±{gap:percent}, caliper mass and area ±{caliper:percent}"
)
SPREAD_CALIBRATED = Sentence(
    "{axle} friction ±{mu:percent}, cooling σ {cooling:ratio}, plates to caliper σ {backing:ratio} (both fitted), pad "
    "gap ±{gap:percent}, caliper mass and area ±{caliper:percent}"
)
COLD = Sentence("front points {points|commas}: {mu:friction} at {at:temperature}")
MU_POINT = Sentence("{mu:plain} at {at:temperature}")
DECEL = Sentence("({front:force|bare} + {rear:force}) / (weight {weight:force}) = {decel:fineDecel}")
PUSHROD = Sentence("{pedal:force} × {ratio:plain} × {efficiency:plain} = {pushrod:force}")
MASTER = Sentence("{pushrod:force} + {booster:force} of the booster = {master:force}")
TRAVEL = Sentence("{fluid:volume} / {area:area} × {ratio:plain} = {travel:travel}, the gap of a pad {gap:bore}")

PEAK = Sentence(
    "{energy:energy} into one {axle} rotor in {time:minutes}, cooling × {cooling:ratio}: face at most "
    "{face:temperature} after {when:seconds}, ring's mean {bulk:temperature}"
)
PEAK_AGAINST = Sentence(
    "{energy:energy} into one {axle} rotor in {time:minutes}: face at most {face:temperature}, limit "
    "{limit:temperature}"
)
WEAR = Sentence(
    "half of {energy:energy} × w(T), {wear:specificWear} up to {knee:temperature}, over {area:area} = "
    "{worn:wearDepth} an event"
)
FIRST_STOP = Sentence(
    "{energy:fineEnergy} into one {axle} rotor in the {time:shortSeconds} of stop {number:count}: ring's mean = "
    "{ring:temperature}"
)
STOP = Sentence(
    "{before:temperature} after stop {last:count}, {energy:fineEnergy} into one {axle} rotor in the "
    "{time:shortSeconds} of stop {number:count}: ring's mean = {ring:temperature}"
)
ENERGY_ALL = Sentence(
    "{front_rotors:count} × {front:fineEnergy|bare} + {rear_rotors:count} × {rear:fineEnergy|bare} = {whole:energy}"
)
BRAKING = Sentence("{braking:seconds} of {whole:seconds}")
ENERGY = Sentence("{energy:fineEnergy} in {time:seconds} of braking")
TORQUE = Sentence("2 × {mu:friction} × {clamp:force} × {radius:radius} = {torque:torque} at {ring:temperature}")
PRESSURE = Sentence("{force:force} / {area:area} = {pressure:pressure}")
PRESSURE_VALVE = Sentence(
    "{force:force} / {area:area}, valve from {knee:pressure} on × {slope:plain} = {pressure:pressure}"
)
CLAMP = Sentence("{pressure:pressure} × {area:area} × {efficiency:ratio} = {clamp:force}")
FITTED_COOLING = Sentence(
    "{axle} cooling × {cooling:ratio} and conductance from backing plates to caliper × {backing:ratio}, fitted to "
    "temperatures measured on this machine"
)
