"""Decisions: readings, the choice and its sentences, sensitivities."""

from __future__ import annotations

import dataclasses
import math
import re

import pytest

from tests.cases_data import changed, load, plain_case
from tests.said import metric
from thermaxis.core.errors import FieldError
from thermaxis.core.physics.friction import friction_coefficient
from thermaxis.core.physics.simulate import simulate_one
from thermaxis.core.planning.choice.choose import (
    DEFAULT_WEIGHTS,
    Judged,
    Weights,
    criterion_scores,
    judge_candidates,
    weighted,
)
from thermaxis.core.planning.choice.figures import Candidate
from thermaxis.core.planning.choice.rescue import change_to_pass
from thermaxis.core.planning.explain.why import INPUTS, scaled, sensitivities, value_at
from thermaxis.core.planning.verdict import readings
from thermaxis.core.planning.verdict.worn import fluid_peaks, with_material
from thermaxis.core.records import Case, Stop, StopsDuty

STREET = readings.CompoundLimits(window_low_C=0, window_high_C=300, limit_C=400)
TRACK = readings.CompoundLimits(window_low_C=150, window_high_C=650, limit_C=800)
HOT_STOPS = StopsDuty(
    kind="stops", stops=(Stop(from_mps=40, to_mps=12, decel_mps2=8, then_s=14, then_speed_mps=30),), repeat=4
)
TOWN = StopsDuty(
    kind="stops", stops=(Stop(from_mps=13, to_mps=0, decel_mps2=2.5, then_s=60, then_speed_mps=11),), repeat=10
)


def setup_of(case: Case, limits: readings.CompoundLimits = STREET, boiling_C: float = 230.0) -> readings.Setup:
    return readings.Setup(case=case, front_limits=limits, rear_limits=limits, boiling_C=boiling_C)


def candidate(key: str, case: Case, limits: readings.CompoundLimits, **changes: object) -> Candidate:
    given_values: dict[str, object] = {
        "key": key,
        "pad": key,
        "rear_pad": key,
        "front_rotor": "plain",
        "rear_rotor": "plain",
        "setup": setup_of(case, limits),
        "noise": 2.0,
        "dust": 2.0,
        "rotor_wear_m": 0.0003,
        "front_pads_price": 50.0,
        "rear_pads_price": 50.0,
        "rotors_price": 100.0,
        "front_change_m": 0.003,
        "rear_change_m": 0.003,
        **changes,
    }
    return Candidate(**given_values)  # type: ignore[arg-type]


def field(duty: StopsDuty) -> list[Candidate]:
    """A street pad, a track pad that is weak cold, and the track pad on dearer rotors."""
    base = plain_case(duty=duty, rear__piston_area_m2=0.0008)
    street = changed(base, front__pad__mu=((0, 0.40), (300, 0.36), (450, 0.2)))
    street = changed(street, rear__pad__mu=street.front.pad.mu)
    track = changed(street, front__pad__mu=((0, 0.26), (300, 0.45), (700, 0.42)))
    track = changed(track, rear__pad__mu=track.front.pad.mu)
    return [
        candidate("street", street, STREET, noise=0.5, dust=1.0, front_pads_price=20.0, rear_pads_price=20.0),
        candidate("track", track, TRACK, noise=4.0, dust=4.0, front_pads_price=70.0, rear_pads_price=70.0),
        candidate(
            "track dear",
            track,
            TRACK,
            noise=4.0,
            dust=4.0,
            front_pads_price=70.0,
            rear_pads_price=70.0,
            rotors_price=900.0,
        ),
    ]


# --- readings ----------------------------------------------------------------------------------------------------------


def test_window_shares_split_bins_in_proportion_and_add_up() -> None:
    result = simulate_one(plain_case(duty=HOT_STOPS)).front
    shares = readings.window_shares(result, readings.CompoundLimits(window_low_C=95, window_high_C=215, limit_C=400))
    energy = result.energy_by_temperature_J
    below = sum(energy[:9]) + 0.5 * energy[9]
    assert shares.cold == pytest.approx(below / sum(energy))
    assert shares.cold + shares.working + shares.hot == pytest.approx(1.0)
    everything = readings.window_shares(result, readings.CompoundLimits(window_low_C=0, window_high_C=900, limit_C=900))
    assert everything.working == pytest.approx(1.0)


def test_readings_carry_their_own_numbers() -> None:
    case = load("roadster-circuit")
    result = simulate_one(case)
    strip = readings.five_readings(setup_of(case), result, {"front": 2.0, "rear": 9.0}, 1.0)
    rotor, window, pedal, fluid, life = strip
    assert [reading.name for reading in strip] == ["rotor", "window", "pedal", "fluid", "life"]
    assert rotor.value == max(result.front.peak_surface_C, result.rear.peak_surface_C)
    assert rotor.state == "over"
    assert window.state == "over"
    assert "too hot" in window.detail
    assert (pedal.value, pedal.limit) == (result.peak_pedal_force_N, 700)
    assert fluid.value == max(result.front.peak_fluid_C, result.rear.peak_fluid_C)
    assert fluid.left == pytest.approx(230 - fluid.value)
    # One event of two that are left.
    assert (life.value, life.left, life.detail, life.state) == (50.0, 2.0, "front", "close")
    # All five read one way: filled is used up, and beyond the notch is over the limit.
    for reading in strip:
        assert (reading.fill > reading.notch) == (reading.value > reading.limit) == (reading.state == "over"), reading
    assert all(0 <= reading.fill <= 1 and 0 <= reading.notch <= 1 for reading in strip)


@pytest.mark.parametrize(
    ("events", "pace", "state"),
    [(0.5, 1, "over"), (2, 1, "close"), (10, 1, "fine"), (40, 110, "over"), (60, 110, "close"), (160, 110, "fine")],
)
def test_life_is_judged_over_the_events_of_two_weeks(events: float, pace: float, state: str) -> None:
    assert readings.life_state(events, pace) == state


def test_a_force_limited_duty_is_over_even_at_the_limit() -> None:
    case = plain_case(duty=HOT_STOPS, hydraulics__max_pedal_force_N=60.0)
    assert readings.pedal_used(setup_of(case), simulate_one(case)).state == "over"


@pytest.mark.parametrize(
    ("values", "path"),
    [((300, 200, 400), "window_low_C"), ((0, 300, 250), "limit_C"), ((math.nan, 1, 2), "window_low_C")],
)
def test_compound_limits_are_in_order(values: tuple[float, float, float], path: str) -> None:
    with pytest.raises(FieldError) as caught:
        readings.CompoundLimits(window_low_C=values[0], window_high_C=values[1], limit_C=values[2])
    assert caught.value.path == path


# --- choose --------------------------------------------------------------------------------------------------------------


def judged(duty: StopsDuty, use: str) -> list[Judged]:
    return judge_candidates(field(duty), DEFAULT_WEIGHTS[use], 0.5)


def test_the_duty_turns_the_ranking_and_the_reasons_say_why() -> None:
    town = judged(TOWN, "street")
    assert town[0].candidate.key == "street"
    assert all(entry.rejected_for is None for entry in town)
    track = judged(HOT_STOPS, "track")
    assert track[0].candidate.key == "track"
    assert track[0].rejected_for is None
    assert track[-1].candidate.key == "street"
    assert track[-1].rejected_for == "pad fades"
    peak = track[-1].result.front.peak_surface_C
    assert f"{peak:.0f} °C" in metric(track[-1].reason)
    assert "400 °C" in metric(track[-1].reason)


def numbers(text: str) -> list[float]:
    return [float(number) for number in re.findall(r"\d+(?:\.\d+)?", text)]


@pytest.mark.parametrize(("duty", "use"), [(TOWN, "street"), (TOWN, "delivery"), (HOT_STOPS, "track")])
def test_every_number_in_a_rank_sentence_is_one_of_the_figures(duty: StopsDuty, use: str) -> None:
    for entry in judged(duty, use):
        if entry.rejected_for:
            continue
        f, c = entry.figures, entry.candidate
        hottest = max(entry.result.front.peak_surface_C, entry.result.rear.peak_surface_C)
        shares = [100 * f.window_share, 100 * f.cold_share, 100 * f.hot_share]
        life = f.life_hours / 0.5
        known = [
            hottest,
            *shares,
            f.lowest_margin_K,
            f.fluid_margin_K,
            f.worn_margin_K or 0.0,
            f.cold_mu,
            life,
            c.noise,
            c.dust,
            5.0,
            f.cost_per_hour,
            c.rotors_price,
        ]
        for number in numbers(metric(entry.reason)):
            near = min(known, key=lambda value: abs(value - number))
            assert number == pytest.approx(near, abs=0.51 if near > 10 else 0.051), entry.reason


def test_each_hard_limit_rejects_with_its_own_reason() -> None:
    hot = field(HOT_STOPS)[1]
    boiling = dataclasses.replace(hot, setup=dataclasses.replace(hot.setup, boiling_C=19.0))
    weak_case = changed(hot.setup.case, hydraulics__max_pedal_force_N=70.0)
    weak = dataclasses.replace(hot, setup=setup_of(weak_case, TRACK, boiling_C=260))
    fading = ((0.0, 0.45), (120.0, 0.45), (500.0, 0.15))
    faded_case = changed(hot.setup.case, front__pad__mu=fading, rear__pad__mu=fading)
    faded_case = changed(faded_case, hydraulics__max_pedal_force_N=170.0)
    faded = dataclasses.replace(hot, setup=setup_of(faded_case, TRACK, boiling_C=260))
    rear_case = changed(hot.setup.case, hydraulics__rear_knee_Pa=None, rear__piston_area_m2=0.004)
    rear = dataclasses.replace(hot, setup=setup_of(rear_case, TRACK, boiling_C=260))
    soft_case = changed(hot.setup.case, front__rotor__gap_m=0.0, front__rotor__thickness_m=0.006)
    soft = dataclasses.replace(hot, setup=setup_of(soft_case, dataclasses.replace(TRACK, limit_C=1500), boiling_C=260))
    reasons = {}
    for name, entry in {"fluid": boiling, "force": weak, "fade": faded, "rear": rear, "rotor": soft}.items():
        reasons[name] = judge_candidates([entry], DEFAULT_WEIGHTS["track"], 0.5)[0]
    assert reasons["fluid"].rejected_for == "fluid boils"
    assert "19 °C" in metric(reasons["fluid"].reason)
    # Cold friction is not fade: the first stop finds it so.
    assert reasons["force"].rejected_for == "too cold to bite"
    assert "70 N" in metric(reasons["force"].reason)
    assert reasons["fade"].rejected_for == "fades"
    said = re.search(r"falls to (0\.\d+) at (\d+) °C", metric(reasons["fade"].reason))
    assert said
    assert float(said[1]) == pytest.approx(friction_coefficient(float(said[2]), fading), abs=0.006)
    assert reasons["rear"].rejected_for == "rear locks first"
    assert reasons["rotor"].rejected_for == "rotor too hot"
    assert "700 °C" in metric(reasons["rotor"].reason)


def test_a_set_that_boils_with_worn_pads_is_rejected_for_it() -> None:
    # Pads of 12 mm that are changed at 3: new ones keep the fluid under its point, worn ones do not.
    drag = changed(load("van-city-drag"), front__pad__thickness_m=0.012, rear__pad__thickness_m=0.012)
    drag = changed(drag, rear__piston_area_m2=0.0012)
    peaks = [max(peak) for peak in fluid_peaks([drag, with_material(drag, 0.003, 0.003)])]
    assert peaks[1] > peaks[0] + 15.0
    bears = readings.CompoundLimits(window_low_C=50.0, window_high_C=500.0, limit_C=600.0)
    limits = setup_of(drag, bears, boiling_C=(peaks[0] + peaks[1]) / 2)
    entry = dataclasses.replace(candidate("van", drag, bears), setup=limits)
    (out,) = judge_candidates([entry], DEFAULT_WEIGHTS["delivery"], 0.5)
    assert out.rejected_for == "fluid boils, pads worn"
    assert out.figures.fluid_margin_K > 0 > (out.figures.worn_margin_K or 0.0)
    said = metric(out.reason)
    assert "3.0 mm in front and 3.0 mm behind" in said
    assert f"{peaks[1]:.0f} °C in the hot soak" in said
    # What to do about it is one of the ways out: changing earlier.
    way = change_to_pass(entry)
    assert way.value is not None
    assert 3.0 < way.value < 12.0
    there = with_material(drag, 1e-3 * way.value, 1e-3 * way.value)
    assert max(fluid_peaks([there])[0]) <= limits.boiling_C
    # One that bears worn pads passes, and the two margins are in its figures and its sentence.
    easy = dataclasses.replace(entry, setup=dataclasses.replace(limits, boiling_C=peaks[1] + 40.0))
    (passed,) = judge_candidates([easy], DEFAULT_WEIGHTS["delivery"], 0.5)
    assert passed.rejected_for is None
    assert passed.figures.worn_margin_K == pytest.approx(40.0, abs=0.1)
    assert "fluid margin" in metric(passed.reason)


def test_a_rider_is_not_told_that_the_parts_lock_the_rear() -> None:
    hot = field(HOT_STOPS)[1]
    case = changed(hot.setup.case, vehicle__rider_front_share=0.3, vehicle__kind="motorcycle")
    entry = dataclasses.replace(hot, setup=setup_of(case, TRACK, boiling_C=260))
    assert judge_candidates([entry], DEFAULT_WEIGHTS["track"], 0.5)[0].rejected_for != "rear locks first"


def test_dearer_rotors_stand_behind_the_same_pad() -> None:
    order = [entry.candidate.key for entry in judged(HOT_STOPS, "track")]
    assert order.index("track") < order.index("track dear")


def test_a_set_up_counts_by_its_own_price_and_by_its_rotors_where_nobody_knows_it() -> None:
    plain = field(TOWN)[2]
    ups = [dataclasses.replace(plain, key=f"{p}", set_up="Big", set_up_price=p) for p in (None, 1500.0, 0.0)]
    cost = dataclasses.replace(DEFAULT_WEIGHTS["street"], **{entry.name: 0.0 for entry in dataclasses.fields(Weights)})
    cost = dataclasses.replace(cost, cost=5.0)
    found = {entry.candidate.key: entry for entry in judge_candidates([plain, *ups], cost, 0.5)}
    assert found["None"].score == found["track dear"].score
    assert found["0.0"].score > found["None"].score > found["1500.0"].score
    assert "the set-up at £1500" in metric(found["1500.0"].reason)
    assert found["1500.0"].dominated_by is not None


def test_weights_at_zero_count_equal_and_one_weight_decides_alone() -> None:
    entry = judged(TOWN, "street")[0]
    zero = Weights(heat_margin=0, cold_bite=0, pedal=0, pad_life=0, quiet=0, clean_wheels=0, rotor_wear=0, cost=0)
    assert weighted(entry.scores, zero) == pytest.approx(100 * sum(entry.scores.values()) / 8)
    quiet = dataclasses.replace(zero, quiet=5)
    assert weighted(entry.scores, quiet) == pytest.approx(100 * entry.scores["quiet"])
    with pytest.raises(FieldError, match="quiet"):
        dataclasses.replace(zero, quiet=7)


def test_scores_stay_between_nothing_and_all() -> None:
    for duty in (TOWN, HOT_STOPS):
        for entry in judge_candidates(field(duty), DEFAULT_WEIGHTS["tow"], 0.5):
            scores = criterion_scores(entry.figures, entry.candidate)
            assert all(0.0 <= value <= 1.0 for value in scores.values())


# --- sensitivities --------------------------------------------------------------------------------------------------------


def test_scaling_a_path_changes_that_field_only() -> None:
    case = load("hauler-descent")
    heavier = scaled(case, "vehicle.mass_kg", 1.1)
    assert heavier.vehicle.mass_kg == pytest.approx(2728)
    assert heavier.front == case.front
    stickier = scaled(case, "front.pad.mu", 1.1)
    assert stickier.front.pad.mu[2] == pytest.approx((300, 0.462))
    assert value_at(case, "front.pad.mu") == 0.42
    with pytest.raises(FieldError):
        scaled(case, "vehicle.rider_front_share", 1.1)


def test_sensitivities_are_sorted_and_true() -> None:
    case = load("roadster-single-stop")
    found = sensitivities(case, lambda _, result: result.front.peak_surface_C)
    sizes = [abs(entry.change) for entry in found]
    assert sizes == sorted(sizes, reverse=True)
    assert {entry.field for entry in found} <= set(INPUTS)
    mass = next(entry for entry in found if entry.field == "vehicle.mass_kg")
    direct = simulate_one(scaled(case, "vehicle.mass_kg", 1.1)).front.peak_surface_C
    assert mass.change == pytest.approx(direct - simulate_one(case).front.peak_surface_C, abs=1e-9)
    assert mass.change > 0
