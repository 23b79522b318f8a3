"""The numbers of one axle opened: ring, energy, wear, pressure, clamp, torque."""

from __future__ import annotations

from collections.abc import Callable

from thermaxis.core.physics.chain import chain
from thermaxis.core.physics.friction import friction_coefficient
from thermaxis.core.physics.hydraulics import master_area
from thermaxis.core.physics.torque import brake_torque, effective_radius
from thermaxis.core.planning.explain.topic import LIMPERT, Subject, Topic
from thermaxis.core.records import Axle
from thermaxis.core.results import AxleResult


def _side(axle: str) -> tuple[Callable[[Subject], Axle], Callable[[Subject], AxleResult]]:
    return (lambda s: getattr(s.case, axle)), (lambda s: getattr(s.result, axle))


def topics_of_axle(axle: str) -> dict[str, Topic]:
    """Topics of the front or the rear axle by name, each as a record."""
    return {**_of_its_heat(axle), **_of_its_force(axle)}


def _of_its_heat(axle: str) -> dict[str, Topic]:
    part, taken = _side(axle)

    def peak_text(s: Subject) -> str:
        found = taken(s)
        return (
            f"{found.friction_energy_J / 1e6:.2f} MJ into one {axle} rotor in {s.result.duration_s / 60:.1f} min, "
            f"cooling × {part(s).cooling_factor:.2f}: face at most {found.peak_surface_C:.0f} °C after "
            f"{found.peak_surface_s:.0f} s, ring's mean {found.peak_bulk_C:.0f} °C"
        )

    def wear_text(s: Subject) -> str:
        found, pad = taken(s), part(s).pad
        return (
            f"half of {found.friction_energy_J / 1e6:.2f} MJ × w(T), {pad.wear_mm3_per_MJ:g} mm³/MJ up to "
            f"{pad.wear_knee_C:.0f} °C, over {pad.area_m2 * 1e4:.1f} cm² = {1e3 * found.pad_wear_mm:.1f} µm an event"
        )

    def ring_after(s: Subject, number: int) -> float:
        stop = s.result.stops[number - 1]
        return stop.front_bulk_C if axle == "front" else stop.rear_bulk_C

    def stop_text(s: Subject) -> str:
        number = s.stop or 1
        stop = s.result.stops[number - 1]
        energy = stop.front_energy_J if axle == "front" else stop.rear_energy_J
        before = f"{ring_after(s, number - 1):.0f} °C after stop {number - 1}, " if number > 1 else ""
        return (
            f"{before}{energy / 1e6:.3f} MJ into one {axle} rotor in the {stop.duration_s:.1f} s of stop {number}: "
            f"ring's mean = {ring_after(s, number):.0f} °C"
        )

    name = axle.capitalize()
    return {
        f"peak_{axle}": Topic(
            title=f"Hottest {axle} ring",
            formula="ρ c(T) ∂T/∂t = ∂/∂x (k(T) ∂T/∂x),  q = γ P / 2A at the face",
            unit="K",
            source=f"Carslaw and Jaeger 1959; Charron 1943 (γ); {LIMPERT}, ch. 3; Incropera (convection)",
            value=lambda s: taken(s).peak_surface_C,
            numbers=peak_text,
        ),
        f"stop_{axle}": Topic(
            title=f"{name} ring at the end of a stop",
            formula="m_r c(T) ΔT = ∫ (γ P − q_lost) dt, from stop to stop",
            unit="K",
            source=f"{LIMPERT}, ch. 3; Incropera (convection)",
            value=lambda s: ring_after(s, s.stop or 1),
            numbers=stop_text,
            of_stop=True,
        ),
        f"energy_{axle}": Topic(
            title=f"Braking energy of one {axle} rotor, an event",
            formula="E = ∫ F v dt,  F split by μ(T) at one pressure",
            unit="MJ",
            source=f"{LIMPERT}, ch. 3; physics of the road force, section 4",
            value=lambda s: taken(s).friction_energy_J / 1e6,
            numbers=lambda s: f"{taken(s).friction_energy_J / 1e6:.3f} MJ in {s.result.braking_s:.0f} s of braking",
        ),
        f"wear_{axle}": Topic(
            title=f"Wear of a {axle} pad, an event",
            formula="Δt = ∫ w(T) dE / 2A,  w = w₀ exp((T − T_w)/T_e) above T_w",
            unit="µm",
            source="Archard 1953 in energy form; the compound's w(T) from the catalogue",
            value=lambda s: 1e3 * taken(s).pad_wear_mm,
            numbers=wear_text,
        ),
    }


def _of_its_force(axle: str) -> dict[str, Topic]:
    part, _ = _side(axle)

    def pressure(s: Subject) -> float:
        link = chain(s.case, s.pedal_N)
        return link.front_pressure_Pa if axle == "front" else link.rear_pressure_Pa

    def clamp(s: Subject) -> float:
        return pressure(s) * part(s).piston_area_m2 * part(s).caliper_efficiency

    def mu(s: Subject) -> float:
        return friction_coefficient(s.ring_C, part(s).pad.mu)

    def torque(s: Subject) -> float:
        return brake_torque(mu(s), pressure(s), part(s))

    def torque_text(s: Subject) -> str:
        return (
            f"2 × {mu(s):.3f} × {clamp(s):.0f} N × {effective_radius(part(s).rotor):.4f} m = {torque(s):.0f} N m "
            f"at {s.ring_C:.0f} °C"
        )

    def pressure_text(s: Subject) -> str:
        text = f"{chain(s.case, s.pedal_N).master_N:.0f} N / {master_area(s.case.hydraulics) * 1e4:.2f} cm²"
        if axle == "rear" and s.case.hydraulics.rear_knee_Pa is not None:
            knee = s.case.hydraulics.rear_knee_Pa / 1e6
            text += f", valve from {knee:.2f} MPa on × {s.case.hydraulics.rear_slope:g}"
        return f"{text} = {pressure(s) / 1e6:.2f} MPa"

    def clamp_text(s: Subject) -> str:
        return (
            f"{pressure(s) / 1e6:.2f} MPa × {part(s).piston_area_m2 * 1e4:.2f} cm² × {part(s).caliper_efficiency:.2f} "
            f"= {clamp(s):.0f} N"
        )

    name = axle.capitalize()
    return {
        f"pressure_{axle}": Topic(
            title=f"{name} line pressure",
            formula="p = F_mc / A_mc" + ("" if axle == "front" else ",  p_r = p_k + s (p − p_k)"),
            unit="MPa",
            source=f"{LIMPERT}, ch. 5",
            value=lambda s: pressure(s) / 1e6,
            numbers=pressure_text,
            simulated=False,
        ),
        f"clamp_{axle}": Topic(
            title=f"Force on one {axle} pad",
            formula="N = p A_p η_c",
            unit="N",
            source=f"{LIMPERT}, ch. 2",
            value=clamp,
            numbers=clamp_text,
            simulated=False,
        ),
        f"torque_{axle}": Topic(
            title=f"Torque of one {axle} rotor",
            formula="T = 2 μ(T) p A_p η_c r_e",
            unit="N m",
            source=f"{LIMPERT}, ch. 2; r_e of uniform wear",
            value=torque,
            numbers=torque_text,
            simulated=False,
        ),
    }
