"""Every number of the application opened: its formula, the formula with this machine's values, and its source."""

from __future__ import annotations

from thermaxis.core.messages import explain as say
from thermaxis.core.physics.balance import axle_loads, axle_road_forces, lock_up, pushed_weight
from thermaxis.core.physics.chain import PAD_CLEARANCE_M, chain
from thermaxis.core.physics.hydraulics import line_pressure, master_area
from thermaxis.core.physics.materials import PATTERN_FACTORS, materials
from thermaxis.core.physics.resistance import GRAVITY
from thermaxis.core.planning.choice.choose import criterion_scores, weighted
from thermaxis.core.planning.choice.comparing import cost_of_year
from thermaxis.core.planning.choice.figures import COLD_C, LOCK_CHECK_C, SHARE_CHECK_N
from thermaxis.core.planning.explain.axle import topics_of_axle
from thermaxis.core.planning.explain.topic import LIMPERT, Subject, Topic
from thermaxis.core.planning.verdict.limits import heat_margins
from thermaxis.core.planning.verdict.readings import Setup, window_shares
from thermaxis.core.planning.verdict.worn import worn_margin
from thermaxis.core.results import Result
from thermaxis.core.said import Said


def _margin_text(s: Subject) -> Said:
    found = heat_margins(s.candidate.setup, s.result)
    parts = [say.MARGIN(axle=m.axle, limit=m.limit, allowed=m.allowed, value=m.value, left=m.left) for m in found]
    return say.PARTS(parts=parts)


def window_text(setup: Setup, result: Result) -> Said:
    """Shares of braking inside, below and over the window of each axle's pads."""
    parts = []
    for axle, limits in (("front", setup.front_limits), ("rear", setup.rear_limits)):
        share = window_shares(getattr(result, axle), limits)
        parts.append(
            say.WINDOW(
                axle=axle,
                working=share.working,
                low=limits.window_low_C,
                high=limits.window_high_C,
                cold=share.cold,
                hot=share.hot,
            )
        )
    return say.PARTS(parts=parts)


def _pedal_text(s: Subject) -> Said:
    return say.PEDAL(
        worst=s.result.peak_pedal_force_N,
        when=s.result.peak_pedal_s,
        greatest=s.case.hydraulics.max_pedal_force_N,
        front=s.result.front.pedal_mu,
        rear=s.result.rear.pedal_mu,
    )


def _fluid_text(s: Subject) -> Said:
    f = s.figures
    return say.FLUID(boiling=s.candidate.setup.boiling_C, peak=f.fluid_peak_C, left=f.fluid_margin_K)


def _worn_text(s: Subject) -> Said:
    peak, c = s.worn, s.candidate
    return say.FLUID_WORN(
        front=c.front_change_m,
        rear=c.rear_change_m,
        boiling=c.setup.boiling_C,
        peak=peak.hottest,
        left=worn_margin(c.setup, peak),
        new=s.figures.fluid_peak_C,
    )


def _life_text(s: Subject) -> Said:
    axles = []
    for axle, limit in (("front", s.candidate.front_change_m), ("rear", s.candidate.rear_change_m)):
        new, wear = getattr(s.case, axle).pad.thickness_m, getattr(s.result, axle).pad_wear_m
        axles.append(say.LIFE_AXLE(axle=axle, new=new, limit=limit, wear=wear))
    return say.LIFE(axles=axles, events=s.figures.life_events)


def _cost_text(s: Subject) -> Said:
    f, c = s.figures, s.candidate
    return say.COST(
        money=c.currency,
        front=c.front_pads_price,
        front_events=f.front_life_events,
        rear=c.rear_pads_price,
        rear_events=f.rear_life_events,
        hours=3600 * s.event_hours,
        cost=f.cost_per_hour,
    )


def _cost_a_year(s: Subject) -> float:
    return cost_of_year(s.candidate, s.figures, s.events_per_month)


def _year_text(s: Subject) -> Said:
    f, c = s.figures, s.candidate
    return say.YEAR(
        money=c.currency,
        front=c.front_pads_price,
        front_events=f.front_life_events,
        rear=c.rear_pads_price,
        rear_events=f.rear_life_events,
        a_month=s.events_per_month,
        cost=_cost_a_year(s),
    )


def _stress_text(s: Subject) -> Said:
    parts = []
    for axle in ("front", "rear"):
        rotor, taken = getattr(s.case, axle).rotor, getattr(s.result, axle)
        material = materials()[rotor.material]
        parts.append(
            say.STRESS(
                axle=axle,
                modulus=material.youngs_Pa,
                expansion=material.expansion_per_K,
                excess=taken.peak_face_excess_K,
                poisson=material.poisson,
                factor=PATTERN_FACTORS[rotor.pattern].stress,
                stress=taken.thermal_stress_Pa,
            )
        )
    return say.PARTS(parts=parts)


def _lock_text(s: Subject) -> Said:
    lock = lock_up(s.case, LOCK_CHECK_C)
    front, rear = axle_loads(s.case, lock.decel_g)
    ends = [
        say.LOCK_NEVER(axle=axle) if at is None else say.LOCK_AT(axle=axle, at=at * GRAVITY)
        for axle, at in (("front", lock.front_lock_g), ("rear", lock.rear_lock_g))
    ]
    return say.LOCK(grip=s.case.vehicle.tyre_grip, ends=ends, at=lock.decel_g * GRAVITY, front=front, rear=rear)


def _share_text(s: Subject) -> Said:
    pressure = line_pressure(SHARE_CHECK_N, s.case.hydraulics)
    front, rear = axle_road_forces(s.case, pressure, LOCK_CHECK_C)
    share = front / max(1e-9, front + rear)
    return say.SHARE(front=front, rear=rear, share=share, pedal=SHARE_CHECK_N, ring=LOCK_CHECK_C)


def _score(s: Subject) -> float:
    return weighted(criterion_scores(s.figures, s.candidate), s.weights)


def _score_text(s: Subject) -> Said:
    scores = criterion_scores(s.figures, s.candidate)
    parts = [
        say.SCORE_PART(name=name.replace("_", " "), score=value, weight=getattr(s.weights, name))
        for name, value in scores.items()
    ]
    return say.SCORE(parts=parts, weights=sum(getattr(s.weights, name) for name in scores), score=_score(s))


def _cold_text(s: Subject) -> Said:
    points = [say.MU_POINT(mu=mu, at=t) for t, mu in s.case.front.pad.mu]
    return say.COLD(points=points, mu=s.figures.cold_mu, at=COLD_C)


def _decel(s: Subject) -> float:
    forces = axle_road_forces(s.case, line_pressure(s.pedal_N, s.case.hydraulics), s.ring_C)
    return sum(forces) / pushed_weight(s.case)


def _decel_text(s: Subject) -> Said:
    front, rear = axle_road_forces(s.case, line_pressure(s.pedal_N, s.case.hydraulics), s.ring_C)
    return say.DECEL(front=front, rear=rear, weight=pushed_weight(s.case), decel=_decel(s) * GRAVITY)


def _pushrod_text(s: Subject) -> Said:
    h = s.case.hydraulics
    pushrod = chain(s.case, s.pedal_N).pushrod_N
    return say.PUSHROD(pedal=s.pedal_N, ratio=h.pedal_ratio, efficiency=h.pedal_efficiency, pushrod=pushrod)


def _master_text(s: Subject) -> Said:
    link = chain(s.case, s.pedal_N)
    return say.MASTER(pushrod=link.pushrod_N, booster=link.booster_adds_N, master=link.master_N)


def _travel_text(s: Subject) -> Said:
    link, h = chain(s.case, s.pedal_N), s.case.hydraulics
    return say.TRAVEL(
        fluid=link.fluid_m3, area=master_area(h), ratio=h.pedal_ratio, travel=link.pedal_travel_m, gap=PAD_CLEARANCE_M
    )


def _energy_text(s: Subject) -> Said:
    return say.ENERGY_ALL(
        front_rotors=s.case.front.rotors,
        front=s.result.front.friction_energy_J,
        rear_rotors=s.case.rear.rotors,
        rear=s.result.rear.friction_energy_J,
        whole=s.result.energy_account.friction_J,
    )


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
        numbers=lambda s: say.BRAKING(braking=s.result.braking_s, whole=s.result.duration_s),
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
        formula="margin = T_boil(age, air) − max T_caliper, the soak included",
        unit="K",
        source="FMVSS 116 boiling points, 0.30 K less per kPa of air pressure (S6.1); 2 % water a year: estimate",
        value=lambda s: s.figures.fluid_margin_K,
        numbers=_fluid_text,
    ),
    "worn_margin": Topic(
        title="Fluid margin with worn pads",
        formula="margin = T_boil(age, air) − max T_caliper, pads as thin as when they are changed",
        unit="K",
        source="FMVSS 116 boiling points and S6.1; a thin pad stores and insulates less: physics, section 8",
        value=lambda s: worn_margin(s.candidate.setup, s.worn),
        numbers=_worn_text,
        of_worn=True,
    ),
    "cold_mu": Topic(
        title="Cold friction",
        formula="μ(T_cold) of the front compound, monotone cubic through its points",
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
        formula="(price front / events front + price rear / events rear) / hours of an event",
        unit="",
        source="prices of the catalogue; rotors and labour not counted",
        value=lambda s: s.figures.cost_per_hour,
        numbers=_cost_text,
    ),
    "cost_per_year": Topic(
        title="Pads in a year",
        formula="12 × events a month × (price front / events front + price rear / events rear)",
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
        formula="F_f / (F_f + F_r) at one pressure and ring temperature",
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
        formula="i Σ 2 n A_p s / A_mc,  s the gap of a pad",
        unit="mm",
        source="gap of a pad drawn back: estimate",
        value=lambda s: 1e3 * chain(s.case, s.pedal_N).pedal_travel_m,
        numbers=_travel_text,
        simulated=False,
    ),
}
