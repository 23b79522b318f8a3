"""Small faults, one line each, and the tests that are nearest to them: every one must be found.

Each stands for a kind of slip: a sign, a unit, a boundary, a role, a rounding, one rotor for two, tomorrow for today, a
term that was dropped.
"""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Fault:
    """In `file` (under src/thermaxis), `good` stands once; with `bad` in its place, `tests` must fail."""

    name: str
    file: str
    good: str
    bad: str
    tests: str


LIFE, FIT, BED, PHYSICS = "core/planning/life", "core/planning/fit", "core/planning/bedding", "core/physics"
ACTIONS = "apps/{}/actions/{}.py"
# A fault is a line.
# fmt: off
FAULTS = (
    # --- what is due, and when ---------------------------------------------------------------------------------------
    Fault('hoses looked at a day late', f'{LIFE}/hoses.py', 'age_months >= LOOK_MONTHS', 'age_months > LOOK_MONTHS', 'tests/core/test_life_parts.py'),
    Fault('hoses changed a day late', f'{LIFE}/hoses.py', 'age_months >= CHANGE_MONTHS', 'age_months > CHANGE_MONTHS', 'tests/core/test_life_parts.py'),
    Fault('hoses asked about a day late', 'apps/solving/forecasting.py', 'event.event.on < change_on', 'event.event.on <= change_on', 'tests/api/test_season.py tests/api/test_season_limits.py'),
    Fault('an order that comes on the day is in time', f'{LIFE}/changing.py', 'if comes >= event.on:', 'if comes > event.on:', 'tests/core/test_outcome.py tests/core/test_life_parts.py'),
    Fault('order today is not order now', f'{LIFE}/changing.py', 'order_by < today', 'order_by <= today', 'tests/core/test_outcome.py tests/core/test_life_parts.py'),
    Fault('no reserve before an event', f'{LIFE}/changing.py', 'part.lead_days + terms.reserve_days', 'part.lead_days', 'tests/core/test_outcome.py tests/core/test_life_parts.py'),
    Fault('the risk of the other parts', f'{LIFE}/changing.py', '(1.0 - part.chances[before]) * terms.spoilt', 'part.chances[before] * terms.spoilt', 'tests/core/test_outcome.py tests/core/test_life_parts.py'),
    Fault('changed early at any price', f'{LIFE}/changing.py', 'if lost <= terms.work:', 'if lost >= terms.work:', 'tests/core/test_outcome.py tests/core/test_life_parts.py'),
    Fault('rotors priced once an axle in a season', 'apps/life/advising.py', '(bought.price or 0.0) * bought.quantity', '(bought.price or 0.0)', 'tests/api/test_season.py tests/api/test_season_limits.py'),
    Fault('rotors priced once an axle in a job', 'apps/job/costing.py', 'len(found.sheet.task.corners) * found.parts', 'found.parts', 'tests/api/test_job_closing.py tests/api/test_jobs.py'),
    Fault('rotors priced once an axle in Choose', 'apps/solving/mapping.py', 'self.axles[position].rotors * rotors.price', 'rotors.price', 'tests/apps/test_work.py tests/api/test_choosing.py'),
    Fault('one rotor on the order', 'apps/choose/buying.py', 'axle.rotors, rotors.price', '1, rotors.price', 'tests/api/test_choosing.py tests/apps/test_work.py'),
    Fault('a likelihood at the limit lasts', f'{LIFE}/forecast.py', 'chance > SURVIVES', 'chance >= SURVIVES', 'tests/core/test_outcome.py tests/core/test_life_parts.py'),
    Fault('fluid at its boiling point holds', f'{LIFE}/ready.py', 'if margin_K <= 0:', 'if margin_K < 0:', 'tests/core/test_outcome.py tests/core/test_life_parts.py'),
    Fault('fluid at the edge of close is fine', f'{LIFE}/ready.py', 'if margin_K < DUE_K:', 'if margin_K < 0.5 * DUE_K:', 'tests/core/test_outcome.py tests/core/test_life_parts.py'),
    Fault('one pad of a rotor for two', f'{LIFE}/rings.py', '2.0 * pad.area_m2', 'pad.area_m2', 'tests/core/test_life_parts.py'),
    Fault('rotor wear in metres', f'{LIFE}/rings.py', 'return set_takes_m', 'return 1e3 * set_takes_m', 'tests/core/test_life_parts.py'),
    # --- events and readings -----------------------------------------------------------------------------------------
    Fault('the road to an event is not driven', 'apps/solving/driven.py', 'sessions * event.duty.event_km + event.road_km', 'sessions * event.duty.event_km', 'tests/api/test_season.py tests/api/test_season_limits.py'),
    Fault("the road to an event is not in its set's distance", ACTIONS.format('season', 'events'), 'drove.sessions * event.duty.event_km + event.road_km', 'drove.sessions * event.duty.event_km', 'tests/api/test_season.py tests/api/test_season_limits.py'),
    Fault("tomorrow's event was driven", ACTIONS.format('season', 'events'), 'if event.on > today:', 'if event.on > today + dt.timedelta(days=1):', 'tests/api/test_season.py tests/api/test_season_limits.py'),
    Fault('an event driven twice', ACTIONS.format('season', 'events'), '        if event.state != PLANNED:\n            raise SolveError("This event is over already.")', '        if event.state == "gone":\n            raise SolveError("This event is over already.")', 'tests/api/test_season.py tests/api/test_season_limits.py'),
    Fault('pads that grew', ACTIONS.format('fitted', 'measure'), 'thickness_m <= most + 1e-9', 'thickness_m <= most + 1e-3', 'tests/apps/test_work.py tests/apps/test_wearing.py tests/api/test_endpoints.py'),
    Fault('measured on a day to come', ACTIONS.format('fitted', 'measure'), 'standing.day + dt.timedelta(days=1)', 'standing.day + dt.timedelta(days=2)', 'tests/apps/test_work.py tests/api/test_endpoints.py'),
    Fault('an odometer that runs back', ACTIONS.format('fitted', 'measure'), 'if not least <= odometer_km', 'if not 0 <= odometer_km', 'tests/apps/test_work.py tests/api/test_endpoints.py'),
    Fault('fluid tested before it was filled', ACTIONS.format('fitted', 'read_fluid'), 'fill.filled_on <= on', 'fill.filled_on >= on', 'tests/api/test_season.py tests/api/test_season_limits.py'),
    Fault('a part fitted tomorrow', ACTIONS.format('fitted', 'date_fitting'), 'today + dt.timedelta(days=1)', 'today + dt.timedelta(days=2)', 'tests/api/test_season.py tests/api/test_season_limits.py'),
    Fault('half an order', ACTIONS.format('season', 'orders'), 'if not 1 <= wanted.quantity', 'if not 0 <= wanted.quantity', 'tests/api/test_season.py tests/api/test_season_limits.py'),
    # --- who may -----------------------------------------------------------------------------------------------------
    Fault("a driver reopens another's job", ACTIONS.format('job', 'close'), 'REOPEN_JOB = Action("reopen_job", "Job opened again", kind="job", roles=DRIVERS, begun_by_self=True)', 'REOPEN_JOB = Action("reopen_job", "Job opened again", kind="job", roles=DRIVERS)', 'tests/api/test_who_may.py'),
    Fault('a readings key closes a job', ACTIONS.format('job', 'close'), '    begun_by_self=True,\n    taken_back_with', '    begun_by_self=True,\n    keys="readings",  # type: ignore[arg-type]\n    taken_back_with', 'tests/api/test_who_may.py'),
    Fault('a fitter invites', ACTIONS.format('people', 'addresses'), 'INVITE = Action("invite", "Somebody invited", kind="people", roles=OWNERS, nearby=True)', 'INVITE = Action("invite", "Somebody invited", kind="people", nearby=True)', 'tests/api/test_who_may.py'),
    Fault("a driver changes a machine's numbers", ACTIONS.format('machine', 'change_machine'), 'CHANGE_MACHINE = Action("change_machine", "Numbers changed", kind="machine")', 'from thermaxis.apps.log.action import DRIVERS\n\nCHANGE_MACHINE = Action("change_machine", "Numbers changed", kind="machine", roles=DRIVERS)', 'tests/api/test_who_may.py'),
    Fault('a key for reading writes', 'apps/log/action.py', 'if reach == Reach.READ or', 'if', 'tests/api/test_who_may.py'),
    Fault('a driver changes any machine', 'apps/log/act.py', 'and not scope.drives(entry.machine)', 'and scope.drives(entry.machine)', 'tests/api/test_who_may.py'),
    Fault('rows of another workshop', 'apps/log/act.py', '!= scope.workshop.pk:', '== -1:', 'tests/api/test_who_may.py'),
    Fault('a driver sees every machine', 'apps/accounts/scope.py', 'return rows.filter(owner__user=self.user) if self.role == Role.DRIVER else rows', 'return rows', 'tests/api/test_people.py tests/api/test_who_may.py'),
    Fault('the last owner leaves', ACTIONS.format('people', 'members'), '        if member.role == Role.OWNER and role != Role.OWNER:\n            _another_owner(member)\n', '', 'tests/api/test_people.py'),
    Fault('a shared note is overwritten', 'apps/log/act.py', 'if path in kept and not same(kept[path], value)', 'if path not in kept and not same(kept.get(path), value)', 'tests/api/test_who_may.py'),
    Fault('an older version overwrites', 'apps/log/act.py', 'if kept != seen:', 'if kept < seen:', 'tests/api/test_who_may.py'),
    # --- fit ---------------------------------------------------------------------------------------------------------
    Fault('too thick is tight', f'{FIT}/stack.py', '"does not fit" if left < -SIGMAS * off else "tight"', '"does not fit" if left < -9 * SIGMAS * off else "tight"', 'tests/core/test_fit.py'),
    Fault('worn-out pads hold the pistons', f'{FIT}/stack.py', 'spare = behind - stack.hold_m', 'spare = behind + stack.hold_m', 'tests/core/test_fit.py'),
    Fault('a bore that is too small fits', f'{FIT}/comparing.py', 'if -EPSILON_M <= off <= BORE_ABOVE_M + EPSILON_M:', 'if -1e-3 <= off <= BORE_ABOVE_M + EPSILON_M:', 'tests/core/test_fit.py'),
    Fault('pads overhang the rotor', f'{FIT}/comparing.py', 'if over > OVERHANG_M', 'if over > 9 * OVERHANG_M', 'tests/core/test_fit.py'),
    Fault('one pin for two', f'{FIT}/kit.py', '(2.0 if caliper.pistons > 2 else 1.0) * wheels', '1.0 * wheels', 'tests/core/test_fit_boxes.py'),
    Fault('one bolt a wheel', f'{FIT}/kit.py', '"guide_bolts": 2.0 * wheels', '"guide_bolts": wheels', 'tests/core/test_fit_boxes.py'),
    Fault('one too few is there', f'{FIT}/kit.py', '"there" if have >= need else "order"', '"there" if have >= need - 1 else "order"', 'tests/core/test_fit_boxes.py'),
    Fault('the reservoir runs over', f'{FIT}/pushback.py', 'total - reservoir.room_m3', 'total - 2.0 * reservoir.room_m3', 'tests/core/test_fit.py tests/core/test_fit_boxes.py'),
    Fault('old fluid is pushed back', f'{FIT}/pushback.py', 'motorcycle or valves or fluid_months > OLD_MONTHS', 'motorcycle or valves', 'tests/core/test_fit.py tests/core/test_fit_boxes.py'),
    # --- bedding -----------------------------------------------------------------------------------------------------
    Fault('bedded with one stop too few', f'{BED}/run.py', 'inside(setting, result, axle) >= STOPS_IN_WINDOW', 'inside(setting, result, axle) >= STOPS_IN_WINDOW - 1', 'tests/core/test_bedding_run.py'),
    Fault('bedding boils the fluid', f'{BED}/judging.py', 'over_top(setting, result) <= 0.0 and hottest_fluid_C(result) <= setting.hottest_fluid_C', 'over_top(setting, result) <= 0.0', 'tests/core/test_bedding.py'),
    Fault('bedding overheats the rear', f'{BED}/judging.py', 'return max(front, result.rear.peak_surface_C - setting.rear.high_C)', 'return front', 'tests/core/test_bedding.py'),
    Fault('other rotors, still bedded', f'{BED}/state.py', '    if last.rings != rings:\n        if km', '    if last.rings == "none":\n        if km', 'tests/core/test_bedding.py tests/core/test_bedding_run.py'),
    Fault('any compound beds by itself', f'{BED}/state.py', '        if km >= ROAD_KM and family in ROAD_FAMILIES:\n            return Bedding(state="bedded", why=say.BY_ROAD(km=km))\n        return Bedding(state="new"', '        if km >= ROAD_KM:\n            return Bedding(state="bedded", why=say.BY_ROAD(km=km))\n        return Bedding(state="new"', 'tests/core/test_bedding.py tests/core/test_bedding_run.py'),
    # --- physics -----------------------------------------------------------------------------------------------------
    Fault('heat of two rotors into one', f'{PHYSICS}/braking.py', '(ring.rotors * 2.0 * ring.ring_area)', '(2.0 * ring.ring_area)', 'tests/core/test_cases.py'),
    Fault("one rotor's torque", f'{PHYSICS}/balance.py', 'front * case.front.rotors / vehicle.wheel_radius_front_m', 'front / vehicle.wheel_radius_front_m', 'tests/core/test_balance.py'),
    Fault('wet fluid as dry', f'{PHYSICS}/fluid.py', 'age_months / 12.0', 'age_months / 120.0', 'tests/core/test_phenomena.py tests/core/test_docstrings.py'),
    Fault('the booster never runs out', f'{PHYSICS}/hydraulics.py', 'force = hydraulics.booster_gain * boosted + (pushrod - boosted)', 'force = hydraulics.booster_gain * pushrod', 'tests/core/test_phenomena.py tests/core/test_cases.py'),
    Fault("the bore's radius for its diameter", f'{PHYSICS}/hydraulics.py', 'math.pi / 4.0 * hydraulics', 'math.pi * hydraulics', 'tests/core/test_phenomena.py tests/core/test_balance.py'),
    Fault('no knee in the rear line', f'{PHYSICS}/hydraulics.py', 'return knee + slope * (pressure - knee)', 'return pressure', 'tests/core/test_phenomena.py tests/core/test_balance.py'),
    Fault("both pads' wear on one", f'{PHYSICS}/wear.py', 'energy_J / 1e6 / 2.0 / pad_area_m2', 'energy_J / 1e6 / pad_area_m2', 'tests/core/test_phenomena.py tests/core/test_docstrings.py'),
    Fault('drag without its half', f'{PHYSICS}/resistance.py', 'return 0.5 * density * drag_area * speed * speed', 'return density * drag_area * speed * speed', 'tests/core/test_phenomena.py'),
    Fault('regeneration at walking pace', f'{PHYSICS}/resistance.py', 'speed <= 0.0 or speed <= 0.5 * fade_out', 'speed <= 0.0', 'tests/core/test_phenomena.py'),
    Fault("the pedal's lever twice", f'{PHYSICS}/chain.py', 'pushrod = pedal_force_N * hydraulics.pedal_ratio * hydraulics.pedal_efficiency', 'pushrod = pedal_force_N * hydraulics.pedal_ratio', 'tests/core/test_answers.py tests/core/test_explain.py tests/core/test_fit.py'),
)
# fmt: on
