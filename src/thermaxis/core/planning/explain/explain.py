"""Every number of the application opened: its formula, the formula with this machine's values, and its source."""

from __future__ import annotations

from thermaxis.core.physics.balance import axle_loads, axle_road_forces, lock_up
from thermaxis.core.physics.chain import chain
from thermaxis.core.physics.hydraulics import line_pressure, master_area
from thermaxis.core.physics.materials import PATTERN_FACTORS, materials
from thermaxis.core.physics.resistance import GRAVITY
from thermaxis.core.planning.choice.choose import COLD_C, LOCK_CHECK_C, SHARE_CHECK_N, criterion_scores, weighted
from thermaxis.core.planning.choice.comparing import cost_of_year
from thermaxis.core.planning.explain.axle import topics_of_axle
from thermaxis.core.planning.explain.topic import LIMPERT, Subject, Topic
from thermaxis.core.planning.verdict.limits import margins
from thermaxis.core.planning.verdict.readings import Setup, window_shares
from thermaxis.core.planning.verdict.uncertainty import Spreads, Sweep
from thermaxis.core.results import Result


def _margin_text(s: Subject) -> str:
    found = [m for m in margins(s.candidate.setup, s.result) if m.limit in ("pad", "rotor")]
    return "; ".join(f"{m.axle} {m.limit} {m.allowed:.0f} − {m.value:.0f} = {m.left:.0f} K" for m in found)


def window_text(setup: Setup, result: Result) -> str:
    """Shares of braking inside, below and over the window of each axle's pads, as text."""
    parts = []
    for axle, limits in (("front", setup.front_limits), ("rear", setup.rear_limits)):
        share = window_shares(getattr(result, axle), limits)
        parts.append(
            f"{axle} {100 * share.working:.0f} % within {limits.window_low_C:.0f} to {limits.window_high_C:.0f} °C "
            f"({100 * share.cold:.0f} % below, {100 * share.hot:.0f} % over)"
        )
    return "; ".join(parts)


def _pedal_text(s: Subject) -> str:
    greatest = s.case.hydraulics.max_pedal_force_N
    return (
        f"{s.result.peak_pedal_force_N:.0f} N, {s.result.peak_pedal_s:.0f} s into the duty, of {greatest:.0f} N; least "
        f"μ {s.result.front.least_mu:.2f} front, {s.result.rear.least_mu:.2f} rear"
    )


def _fluid_text(s: Subject) -> str:
    f = s.figures
    return f"{s.candidate.setup.boiling_C:.0f} °C − {f.fluid_peak_C:.0f} °C = {f.fluid_margin_K:.0f} K"


def _life_text(s: Subject) -> str:
    parts = []
    for axle, limit in (("front", s.candidate.front_change_mm), ("rear", s.candidate.rear_change_mm)):
        new, wear = 1e3 * getattr(s.case, axle).pad.thickness_m, getattr(s.result, axle).pad_wear_mm
        parts.append(f"{axle} ({new:.1f} − {limit:.1f}) mm / {wear:.3f} mm")
    return f"{'; '.join(parts)}: the lesser, {s.figures.life_events:.1f} events"


def _cost_text(s: Subject) -> str:
    f, money = s.figures, s.candidate.currency
    return (
        f"{money}{s.candidate.pads_price:.0f} / ({f.life_events:.1f} events × {s.event_hours:.2f} h) = "
        f"{money}{f.cost_per_hour:.2f} an hour"
    )


def _cost_a_year(s: Subject) -> float:
    return cost_of_year(s.candidate.pads_price, s.figures.life_events, s.events_per_month)


def _year_text(s: Subject) -> str:
    money = s.candidate.currency
    return (
        f"{money}{s.candidate.pads_price:.0f} × 12 × {s.events_per_month:g} events / {s.figures.life_events:.1f} "
        f"events = {money}{_cost_a_year(s):.0f} a year"
    )


def _stress_text(s: Subject) -> str:
    parts = []
    for axle in ("front", "rear"):
        rotor, taken = getattr(s.case, axle).rotor, getattr(s.result, axle)
        material, factor = materials()[rotor.material], PATTERN_FACTORS[rotor.pattern].stress
        parts.append(
            f"{axle} {material.youngs_Pa / 1e9:.0f} GPa × {material.expansion_per_K:.3g}/K × "
            f"{taken.peak_face_excess_K:.0f} K / (1 − {material.poisson:g}) × {factor:g} "
            f"= {taken.thermal_stress_Pa / 1e6:.0f} MPa"
        )
    return "; ".join(parts)


def _lock_text(s: Subject) -> str:
    lock, vehicle = lock_up(s.case, LOCK_CHECK_C), s.case.vehicle
    front, rear = axle_loads(vehicle, lock.decel_g)
    ends = [
        f"{axle} at {at:.2f} g" if at is not None else f"{axle} not within the greatest pedal force"
        for axle, at in (("front", lock.front_lock_g), ("rear", lock.rear_lock_g))
    ]
    return (
        f"grip {vehicle.tyre_grip:.2f} is reached {', '.join(ends)}; at {lock.decel_g:.2f} g the axles carry "
        f"{front:.0f} and {rear:.0f} N"
    )


def _share_text(s: Subject) -> str:
    pressure = line_pressure(SHARE_CHECK_N, s.case.hydraulics)
    front, rear = axle_road_forces(s.case, pressure, LOCK_CHECK_C)
    share = front / max(1e-9, front + rear)
    return f"{front:.0f} N / ({front:.0f} + {rear:.0f}) N = {100 * share:.0f} % at {SHARE_CHECK_N:.0f} N on the pedal"


def _score(s: Subject) -> float:
    return weighted(criterion_scores(s.figures, s.candidate), s.weights)


def _score_text(s: Subject) -> str:
    scores = criterion_scores(s.figures, s.candidate)
    parts = [f"{name.replace('_', ' ')} {value:.2f} × {getattr(s.weights, name):g}" for name, value in scores.items()]
    return f"100 × ({' + '.join(parts)}) / {sum(getattr(s.weights, name) for name in scores):g} = {_score(s):.1f}"


def chance_text(found: Sweep) -> str:
    """How many runs of a sweep cross each limit, and what is left to the nearest one in K or N, as text."""
    runs = found.draws

    def of(share: float) -> str:
        return f"{round(share * runs)} of {runs}"

    crossed = [f"{c.axle} {c.limit}".strip() + f" {of(c.probability)}" for c in found.crossings if c.probability > 0]
    near = found.nearest
    unit = "N" if near.name == "pedal" else "K"
    return (
        f"runs over a limit: {of(found.any_crossed)} ({', '.join(crossed) or 'none crosses any'}); "
        f"nearest, {near.name}: {near.p10:.0f} to {near.p90:.0f} {unit} left in 8 of 10 runs"
    )


def spread_text(spreads: Spreads) -> str:
    """How far the estimates of a sweep were taken off, as text; shares in %, sigmas of the logarithm."""
    parts = []
    for name, axle in (("front", spreads.front), ("rear", spreads.rear)):
        calibrated = f", heat into the pads σ {axle.pad_heat:.2f}" if axle.pad_heat else ""
        parts.append(f"{name} friction ±{100 * axle.mu:.0f} %, cooling σ {axle.cooling:.2f}{calibrated}")
    return f"estimates taken off in every run, {'; '.join(parts)}; mass ±{100 * spreads.mass:.0f} %"


def _cold_text(s: Subject) -> str:
    points = ", ".join(f"{mu:g} at {t:.0f} °C" for t, mu in s.case.front.pad.mu)
    return f"front points {points}: {s.figures.cold_mu:.3f} at {COLD_C:.0f} °C"


def _decel(s: Subject) -> float:
    forces = axle_road_forces(s.case, line_pressure(s.pedal_N, s.case.hydraulics), s.ring_C)
    return sum(forces) / (s.case.vehicle.mass_kg * GRAVITY)


def _decel_text(s: Subject) -> str:
    front, rear = axle_road_forces(s.case, line_pressure(s.pedal_N, s.case.hydraulics), s.ring_C)
    return f"({front:.0f} + {rear:.0f}) N / ({s.case.vehicle.mass_kg:.0f} kg × 9.81 m/s²) = {_decel(s):.3f} g"


def _pushrod_text(s: Subject) -> str:
    h = s.case.hydraulics
    return (
        f"{s.pedal_N:.0f} N × {h.pedal_ratio:g} × {h.pedal_efficiency:g} = {chain(s.case, s.pedal_N).pushrod_N:.0f} N"
    )


def _master_text(s: Subject) -> str:
    link = chain(s.case, s.pedal_N)
    return f"{link.pushrod_N:.0f} N + {link.booster_adds_N:.0f} N of the booster = {link.master_N:.0f} N"


def _travel_text(s: Subject) -> str:
    link, h = chain(s.case, s.pedal_N), s.case.hydraulics
    return (
        f"{link.fluid_m3 * 1e6:.2f} cm³ / {master_area(h) * 1e4:.2f} cm² × {h.pedal_ratio:g} = "
        f"{1e3 * link.pedal_travel_m:.0f} mm"
    )


def _energy_text(s: Subject) -> str:
    parts = [
        f"{axle.rotors} × {taken.friction_energy_J / 1e6:.3f}"
        for axle, taken in ((s.case.front, s.result.front), (s.case.rear, s.result.rear))
    ]
    return f"{' + '.join(parts)} = {s.result.energy_account.friction_J / 1e6:.2f} MJ"


TOPICS: dict[str, Topic] = {
    **topics_of_axle("front"),
    **topics_of_axle("rear"),
    "energy": Topic(
        title="Brake energy of one event",
        formula="E = Σ n ∫ F v dt over front and rear rotors",
        unit="MJ",
        source=f"{LIMPERT}, ch. 3; physics of the road force, section 4",
        value=lambda s: s.result.energy_account.friction_J / 1e6,
        numbers=_energy_text,
    ),
    "braking_share": Topic(
        title="Time on the brakes",
        formula="time with brake pressure / time of the duty",
        unit="%",
        source="the run of the duty itself",
        value=lambda s: 100 * s.result.braking_s / s.result.duration_s,
        numbers=lambda s: f"{s.result.braking_s:.0f} s of {s.result.duration_s:.0f} s",
    ),
    "margin": Topic(
        title="To the nearest limit of pads and rotors",
        formula="least of T_limit − max T_ring",
        unit="K",
        source="limits of the compounds as the catalogue gives them; of the materials: estimates",
        value=lambda s: s.figures.lowest_margin_K,
        numbers=_margin_text,
    ),
    "window_share": Topic(
        title="Braking inside the pads' window",
        formula="share = ∫ P dt where T_low ≤ T_ring ≤ T_high, over ∫ P dt",
        unit="%",
        source="the compound's window as the catalogue gives it; the worse axle counts",
        value=lambda s: 100 * s.figures.window_share,
        numbers=lambda s: window_text(s.candidate.setup, s.result),
    ),
    "pedal_worst": Topic(
        title="Pedal force at the worst moment",
        formula="F(p),  p from F_road = Σ 2 μ(T) p A η r_e / r_w",
        unit="N",
        source=f"{LIMPERT}, ch. 2 and 5",
        value=lambda s: s.figures.pedal_worst_N,
        numbers=_pedal_text,
    ),
    "fluid_margin": Topic(
        title="Fluid margin with the hot soak",
        formula="margin = T_boil(age) − max T_caliper, the soak included",
        unit="K",
        source="FMVSS 116 boiling points; 2 % water a year: estimate",
        value=lambda s: s.figures.fluid_margin_K,
        numbers=_fluid_text,
    ),
    "cold_mu": Topic(
        title="Cold friction",
        formula="μ(20 °C) of the front compound, monotone cubic through its points",
        unit="",
        source="Fritsch and Carlson 1980; points as the catalogue gives them",
        value=lambda s: s.figures.cold_mu,
        numbers=_cold_text,
        simulated=False,
    ),
    "life_events": Topic(
        title="Events a new set lasts",
        formula="events = (t − t_limit) / Δt an event, the lesser axle",
        unit="events",
        source="Archard 1953 in energy form; spread of wear: estimate",
        value=lambda s: s.figures.life_events,
        numbers=_life_text,
    ),
    "cost_per_hour": Topic(
        title="Pads an hour",
        formula="price / (events × hours of an event)",
        unit="",
        source="prices of the catalogue; rotors and labour not counted",
        value=lambda s: s.figures.cost_per_hour,
        numbers=_cost_text,
    ),
    "cost_per_year": Topic(
        title="Pads in a year",
        formula="price × 12 × events a month / events",
        unit="",
        source="prices of the catalogue; rotors and labour not counted",
        value=_cost_a_year,
        numbers=_year_text,
    ),
    "stress": Topic(
        title="Thermal stress at the face",
        formula="σ = E α (T_face − T_mean) / (1 − ν) × 3 at holes, 1.5 at slots",
        unit="MPa",
        source=f"{LIMPERT}, ch. 3; Kirsch; slots: estimate. A crack index, not a life",
        value=lambda s: s.figures.stress_MPa,
        numbers=_stress_text,
    ),
    "lock": Topic(
        title="Which axle locks first",
        formula="F_i(p) = μ_tyre N_i(z),  N from weight, CG and wheelbase",
        unit="g",
        source=f"{LIMPERT}, ch. 7; UN R13-H annex on adhesion",
        value=lambda s: s.figures.lock_g,
        numbers=_lock_text,
        simulated=False,
    ),
    "front_share": Topic(
        title="Share of braking in front",
        formula="F_f / (F_f + F_r) at one pressure, rings at 200 °C",
        unit="%",
        source=f"{LIMPERT}, ch. 7",
        value=lambda s: 100 * s.figures.front_share,
        numbers=_share_text,
        simulated=False,
    ),
    "score": Topic(
        title="Points",
        formula="100 Σ w s / Σ w over the criteria, each 0 to 1",
        unit="points",
        source="scales of the criteria: estimates, the same for every set; weights: yours",
        value=_score,
        numbers=_score_text,
    ),
    "decel": Topic(
        title="Deceleration the pedal asks for",
        formula="z = (F_f + F_r) / m g",
        unit="g",
        source=f"{LIMPERT}, ch. 7",
        value=_decel,
        numbers=_decel_text,
        simulated=False,
    ),
    "pushrod": Topic(
        title="Force on the pushrod",
        formula="F_p = F_pedal i η",
        unit="N",
        source=f"{LIMPERT}, ch. 5",
        value=lambda s: chain(s.case, s.pedal_N).pushrod_N,
        numbers=_pushrod_text,
        simulated=False,
    ),
    "master": Topic(
        title="Force on the master cylinder",
        formula="F_mc = B F_p up to the run-out, then + (F_p − F_ro)",
        unit="N",
        source=f"{LIMPERT}, ch. 5",
        value=lambda s: chain(s.case, s.pedal_N).master_N,
        numbers=_master_text,
        simulated=False,
    ),
    "travel": Topic(
        title="Pedal travel until the pads touch",
        formula="i Σ 2 n A_p s / A_mc,  s = 0.25 mm a pad",
        unit="mm",
        source="gap of a pad drawn back: estimate",
        value=lambda s: 1e3 * chain(s.case, s.pedal_N).pedal_travel_m,
        numbers=_travel_text,
        simulated=False,
    ),
}
