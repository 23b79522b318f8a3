"""Bedding plans, runs and results as the API gives them."""

from __future__ import annotations

import dataclasses
import math
from collections.abc import Mapping, Sequence
from typing import Any

from django.utils import timezone

from thermaxis.apps.bed.api import schemas
from thermaxis.apps.bed.content import content_of, worn_m
from thermaxis.apps.bed.models import BeddingRecord
from thermaxis.apps.bed.running import Running, events_of
from thermaxis.apps.catalogue.models import MakersRows
from thermaxis.apps.fitted.bedded import bedding_states, film_under
from thermaxis.apps.fitted.models import BeddingResult
from thermaxis.apps.fitted.parts import AXLES
from thermaxis.apps.fitted.standing import Standing
from thermaxis.apps.solving import tracing
from thermaxis.apps.solving.bedding import Schools, rows_from
from thermaxis.core.messages import run as say
from thermaxis.core.physics.simulate import history
from thermaxis.core.planning.bedding.looks import looks
from thermaxis.core.planning.bedding.run import TRAFFIC_S, Read, in_effect
from thermaxis.core.planning.bedding.schools import schools
from thermaxis.core.planning.bedding.series import Item, Row, duty_of, how_hard
from thermaxis.core.planning.bedding.setting import Setting
from thermaxis.core.planning.job.schools import options
from thermaxis.core.records import Case

# Of a cooling factor as it is shown: so many sigmas to each side.
SHOWN_SIGMAS = 1.28
NOT_AS_STORED = ("rear", "items", "kept", "wear_front_m", "wear_rear_m")


def schools_out(found: Schools, standing: Standing) -> schemas.SchoolsOut:
    pad = standing.pads("front").pad
    return schemas.SchoolsOut.of(
        found,
        pad=pad.name,
        pad_id=pad.pk,
        rear_pad=standing.pads("rear").pad.name,
        words=pad.bedding,
        allowed_g=found.setting.grip_g,
        allowed_mps=found.setting.machine_most_mps,
        makers=makers_out(found.makers),
        plans=[plan_out(content_of(plan, found.setting)) for plan in found.plans.values()],
    )


def plan_out(content: Mapping[str, Any]) -> schemas.PlanOut:
    """A plan, just computed or as it was kept."""
    school = schools()[content["school"]]
    steps, limits = content["steps"], content["limits"]
    same = {
        name: content[name] for name in schemas.PlanOut.model_fields if name in content and name not in NOT_AS_STORED
    }
    return schemas.PlanOut.of(
        school,
        **same,
        wear_front_m=worn_m(content, "front"),
        wear_rear_m=worn_m(content, "rear"),
        **content["windows"],
        items=[_item(step["item"], step["front_C"], step["rear_C"], rider=content["rider"]) for step in steps],
        kept=content["refused"] is None and all(limit["kept"] for limit in limits),
        rear_text=content["rear"],
    )


def _plain(record: Any) -> dict[str, Any]:
    """A record's own values, or a stored one as it is."""
    if isinstance(record, Mapping):
        return dict(record)
    return {field.name: getattr(record, field.name) for field in dataclasses.fields(record)}


def _item(
    item: Item | Mapping[str, Any], front_C: float | None, rear_C: float | None, *, rider: bool
) -> schemas.ItemOut:
    values = _plain(item)
    first = values.pop("first")
    how = how_hard(values["decel_g"], rider=rider)
    return schemas.ItemOut(**values, how=how, stop=first + values["stops"], front_C=front_C, rear_C=rear_C)


def drawn_plan(content: Mapping[str, Any]) -> schemas.PlanOut:
    """A stored plan as its page and its card draw it. Raises for one they cannot."""
    rows_from(content["rows"])
    float(content["steps"][-1]["front_C"])
    return plan_out(content)


def makers_out(row: MakersRows | None) -> schemas.MakersOut:
    if row is None:
        return schemas.MakersOut(rows=[], version=0)
    return schemas.MakersOut(rows=[schemas.RowIO(**one) for one in row.rows], version=row.version)


def curve_out(setting: Setting, rows: Sequence[Row]) -> schemas.CurveOut:
    """Both faces through a plan, thinned."""
    case: Case = dataclasses.replace(setting.alone, duty=duty_of(rows))
    curve = tracing.thinned(history(case), case)
    return schemas.CurveOut(
        t_s=curve["t_s"], front_surface_C=curve["front_surface_C"], rear_surface_C=curve["rear_surface_C"]
    )


def plan_record_out(record: BeddingRecord) -> schemas.PlanRecordOut:
    runs = sorted(record.runs.all(), key=lambda run: run.pk)
    last = runs[-1] if runs else None
    school = record.order["school"]
    return schemas.PlanRecordOut.of(
        record,
        school=school,
        label=schools()[school].label,
        top_speed_mps=record.order["top_speed_mps"],
        hard_g=record.order["hard_g"],
        stops=sum(row["times"] for row in record.plan["rows"]),
        run_id=last.pk if last else None,
        run_ended=bool(last and last.ended_at),
    )


def kept_plan_out(record: BeddingRecord, setting: Setting) -> schemas.KeptPlanOut:
    """What was kept, as it was; the curve is drawn for the machine as it stands."""
    return schemas.KeptPlanOut(
        **plan_record_out(record).model_dump(),
        plan=plan_out(record.plan),
        curve=curve_out(setting, rows_from(record.plan["rows"])),
    )


# --- the run -----------------------------------------------------------------------------------------------------


def run_out(found: Running) -> schemas.BedRunOut:
    run, standing, setting = found.run, found.standing, found.setting
    record: BeddingRecord = run.record
    plan, rider = plan_out(record.plan), setting.motorcycle
    spread = math.exp(SHOWN_SIGMAS * standing.state.sigma)
    return schemas.BedRunOut.of(
        standing,
        id=run.pk,
        plan_id=record.pk,
        machine_id=record.machine_id,
        machine=record.machine.name,
        pad=record.front_pads.pad.name,
        label=plan.label,
        front=setting.front,
        rear=setting.rear,
        started_at=run.started_at,
        ended_at=run.ended_at,
        now=timezone.now(),
        kinds=[event.kind for event in in_effect(events_of(run))],
        tokens=[row.token for row in run.events.all()],
        planned=plan.items,
        did=[
            schemas.DidOut.of(did, item=_item(did.item, did.front_C, did.rear_C, rider=rider)) for did in standing.did
        ],
        left=[_item(item, *ends, rider=rider) for item, ends in zip(standing.left, standing.left_C, strict=True)],
        reads=[_read(read) for read in standing.reads],
        traffic_s=TRAFFIC_S,
        cooling=standing.state.cooling,
        cooling_low=standing.state.cooling / spread,
        cooling_high=standing.state.cooling * spread,
        closed=plan.closed,
    )


def _read(read: Read) -> schemas.RunReadOut:
    words = say.BELIEVED if read.believed else say.NOT_BELIEVED
    return schemas.RunReadOut.of(
        read.reading,
        expected_C=read.expected_C,
        believed=read.believed,
        text=words(value=read.reading.value_C, expected=read.expected_C),
    )


# --- did it work -------------------------------------------------------------------------------------------------


def state_out(standing: Standing) -> schemas.BedStateOut:
    """How far what is on is bedded, what was said of it, and what a ring can show."""
    states = bedding_states(standing)
    sets = [standing.pads(axle).pk for axle in AXLES]
    rows = BeddingResult.objects.there().filter(pad_set__in=sets).select_related("pad_set__pad", "rotor_pair")
    films = [film for axle in AXLES if (film := film_under(standing, axle)) is not None]
    return schemas.BedStateOut(
        axles=[
            schemas.BeddedOut.of(
                states[axle], axle=axle, pads=str(standing.pads(axle)), rotors=str(standing.rotors(axle))
            )
            for axle in AXLES
        ],
        results=[result_out(row) for row in rows.order_by("-on", "-pk")],
        films=[schemas.FilmOut.of(film) for film in films],
        film_schools=[schemas.FilmSchoolOut.of(option) for option in options()["film"]],
        looks=[schemas.RingLookOut.of(look) for look in looks()],
    )


def result_out(row: BeddingResult) -> schemas.ResultOut:
    return schemas.ResultOut.of(row, pads=str(row.pad_set), rotors=str(row.rotor_pair), text=row.text)
