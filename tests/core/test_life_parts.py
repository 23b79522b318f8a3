"""Cracks, fluid, rings, when to change and whether a machine is ready, by hand and by published examples."""

from __future__ import annotations

import dataclasses
import datetime as dt
import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.cases_data import load
from tests.said import metric
from thermaxis.core.errors import FieldError
from thermaxis.core.physics.materials import PATTERN_FACTORS, materials
from thermaxis.core.planning.life import fatigue
from thermaxis.core.planning.life.changing import Change, Coming, Due, Terms, changes
from thermaxis.core.planning.life.fatigue import Look, crack_scale, cycles_of, damage, events_to_crack, strengths
from thermaxis.core.planning.life.fluid import FluidTest, fluid_state
from thermaxis.core.planning.life.forecast import Hot, cracks_ahead, draws_of, margins_ahead, word_of
from thermaxis.core.planning.life.hoses import hose_life
from thermaxis.core.planning.life.ready import Along, Part, fluid_reason, part_reason, readiness
from thermaxis.core.planning.life.rings import ring_wear_m
from thermaxis.core.records import Rotor

TODAY = dt.date(2026, 11, 27)


def test_rainflow_as_the_standard_counts_it() -> None:
    # ASTM E1049-85 (2017), X1.1 and figure 6: -2, 1, -3, 5, -1, 3, -4, 4, -2.
    assert cycles_of([-2, 1, -3, 5, -1, 3, -4, 4, -2]) == [(3, 0.5), (4, 1.5), (6, 0.5), (8, 1.0), (9, 0.5)]


def test_cycles_by_universal_slopes_as_worked_in_the_textbooks() -> None:
    """Manson's universal slopes, 3.5 (s_u/E) N^-0.12 + D^0.6 N^-0.6, worked by hand for a steel of s_u = 1 GPa, E =
    200 GPa and RA = 0.5 (D = 0.6931): at 1000 cycles 0.0175 x 0.4365 + 0.8026 x 0.01585 = 0.00764 + 0.01272 = 0.02036.
    """
    steel = fatigue.Strength(tensile_Pa=1e9, ductility=-math.log(0.5), youngs_Pa=2e11)
    assert steel.range_at(1000.0) == pytest.approx(0.02036, rel=2e-3)
    assert steel.cycles_at(0.02036) == pytest.approx(1000.0, rel=0.01)
    assert steel.cycles_at(10.0) == fatigue.LEAST_CYCLES
    assert steel.cycles_at(0.0) == fatigue.MOST_CYCLES


def test_damage_adds_up_and_holes_cost_it() -> None:
    rotor = load("roadster-circuit").front.rotor
    stop = [0.0, 150.0, -20.0]
    ten, twenty = damage([*stop * 10, 0.0], rotor), damage([*stop * 20, 0.0], rotor)
    assert 0 < damage([*stop, 0.0], rotor) < ten
    assert twenty / ten == pytest.approx(2.0, rel=0.05)
    material = strengths()[rotor.material]
    row = materials()[rotor.material]
    strain = fatigue.BAND * row.expansion_per_K * 170.0 / (1.0 - row.poisson)
    plain = PATTERN_FACTORS["plain"].stress
    by_hand = 9 / material.cycles_at(plain * strain)
    assert damage([*stop * 10], _pattern(rotor, "plain")) == pytest.approx(by_hand, rel=0.1)
    assert damage(stop * 10, rotor, peak_C=650.0) > 1.5 * damage(stop * 10, rotor, peak_C=300.0)
    assert damage([*stop], _pattern(rotor, "drilled")) > damage([*stop], _pattern(rotor, "plain"))


def _pattern(rotor: Rotor, pattern: str) -> Rotor:
    return dataclasses.replace(rotor, pattern=pattern)


def test_what_is_seen_of_a_face_moves_when_cracks_come() -> None:
    early, middle, late = events_to_crack(0.0, 0.05, crack_scale([]))
    # Lognormal of sigma 0.7 about 20 events: P10 and P90 at exp(-+1.2816 x 0.7).
    assert middle == pytest.approx(20.0, rel=0.02)
    assert [early, late] == pytest.approx([20 / 2.453, 20 * 2.453], rel=0.03)
    sound = crack_scale([Look(damage=1.0, cracked=False)])
    assert events_to_crack(1.0, 0.05, sound)[1] > events_to_crack(1.0, 0.05, crack_scale([]))[1]
    cracked = crack_scale([Look(damage=0.3, cracked=False), Look(damage=0.5, cracked=True)])
    assert float(cracked.sound(0.5)) < 0.2
    assert float(cracked.sound(0.3)) > 0.8
    assert events_to_crack(0.5, 0.05, cracked)[1] == 0.0
    # Seen long before any are computed: the eye is believed, and the life before is not thrown over by one look.
    early_seen = crack_scale([Look(damage=0.001, cracked=True)])
    assert float(early_seen.sound(0.001)) <= 0.1
    assert float(early_seen.sound(0.0005)) > 0.5
    holds = cracks_ahead("ring", early_seen, 0.001, np.full(3, 1e-6), draws_of(3, 256)).mean(axis=0)
    assert (holds <= 0.12).all()
    # A later look that finds them gone was the better one: sound again until the computed time.
    assert float(crack_scale([Look(damage=0.001, cracked=True), Look(damage=0.002, cracked=False)]).sound(0.002)) > 0.5
    with pytest.raises(FieldError, match="damage"):
        crack_scale([Look(damage=-1.0, cracked=True)])


@given(used=st.floats(0.0, 2.0), step=st.floats(1e-4, 0.5))
def test_a_ring_never_grows_sound_again(used: float, step: float) -> None:
    holds = cracks_ahead("ring", crack_scale([]), used, np.full(5, step), draws_of(5, 256)).mean(axis=0)
    assert (np.diff(holds) <= 0).all()
    early, middle, late = events_to_crack(used, step, crack_scale([]))
    assert early <= middle <= late


def test_a_ring_wears_by_what_its_compound_takes() -> None:
    pad = load("roadster-circuit").front.pad
    # The energy that uses up 70 % of a set at its plain rate takes what the table says off the ring.
    whole = 2.0 * pad.area_m2 * 0.7 * pad.thickness_m / (pad.wear_mm3_per_MJ * 1e-15)
    assert ring_wear_m(0.0004, whole, pad) == pytest.approx(0.0004)
    assert ring_wear_m(0.0004, whole / 8, pad) == pytest.approx(0.00005)


def test_fluid_by_label_and_by_what_a_tester_says() -> None:
    half = np.full(4, 0.5)
    label = fluid_state(230.0, 155.0, [])
    # 22.2 months at 2 % a year are 3.7 %: wet.
    assert label.boiling_C(0.0, half, half) == pytest.approx(230.0, abs=0.5)
    assert label.boiling_C(11.1, half, half) == pytest.approx(192.5, abs=1.0)
    tested = fluid_state(230.0, 155.0, [FluidTest(months=12.0, boiling_C=175.0)])
    assert tested.boiling_C(12.0, half, half)[0] == pytest.approx(175.0, abs=6.0)
    # What is wetter than its age says goes on faster.
    assert tested.boiling_C(18.0, half, half)[0] < label.boiling_C(18.0, half, half)[0]
    percent = fluid_state(230.0, 155.0, [FluidTest(months=12.0, water_percent=3.0)])
    assert percent.boiling_C(12.0, half, half)[0] < label.boiling_C(12.0, half, half)[0]
    silicone = fluid_state(260.0, 180.0, [], takes_up=False)
    assert silicone.boiling_C(60.0, half, half) == pytest.approx(260.0)
    for wrong in ({"months": 5.0}, {"months": 5.0, "boiling_C": 180.0, "water_percent": 1.0}):
        with pytest.raises(FieldError, match="one of"):
            FluidTest(**wrong)


def test_the_fluid_forecast_is_honest() -> None:
    """300 fillings with hidden water gain and some tests: P10 to P90 of the margin hold 76 to 86 % at 1, 3, 6 events."""
    rng, draws = np.random.default_rng(5), draws_of(6, 512)
    inside, chances, outcomes = np.zeros(6), [], []
    for number in range(3000):
        gain, own, rise = np.exp(0.35 * rng.normal()), 4.0 * rng.normal(), 0.12 * rng.normal()
        start = rng.uniform(2.0, 14.0)

        def boils(months: float, gain: float = gain, own: float = own) -> float:
            return 260.0 - 75.0 * min(3.7, 2.0 * gain * months / 12.0) / 3.7 + own

        tests = [
            FluidTest(months=months, boiling_C=boils(months) + 4.0 * rng.normal())
            for months in sorted(rng.uniform(0.0, start, rng.integers(0, 3)))
        ]
        peaks = rng.uniform(140.0, 230.0, 6)
        events = [
            Hot(thickness_m=(0.003, 0.011), fluid_C=(peak + 20.0, peak - 20.0), air_C=20.0, months=start + k)
            for k, peak in enumerate(peaks)
        ]
        left = margins_ahead(fluid_state(260.0, 185.0, tests), events, np.full((512, 6), 0.007), draws, 0.12)
        truth = np.array([boils(start + k) - 20.0 - (peak - 20.0) * np.exp(rise) for k, peak in enumerate(peaks)])
        low, high = np.percentile(left, (10, 90), axis=0)
        inside += (low <= truth) & (truth <= high) & (number < 300)
        chances.append((left > 0).mean(axis=0))
        outcomes.append(truth > 0)
    for k in (1, 3, 6):
        assert 0.76 <= inside[k - 1] / 300 <= 0.86, inside / 300
    said, came = np.concatenate(chances), np.concatenate(outcomes)
    for tenth in range(10):
        chosen = (said >= tenth / 10) & (said <= (tenth + 1) / 10)
        assert abs(said[chosen].mean() - came[chosen].mean()) < 0.05, (tenth, chosen.sum())


def days(*ahead: int) -> list[Coming]:
    return [Coming(name=f"round {i + 1}", on=TODAY + dt.timedelta(days=day)) for i, day in enumerate(ahead)]


def due(part: str, chances: tuple[float, ...], left: tuple[float, ...], **more: object) -> Due:
    return Due(key=part, part=part, job="front", chances=chances, left=left, price=120.0, **more)  # type: ignore[arg-type]


def change_of(found: tuple[Change, ...], part: str) -> Change:
    return next(change for change in found if change.part == part)


def test_five_changes_worked_by_hand() -> None:
    events, terms = days(20, 40, 60), Terms(work=60.0, spoilt=250.0, reserve_days=5)
    pads = due("front pads", (0.99, 0.9, 0.3), (0.5, 0.3, 0.1), lead_days=10)

    # Alone: before the second event, which it holds through by 90 % only; ordered 40 - 10 - 5 days from now.
    (alone,) = changes([pads], events, TODAY, terms)
    assert (alone.before, alone.late) == (1, False)
    assert alone.order_by == TODAY + dt.timedelta(days=25)
    # Waiting: 10 % of 250 against 30 % of 120.
    assert [alone.risk, alone.lost] == pytest.approx([25.0, 36.0])

    # Early, together: the rings hold one event more, and 0.4 of 120 is less than the 60 of doing the work twice.
    rings = due("front rings", (1.0, 1.0, 0.8), (0.5, 0.4, 0.2))
    together = changes([pads, rings], events, TODAY, terms)
    assert [change.before for change in together] == [1, 1]
    assert "30 %" not in metric(change_of(together, "front rings").reasons[0])
    assert "40 % of its life" in metric(change_of(together, "front rings").reasons[0])

    # Late, apart: with 0.9 of their life left they wait for their own time.
    young = due("front rings", (1.0, 1.0, 0.8), (0.95, 0.9, 0.85))
    apart = changes([pads, young], events, TODAY, terms)
    assert [(change.part, change.before) for change in apart] == [("front pads", 1), ("front rings", 2)]
    assert "not with the front pads" in metric(change_of(apart, "front rings").reasons[0])

    # Ordered too late: 45 days of lead pass the event, and it says so.
    slow = due("front pads", (0.99, 0.9, 0.3), (0.5, 0.3, 0.1), lead_days=45)
    (late,) = changes([slow], events, TODAY, terms)
    assert late.late
    assert "after round 2" in metric(late.order)
    hurried = due("front pads", (0.99, 0.9, 0.3), (0.5, 0.3, 0.1), lead_days=38)
    (now,) = changes([hurried], events, TODAY, terms)
    assert not now.late
    assert metric(now.order).startswith("order now")

    # On the very day it comes too late; the very day to order is not past yet.
    on_the_day = due("front pads", (0.99, 0.9, 0.3), (0.5, 0.3, 0.1), lead_days=40)
    assert changes([on_the_day], events, TODAY, terms)[0].late
    today = due("front pads", (0.99, 0.9, 0.3), (0.5, 0.3, 0.1), lead_days=35)
    (just,) = changes([today], events, TODAY, terms)
    assert (just.order_by, just.late) == (TODAY, False)
    assert not metric(just.order).startswith("order now")

    # A spare on the shelf: nothing to order.
    (spare,) = changes(
        [due("front pads", (0.99, 0.9, 0.3), (0.5, 0.3, 0.1), shelf="Fellmark R4")], events, TODAY, terms
    )
    assert spare.order_by is None
    assert "on the shelf" in metric(spare.order)

    # What lasts is not spoken of, what is due by its age is, whatever its likelihood.
    lasting = due("rear pads", (0.99, 0.98, 0.97), (0.8, 0.7, 0.6))
    assert changes([lasting], events, TODAY, terms) == ()
    (aged,) = changes([due("fluid", (0.99,) * 3, (0.1,) * 3, due=2)], events, TODAY, terms)
    assert aged.before == 2
    with pytest.raises(FieldError, match="one for each of 3 events"):
        changes([due("fluid", (0.9,), (0.1,))], events, TODAY, terms)


@pytest.mark.parametrize(
    ("months", "state"), [(0.0, "fine"), (71.9, "fine"), (72.0, "close"), (119.9, "close"), (120.0, "over")]
)
def test_rubber_is_judged_from_the_day_it_is_that_old(months: float, state: str) -> None:
    assert hose_life(months).state == state
    assert hose_life(months).months_left == pytest.approx(120.0 - months)


def test_a_likelihood_at_its_limit_is_on_the_cautious_side() -> None:
    assert [word_of(chance) for chance in (0.951, 0.95, 0.60, 0.599)] == [
        "survives",
        "take spares",
        "take spares",
        "change before",
    ]
    assert [fluid_reason(margin, 20.0).state for margin in (50.0, 49.9, 0.1, 0.0)] == ["fine", "close", "close", "over"]


def test_go_look_no_go_by_the_gravest_reason() -> None:
    sure, doubtful, hopeless = (Part(name="front pads", chance=c, spare="Fellmark R4, front") for c in (0.99, 0.8, 0.3))
    go = readiness(
        [part_reason(sure), fluid_reason(90.0, 20.0)],
        [sure],
        fluid="Fellmark 310",
        tools=(Along(name="hex", size_m=0.006),),
    )
    assert go.word == "go"
    names = [thing.name for thing in go.take]
    assert "Fellmark R4, front" not in names
    assert {"Fellmark 310", "hex", "torque wrench"} <= set(names)
    look = readiness([part_reason(doubtful), fluid_reason(90.0, 20.0)], [doubtful], fluid="Fellmark 310", tools=())
    assert (look.word, look.take[0].name) == ("look", "Fellmark R4, front")
    no = readiness([fluid_reason(-3.0, 30.0), part_reason(sure)], [hopeless], fluid="", tools=())
    assert (no.word, no.reasons[0].state) == ("no-go", "over")
    assert "may boil, 3 K over" in metric(no.reasons[0].text)
    assert fluid_reason(30.0, 20.0).state == "close"
    assert part_reason(hopeless).state == "over"
