"""Reason sentences are true: every number in every one of them is computed again here from the bare result."""

from __future__ import annotations

import math
import re

import numpy as np
import pytest
from scipy.interpolate import PchipInterpolator

from tests.said import metric
from tests.workshop import duty_named, machine_named
from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.catalogue.models import Pad, Rotor
from thermaxis.apps.choose import choosing
from thermaxis.apps.solving.trying import NOTHING, WhatIf
from thermaxis.core.physics.friction import friction_coefficient
from thermaxis.core.planning.choice.choose import Judged
from thermaxis.core.planning.verdict.worn import fluid_peaks

BIN_K = 10.0
COMBINATIONS = [
    ("Kit roadster", "Relay stint, Tarn loop", NOTHING, False),
    ("Kit roadster", "Relay stint, fast group", WhatIf(extra_mass_kg=150, fluid_age_months=60), False),
    ("Kit roadster", "Street mix", NOTHING, True),
    ("Electric hatch", "Hill-climb day", NOTHING, True),
    ("Horse-box 4x4", "Hause pass with trailer", WhatIf(speed_factor=1.4), False),
    ("Horse-box 4x4", "Scar brow, overloaded", WhatIf(fluid_age_months=110), True),
    ("Middleweight twin", "Sprint day", WhatIf(air_C=38), False),
    ("Parcel van", "Town parcel round", WhatIf(repeats=60), True),
]


def outside(entry: Judged, axle: str) -> tuple[float, float]:
    """Shares of an axle's braking energy below and over its pad's window, bin by bin."""
    limits = getattr(entry.candidate.setup, f"{axle}_limits")
    energy = getattr(entry.result, axle).energy_by_temperature_J
    total = math.fsum(energy) or 1.0
    cold = hot = 0.0
    for place, joules in enumerate(energy):
        low, high = place * BIN_K, (place + 1) * BIN_K
        cold += joules * min(1.0, max(0.0, (limits.window_low_C - low) / BIN_K))
        hot += joules * min(1.0, max(0.0, (high - limits.window_high_C) / BIN_K))
    return cold / total, hot / total


def worse_axle(entry: Judged) -> tuple[float, float]:
    return max((outside(entry, axle) for axle in ("front", "rear")), key=sum)


def events(entry: Judged) -> float:
    c = entry.candidate
    left = []
    for axle, limit in (("front", c.front_change_m), ("rear", c.rear_change_m)):
        wear = getattr(entry.result, axle).pad_wear_m
        new = getattr(c.setup.case, axle).pad.thickness_m
        left.append(min(99999.0, (new - limit) / wear) if wear > 0 else 99999.0)
    return min(left)


def checks(entry: Judged, hours: float, workshop: Workshop, on_it: tuple[str, str]) -> list[tuple[str, list[float]]]:
    """What each clause may say, with its numbers as they come out of the result and the catalogue."""
    c, r = entry.candidate, entry.result
    case, setup = c.setup.case, c.setup
    peaks = {"front": r.front.peak_surface_C, "rear": r.rear.peak_surface_C}
    limits = {axle: getattr(setup, f"{axle}_limits").limit_C for axle in peaks}
    bears = {"grey_iron": 700.0, "high_carbon_iron": 740.0, "stainless": 650.0, "carbon_ceramic": 1300.0}
    material = {axle: bears[getattr(case, axle).rotor.material] for axle in peaks}
    cold, hot = worse_axle(entry)
    margins = [table[axle] - peaks[axle] for axle in peaks for table in (limits, material)]
    fluid = max(r.front.peak_fluid_C, r.rear.peak_fluid_C)
    pads = [Pad.objects.of(workshop).get(name=name) for name in (c.pad, c.rear_pad)]
    rotors = [Rotor.objects.of(workshop).get(name=name) for name in (c.front_rotor, c.rear_rotor)]
    # Rotors that are on it already are not bought.
    price = sum(
        rotor.price * axle.rotors
        for rotor, axle, place in zip(rotors, (case.front, case.rear), on_it, strict=True)
        if rotor.name != place
    )
    family = {
        "organic": 0.15,
        "ceramic": 0.2,
        "low-metallic": 0.3,
        "semi-metallic": 0.4,
        "sintered": 0.25,
        "race carbon-metallic": 0.5,
    }
    figures, short = entry.figures, r.short_of_force
    lives = {"front": figures.front_life_events, "rear": figures.rear_life_events}
    an_event = c.front_pads_price / lives["front"] + c.rear_pads_price / lives["rear"]
    worn_C = max(fluid_peaks([c.worn_case])[0])
    margin, worn = setup.boiling_C - fluid, setup.boiling_C - worn_C
    too_thick = [fit for fit in (c.front_fit, c.rear_fit) if fit is not None and fit.verdict == "does not fit"]
    found = [
        (
            r"(\d+\.\d) mm ± (\d\.\d) mm too thick",
            [value for fit in too_thick[:1] for value in (-1e3 * (fit.room_m or 0.0), 1e3 * fit.spread_m)],
        ),
        (r"(\d+) °C at most", [max(peaks.values())]),
        (r"(\d+) % of braking in the window", [100 * (1 - cold - hot)]),
        (r"(\d+) % too cold", [100 * cold]),
        (r"(\d+) % too hot", [100 * hot]),
        (r"(-?\d+) K to the nearest limit", [min(margins)]),
        (r"cold friction (\d\.\d\d)", [friction_coefficient(20.0, case.front.pad.mu)]),
        (r"(\d+) N at the pedal at worst", [r.peak_pedal_force_N]),
        (r"pads last ([\d.]+) events", [events(entry)]),
        (r"noise ([\d.]+) of (5)", [max(pad.noise for pad in pads), 5.0]),
        (r"dust ([\d.]+) of (5)", [max(pad.dust for pad in pads), 5.0]),
        (r"takes about ([\d.]+) mm off a rotor", [max(family[pad.family] for pad in pads)]),
        (r"pads at £([\d.]+) an hour, rotors at £(\d+)", [an_event / hours, price]),
        (r"pads at £([\d.]+) an hour, on the rotors it has", [an_event / hours]),
        (
            r"The fluid reaches (\d+) °C in the hot soak, (\d+) K over its boiling point at this age, (\d+) °C",
            [fluid, fluid - setup.boiling_C, setup.boiling_C],
        ),
        (r"fluid margin (-?\d+) K with new pads and (-?\d+) K with worn ones", [margin, worn]),
        (
            r"With the pads down to ([\d.]+) mm in front and ([\d.]+) mm behind, as they are when changed, the fluid "
            r"reaches (\d+) °C in the hot soak, (\d+) K over its boiling point at this age, (\d+) °C; with new ones "
            r"(\d+) °C",
            [1e3 * c.front_change_m, 1e3 * c.rear_change_m, worn_C, -worn, setup.boiling_C, fluid],
        ),
        (
            r"(?:falls to|is only|With friction) (\d\.\d\d) (?:at|on the \w+ pads at) (\d+) °C.*?for (\d+) s more than "
            r"(\d+) N",
            [short.mu, short.at_C, short.seconds, case.hydraulics.max_pedal_force_N] if short else [],
        ),
        (r"locks first, at (\d\.\d\d) g", [entry.figures.lock_g]),
    ]
    for axle, name in (("front", c.pad), ("rear", c.rear_pad)):
        over, hard = peaks[axle] - limits[axle], peaks[axle] - material[axle]
        # Friction at that peak, from scipy's own interpolation of the compound's points.
        points = np.array(getattr(case, axle).pad.mu)
        curve = PchipInterpolator(points[:, 0], points[:, 1])
        mu = float(curve(np.clip(peaks[axle], points[0, 0], points[-1, 0])))
        found += [
            (
                rf"The {axle} ring reaches (\d+) °C, (\d+) K over the limit of {re.escape(name)}, (\d+) °C, "
                r"with μ (\d\.\d\d) left there",
                [peaks[axle], over, limits[axle], mu],
            ),
            (
                rf"The {axle} ring reaches (\d+) °C, (\d+) K over what its material bears, (\d+) °C",
                [peaks[axle], hard, material[axle]],
            ),
        ]
    return found


def close(text: str, value: float) -> bool:
    """Whether a number as written is the value, to the last digit written."""
    digits = len(text.partition(".")[2])
    return bool(abs(float(text) - value) <= 0.5 * 10**-digits + 1e-6 * abs(value) + 1e-9)


@pytest.mark.parametrize(("machine", "duty", "what_if", "mixed"), COMBINATIONS)
def test_every_number_in_every_reason_is_true(
    workshop: Workshop, machine: str, duty: str, what_if: WhatIf, mixed: bool
) -> None:
    chosen = machine_named(workshop, machine)
    chosen.duty = duty_named(workshop, duty)
    offer = choosing.offer_of(chosen, workshop, mixed=mixed)
    judged, _ = choosing.judged_candidates(offer, None, what_if)
    _, facts = choosing.under(offer, what_if, [])
    assert judged
    on_it = (offer.fitted.front_rotor, offer.fitted.rear_rotor)
    for entry in judged:
        left = metric(entry.reason)
        said = 0
        for pattern, values in checks(entry, facts.event_hours, workshop, on_it):
            match = re.search(pattern, left)
            if match is None:
                continue
            for text, value in zip(match.groups(), values, strict=True):
                assert close(text, value), (entry.reason, pattern, text, value)
            said += 1
            left = left.replace(match.group(0), "")
        assert said >= 1
        for name in (entry.candidate.pad, entry.candidate.rear_pad):
            left = left.replace(name, "")
        assert re.findall(r"\d", left) == [], entry.reason


def test_reasons_of_every_kind_were_read(workshop: Workshop) -> None:
    """The combinations above meet rejections of several kinds, or the test above would prove little."""
    kinds: set[str | None] = set()
    for machine, duty, what_if, mixed in COMBINATIONS:
        chosen = machine_named(workshop, machine)
        chosen.duty = duty_named(workshop, duty)
        judged, _ = choosing.judged_candidates(choosing.offer_of(chosen, workshop, mixed=mixed), None, what_if)
        kinds |= {entry.rejected_for for entry in judged}
    assert {None, "pad fades", "fluid boils", "fluid boils, pads worn"} <= kinds
