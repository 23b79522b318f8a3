"""How a forecast was worked out: its formula, its numbers, what was taken for granted, and where that is from."""

from __future__ import annotations

import math
from dataclasses import dataclass

from thermaxis.apps.fitted.fluids import readings_of
from thermaxis.apps.solving.forecasting import Forecast, Outlook
from thermaxis.apps.solving.in_force import InForce
from thermaxis.core.messages import life as say
from thermaxis.core.planning.life.fatigue import SCALE_SIGMA
from thermaxis.core.planning.life.fluid import GAIN_SIGMA, OWN_SIGMA_K, RISE_SIGMA
from thermaxis.core.planning.life.hoses import CHANGE_MONTHS, LOOK_MONTHS
from thermaxis.core.planning.life.intervals import P90
from thermaxis.core.planning.life.wear import EVENT_SIGMA
from thermaxis.core.said import Said, day_text

FORMULAS = {
    "pads": "t(k) = t(now) − Σ m(j) · s(duty) · w(j); it holds where t(k) ≥ limit",
    "rings": "t(k) = t(now) − Σ m(j) · s(duty) · w(j) ≥ discard, and f · Σ D(j) < 1: no hairline yet",
    "fluid": "margin(k) = T boil(age) − T air − (T soak − T air) · r; it holds where margin(k) > 0",
    "hoses": "age on the day < 10 years",
    "seals": "age on the day < 10 years",
}
SOURCES = {
    "pads": "Archard 1953 by compound; posterior of s by the readings (Bayes, sampled)",
    "rings": "data/rotor_wear.csv; ASTM E1049 rainflow; Manson 1965 universal slopes; Miner 1945",
    "fluid": "FMVSS 116 dry and wet; 2 % water a year (estimate); the engine's hot soak",
    "hoses": "estimate: six to ten years",
    "seals": "estimate: six to ten years",
}


@dataclass(frozen=True, kw_only=True)
class Explained:
    """A forecast opened: formula, lines with its numbers, what is taken for granted, the source."""

    formula: str
    lines: tuple[Said, ...]
    taken: tuple[Said, ...]
    source: str


def explained(state: InForce, outlook: Outlook, forecast: Forecast) -> Explained:
    """Open one forecast."""
    lines: list[Said] = []
    taken: list[Said] = []
    if forecast.kind in ("pads", "rings"):
        lines += _thickness(outlook, forecast)
        prior = forecast.parts[0].prior
        taken.append(say.SPREAD(wear=prior.sigma, gauge=prior.gauge_m, new=prior.new_m, event=EVENT_SIGMA))
    if forecast.kind == "rings":
        lines += _damage(outlook, forecast)
        taken.append(say.DAMAGE_SPREAD(sigma=SCALE_SIGMA))
    if forecast.kind == "fluid":
        lines += _fluid(state, outlook, forecast)
        taken.append(say.FLUID_SPREAD(gain=GAIN_SIGMA, own=OWN_SIGMA_K, rise=RISE_SIGMA))
    if forecast.kind in ("hoses", "seals"):
        lines.append(say.AGED(months=forecast.now, look=LOOK_MONTHS, change=CHANGE_MONTHS))
    lines += forecast.note
    if not any(forecast.used):
        lines.append(say.UNUSED())
    return Explained(
        formula=FORMULAS[forecast.kind], lines=tuple(lines), taken=tuple(taken), source=SOURCES[forecast.kind]
    )


def _thickness(outlook: Outlook, forecast: Forecast) -> list[Said]:
    weakest = min(forecast.parts, key=lambda part: part.thickness_m)
    rule = forecast.limits[0]
    found = [
        say.NOW_OF(now=forecast.now, new=forecast.new, limit=forecast.limit, why=rule.text),
        *(say.ALSO(mm=limit.limit_m, why=limit.text) for limit in forecast.limits[1:]),
    ]
    asked_by: dict[int, tuple[str, float]] = {}
    for asked, used in zip(outlook.asked, forecast.used, strict=True):
        if used:
            wear = asked.pads_m if forecast.kind == "pads" else asked.rings_m
            asked_by.setdefault(
                asked.event.duty.pk, (asked.event.duty.name, wear[forecast.axle] / asked.event.sessions)
            )
    for duty_id, (name, wear_m) in asked_by.items():
        place = weakest.duties.index(duty_id if duty_id in weakest.duties else weakest.duty)
        scale, sigma = weakest.state.scale(place)
        low, high = scale * math.exp(-P90 * sigma), scale * math.exp(P90 * sigma)
        found.append(say.WEARS(duty=name, wear=wear_m, scale=scale, low=low, high=high))
    count = weakest.measurements
    by = {0: say.BY_NONE(), 1: say.BY_ONE()}
    found.append(by.get(count) or say.BY_READINGS(count=float(count)))
    return found


def _damage(outlook: Outlook, forecast: Forecast) -> list[Said]:
    if not outlook.asked:
        return []
    first = outlook.asked[0]
    used = forecast.damage_used
    return [say.DAMAGE_USED(used=used, each=first.damage[forecast.axle], event=first.event.name)]


def _fluid(state: InForce, outlook: Outlook, forecast: Forecast) -> list[Said]:
    found = [say.FLUID_NOW(months=forecast.now, boiling=state.setup.boiling_C)]
    for row in readings_of(state.standing.fill):
        if row.boiling_C is not None:
            found.append(say.FLUID_TESTED(day=day_text(row.measured_on), boiling=row.boiling_C))
        if row.water_percent is not None:
            found.append(say.FLUID_WATER(day=day_text(row.measured_on), water=row.water_percent / 100.0))
    for asked, (low, middle, high) in zip(outlook.asked, outlook.margins_K, strict=True):
        found.append(say.FLUID_EVENT(event=asked.event.name, margin=middle, low=low, high=high))
    return found
