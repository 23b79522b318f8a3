"""The Why drawer: formula, this machine's numbers in it, inputs, estimates, source."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence

from thermaxis.apps.accounts.api.said import SaidOut, said_out
from thermaxis.apps.catalogue.models import Provenance
from thermaxis.apps.choose.api import why_schemas
from thermaxis.apps.choose.choosing import Offer
from thermaxis.apps.choose.explaining import opened
from thermaxis.apps.fitted.parts import Parts
from thermaxis.apps.solving import in_force, life, strip
from thermaxis.apps.solving.api.present import influences_out
from thermaxis.apps.solving.solver import fluid_peaks
from thermaxis.core.messages import explain as say
from thermaxis.core.physics.convection import altitude_of
from thermaxis.core.planning.choice.figures import Candidate
from thermaxis.core.planning.duty.calibrate import AxleFit
from thermaxis.core.planning.explain.chance import chance_text, spread_text
from thermaxis.core.planning.explain.explain import window_text
from thermaxis.core.planning.explain.topic import Subject
from thermaxis.core.planning.explain.why import Sensitivity
from thermaxis.core.planning.verdict import readings
from thermaxis.core.planning.verdict.uncertainty import Sweep
from thermaxis.core.planning.verdict.worn import worn_margin
from thermaxis.core.results import Result
from thermaxis.core.said import Said, verbatim

# Per reading: title, formula, unit of the changes, source.
ENTRIES = {
    "rotor": (
        "Hottest rotor",
        "ρ c(T) ∂T/∂t = ∂/∂x (k(T) ∂T/∂x) in ring and pad, one T at their faces,  q_ring + q_pad + q_loss = P / 2A",
        "K",
        "Carslaw and Jaeger 1959; Charron 1943 (one face temperature); Limpert 1999, ch. 3; limit of the material: "
        "estimate",
    ),
    "window": (
        "Braking outside the pad's window",
        "share = ∫ P dt where T_ring < T_low or T_ring > T_high, over ∫ P dt",
        "%",
        "the compound's window as the catalogue gives it",
    ),
    "pedal": (
        "Pedal force at the worst moment",
        "F(p) against F_max,  p from F_road = Σ 2 μ(T) p A η r_e / r_w",
        "N",
        "Limpert 1999, ch. 2 and 5",
    ),
    "fluid": (
        "Hottest fluid, hot soak included",
        "max T_caliper with the material that is left, the soak included, against T_boil(age, air)",
        "K",
        "FMVSS 116 boiling points, 0.30 K less per kPa of air pressure (S6.1); 2 % water a year: estimate",
    ),
    "life": (
        "Pads used by the next two weeks' events",
        "used = events planned / events left,  events left = (t − t_limit) / (s · w(T) E / 2A)",
        "µm per event",
        "Archard 1953 in energy form; spread of wear: estimate",
    ),
}


def why_out(state: in_force.InForce, name: str) -> why_schemas.WhyOut:
    """Explain one reading of the verdict strip."""
    found = strip.sensitivities_of(state, name)
    title, formula, unit, source = ENTRIES[name]
    result = state.result
    measured = {f"{axle}.cooling_factor" for axle in state.fits}
    return why_schemas.WhyOut(
        name=name,
        title=title,
        formula=formula,
        numbers=said_out(_numbers(state, name)),
        unit=unit,
        source=source,
        inputs=_inputs(found, set(state.machine.estimates) - measured),
        assumptions=_assumptions(state.fits, result),
        energy=_energy(result),
    )


def topic_out(name: str, subject: Subject, offer: Offer, parts: Parts | None) -> why_schemas.WhyOut:
    """Explain any other number, of the set that is on or of one that is offered."""
    topic, moves = opened(name, subject)
    measured = {f"{axle}.cooling_factor" for axle in offer.fits}
    estimated = set(offer.machine.estimates) - measured
    if parts is not None:
        for prefix, row in (
            ("front.pad", parts.front_pad.pad),
            ("rear.pad", parts.rear_pad.pad),
            ("front.rotor", parts.front_rotor),
            ("rear.rotor", parts.rear_rotor),
        ):
            if row.provenance == Provenance.ESTIMATE:
                estimated |= {move.field for move in moves if move.field.startswith(prefix)}
    result = subject.result
    return why_schemas.WhyOut(
        name=name,
        title=f"{topic.title}, {subject.candidate.pads}" if topic.simulated else topic.title,
        formula=topic.formula,
        numbers=said_out(topic.numbers(subject)),
        unit=topic.unit,
        source=topic.source,
        inputs=_inputs(moves, estimated),
        assumptions=_assumptions(offer.fits, result) if topic.simulated else [],
        energy=_energy(result) if topic.simulated else {},
    )


def chance_why_out(candidate: Candidate, found: Sweep, offer: Offer) -> why_schemas.WhyOut:
    """Explain how likely a set crosses a limit: a share of whole runs, not one more run."""
    return why_schemas.WhyOut(
        name="chance",
        title=f"Likely over a limit, {candidate.pads}",
        formula="share = runs in which any limit is crossed / runs",
        numbers=said_out(chance_text(found)),
        unit="",
        source="draws: Owen 1998; shares of the variance: Sudret 2008; how far each estimate may be off: estimate",
        inputs=[],
        assumptions=[said_out(text) for text in (*_fitted(offer.fits), spread_text(offer.spreads))],
        energy={},
        decided_by=influences_out(found.nearest),
    )


def _inputs(found: Sequence[Sensitivity], estimates: set[str]) -> list[why_schemas.WhyInput]:
    return [
        why_schemas.WhyInput(
            field=entry.field, value=entry.value, change=entry.change, estimate=entry.field in estimates
        )
        for entry in found
        if math.isfinite(entry.change)
    ]


def _fitted(fits: Mapping[str, AxleFit]) -> list[Said]:
    return [say.FITTED_COOLING(axle=axle, cooling=fit.cooling, backing=fit.backing) for axle, fit in fits.items()]


def _assumptions(fits: Mapping[str, AxleFit], result: Result) -> list[SaidOut]:
    made = map(verbatim, result.assumptions)
    return [said_out(text) for text in (*_fitted(fits), *made, *(warning.text for warning in result.warnings))]


def _energy(result: Result) -> dict[str, float]:
    account = result.energy_account
    return {
        "friction": account.friction_J,
        "stored in rotors": account.stored_rotors_J,
        "stored in pads and calipers": account.stored_pads_and_calipers_J,
        "lost at the faces": account.lost_faces_J,
        "radiated": account.lost_radiation_J,
        "lost in the vanes": account.lost_vanes_J,
        "lost through hubs": account.lost_hubs_J,
        "lost from calipers": account.lost_calipers_J,
    }


def _numbers(state: in_force.InForce, name: str) -> Said:
    setup, result = state.setup, state.result
    if name == "rotor":
        reading = readings.hottest_ring(setup, result)
        return say.PEAK_AGAINST(
            energy=getattr(result, reading.detail).friction_energy_J,
            axle=reading.detail,
            time=result.duration_s,
            face=reading.value,
            limit=reading.limit,
        )
    if name == "window":
        return window_text(setup, result)
    if name == "pedal":
        reading = readings.pedal_used(setup, result)
        return say.PEDAL_LEFT(
            greatest=reading.limit,
            worst=reading.value,
            left=reading.left,
            when=result.peak_pedal_s,
            front=result.front.pedal_mu,
            rear=result.rear.pedal_mu,
        )
    if name == "fluid":
        reading = readings.hottest_fluid(setup, result)
        (worn,) = fluid_peaks([state.worn_case])
        return say.FLUID_LEFT(
            boiling=reading.limit,
            age=state.standing.fluid_months,
            altitude=altitude_of(setup.case.environment.pressure_Pa),
            peak=reading.value,
            left=reading.left,
            front=setup.case.front.pad.thickness_m,
            rear=setup.case.rear.pad.thickness_m,
            front_change=state.worn_case.front.pad.thickness_m,
            rear_change=state.worn_case.rear.pad.thickness_m,
            worn=worn.hottest,
            worn_left=worn_margin(setup, worn),
        )
    parts = [
        say.LIFE_LEFT(
            axle=row.axle,
            now=row.remaining.thickness_m,
            limit=row.remaining.limit_m,
            wear=row.remaining.wear_per_event_m,
            events=row.due_events,
        )
        for row in life.life_rows(state, None)
    ]
    return say.PARTS(parts=parts)
