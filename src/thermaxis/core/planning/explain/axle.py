"""The numbers of one axle opened: ring, energy, wear, pressure, clamp, torque."""

from __future__ import annotations

from collections.abc import Callable

from thermaxis.core.messages import explain as say
from thermaxis.core.physics.chain import chain
from thermaxis.core.physics.friction import friction_coefficient
from thermaxis.core.physics.hydraulics import master_area
from thermaxis.core.physics.torque import brake_torque, effective_radius
from thermaxis.core.planning.explain.topic import LIMPERT, Subject, Topic
from thermaxis.core.records import Axle
from thermaxis.core.results import AxleResult
from thermaxis.core.said import Said


def _side(axle: str) -> tuple[Callable[[Subject], Axle], Callable[[Subject], AxleResult]]:
    return (lambda s: getattr(s.case, axle)), (lambda s: getattr(s.result, axle))


def topics_of_axle(axle: str) -> dict[str, Topic]:
    """Topics of the front or the rear axle by name, each as a record."""
    return {**_of_its_heat(axle), **_of_its_force(axle)}


def _of_its_heat(axle: str) -> dict[str, Topic]:
    part, taken = _side(axle)

    def peak_text(s: Subject) -> Said:
        found = taken(s)
        return say.PEAK(
            energy=found.friction_energy_J,
            axle=axle,
            time=s.result.duration_s,
            cooling=part(s).cooling_factor,
            face=found.peak_surface_C,
            when=found.peak_surface_s,
            bulk=found.peak_bulk_C,
        )

    def wear_text(s: Subject) -> Said:
        found, pad = taken(s), part(s).pad
        return say.WEAR(
            energy=found.friction_energy_J,
            wear=1e-15 * pad.wear_mm3_per_MJ,
            knee=pad.wear_knee_C,
            area=pad.area_m2,
            worn=found.pad_wear_m,
        )

    def ring_after(s: Subject, number: int) -> float:
        stop = s.result.stops[number - 1]
        return stop.front_bulk_C if axle == "front" else stop.rear_bulk_C

    def stop_text(s: Subject) -> Said:
        number = s.stop or 1
        stop = s.result.stops[number - 1]
        energy = stop.front_energy_J if axle == "front" else stop.rear_energy_J
        known = {"energy": energy, "time": stop.duration_s, "number": number, "ring": ring_after(s, number)}
        if number == 1:
            return say.FIRST_STOP(axle=axle, **known)
        return say.STOP(axle=axle, before=ring_after(s, number - 1), last=number - 1, **known)

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
            numbers=lambda s: say.ENERGY(energy=taken(s).friction_energy_J, time=s.result.braking_s),
        ),
        f"wear_{axle}": Topic(
            title=f"Wear of a {axle} pad, an event",
            formula="Δt = ∫ w(T) dE / 2A,  w = w₀ exp((T − T_w)/T_e) above T_w",
            unit="µm",
            source="Archard 1953 in energy form; the compound's w(T) from the catalogue",
            value=lambda s: 1e6 * taken(s).pad_wear_m,
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

    def torque_text(s: Subject) -> Said:
        radius = effective_radius(part(s).rotor)
        return say.TORQUE(mu=mu(s), clamp=clamp(s), radius=radius, torque=torque(s), ring=s.ring_C)

    def pressure_text(s: Subject) -> Said:
        h = s.case.hydraulics
        known = {"force": chain(s.case, s.pedal_N).master_N, "area": master_area(h), "pressure": pressure(s)}
        if axle == "front" or h.rear_knee_Pa is None:
            return say.PRESSURE(**known)
        return say.PRESSURE_VALVE(knee=h.rear_knee_Pa, slope=h.rear_slope, **known)

    def clamp_text(s: Subject) -> Said:
        area, efficiency = part(s).piston_area_m2, part(s).caliper_efficiency
        return say.CLAMP(pressure=pressure(s), area=area, efficiency=efficiency, clamp=clamp(s))

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
