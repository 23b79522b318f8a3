"""Bedding plans, runs and results as the API gives them."""

from __future__ import annotations

import dataclasses
import math
from collections.abc import Mapping, Sequence
from typing import Any, TypeVar

from django.utils import timezone
from ninja import Schema

from thermaxis.apps.accounts.api.said import SaidOut, said_out
from thermaxis.apps.bed.api import schemas
from thermaxis.apps.bed.content import content_of
from thermaxis.apps.bed.models import BeddingRecord
from thermaxis.apps.bed.running import Running, events_of
from thermaxis.apps.catalogue.models import MakersRows
from thermaxis.apps.fitted.bedded import Film, bedding_states, film_under
from thermaxis.apps.fitted.models import BeddingResult
from thermaxis.apps.fitted.parts import AXLES
from thermaxis.apps.fitted.standing import Standing
from thermaxis.apps.solving import tracing
from thermaxis.apps.solving.bedding import Schools, rows_from
from thermaxis.core.messages import run as say
from thermaxis.core.physics.simulate import history
from thermaxis.core.planning.bedding.looks import looks
from thermaxis.core.planning.bedding.proof import Proof
from thermaxis.core.planning.bedding.run import Read, in_effect
from thermaxis.core.planning.bedding.schools import schools
from thermaxis.core.planning.bedding.series import Item, Row, duty_of, how_hard
from thermaxis.core.planning.bedding.setting import Setting
from thermaxis.core.planning.job.schools import options
from thermaxis.core.records import Case
from thermaxis.core.said import Said
from thermaxis.formats.units import said_of

S = TypeVar("S", bound=Schema)
# Of a cooling factor as it is shown: so many sigmas to each side.
SHOWN_SIGMAS = 1.28


def filled(schema: type[S], **values: Any) -> S:
    """A schema from values whose words the schema itself checks."""
    return schema(**values)


def schools_out(found: Schools, standing: Standing) -> schemas.SchoolsOut:
    pad = standing.pads("front").pad
    return schemas.SchoolsOut(
        pad=pad.name,
        pad_id=pad.pk,
        rear_pad=standing.pads("rear").pad.name,
        words=pad.bedding,
        default=found.default,
        reason=said_out(found.reason),
        allowed_g=found.setting.grip_g,
        allowed_mps=found.setting.machine_most_mps,
        makers=makers_out(found.makers),
        plans=[plan_out(content_of(plan, found.setting)) for plan in found.plans.values()],
    )


def plan_out(content: Mapping[str, Any]) -> schemas.PlanOut:
    """A plan, just computed or as it was kept."""
    school = schools()[content["school"]]
    steps, limits = content["steps"], content["limits"]
    windows = {axle: schemas.WindowOut(**window) for axle, window in content["windows"].items()}
    same = {
        name: content[name]
        for name in schemas.PlanOut.model_fields
        if name in content and name not in ("rear", "limits", "closed", "text", "needs", "remarks", "refused")
    }
    return filled(
        schemas.PlanOut,
        **same,
        wear_front_m=1e-3 * content["wear_front_mm"],
        wear_rear_m=1e-3 * content["wear_rear_mm"],
        label=school.label,
        what=school.what,
        suits=school.suits,
        **windows,
        items=[_item(step["item"], step["front_C"], step["rear_C"], rider=content["rider"]) for step in steps],
        kept=content["refused"] is None and all(limit["kept"] for limit in limits),
        limits=[schemas.KeptOut(**{**limit, "text": _said(limit["text"])}) for limit in limits],
        closed=_said_or_none(content["closed"]),
        text=_said(content["text"]),
        needs=_said_or_none(content["needs"]),
        rear_text=_said_or_none(content["rear"]),
        remarks=[_said(remark) for remark in content["remarks"]],
        refused=_said_or_none(content["refused"]),
    )


def _plain(record: Any) -> dict[str, Any]:
    """A record's own values, or a stored one as it is."""
    if isinstance(record, Mapping):
        return dict(record)
    return {field.name: getattr(record, field.name) for field in dataclasses.fields(record)}


def _said(content: Any) -> SaidOut:
    return said_out(content if isinstance(content, Said) else said_of(content))


def _said_or_none(content: Any) -> SaidOut | None:
    return None if content is None else _said(content)


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
    return schemas.PlanRecordOut(
        id=record.pk,
        made_at=record.made_at,
        done_on=record.done_on,
        school=school,
        label=schools()[school].label,
        top_speed_mps=record.order["top_speed_mps"],
        hard_g=record.order["hard_g"],
        stops=sum(row["times"] for row in record.plan["rows"]),
        run_id=last.pk if last else None,
        run_ended=bool(last and last.ended_at),
        removed=record.removed_at is not None,
    )


def kept_plan_out(record: BeddingRecord, setting: Setting) -> schemas.KeptPlanOut:
    """What was kept, as it was; the curve is drawn for the machine as it stands."""
    return schemas.KeptPlanOut(
        **plan_record_out(record).dict(),
        plan=plan_out(record.plan),
        curve=curve_out(setting, rows_from(record.plan["rows"])),
    )


# --- the run -----------------------------------------------------------------------------------------------------


def run_out(found: Running) -> schemas.BedRunOut:
    run, standing, setting = found.run, found.standing, found.setting
    record: BeddingRecord = run.record
    plan, rider = plan_out(record.plan), setting.motorcycle
    spread = math.exp(SHOWN_SIGMAS * standing.state.sigma)
    return filled(
        schemas.BedRunOut,
        id=run.pk,
        plan_id=record.pk,
        machine_id=record.machine_id,
        machine=record.machine.name,
        pad=record.front_pads.pad.name,
        label=plan.label,
        front=schemas.WindowOut(**_plain(setting.front)),
        rear=schemas.WindowOut(**_plain(setting.rear)),
        started_at=run.started_at,
        ended_at=run.ended_at,
        now=timezone.now(),
        kinds=[event.kind for event in in_effect(events_of(run))],
        tokens=[row.token for row in run.events.all()],
        planned=plan.items,
        did=[
            filled(
                schemas.DidOut, how=did.how, at_s=did.at_s, item=_item(did.item, did.front_C, did.rear_C, rider=rider)
            )
            for did in standing.did
        ],
        left=[_item(item, *ends, rider=rider) for item, ends in zip(standing.left, standing.left_C, strict=True)],
        reads=[_read(read) for read in standing.reads],
        gap_s=standing.gap_s,
        gap_mps=standing.gap_mps,
        waits_from_s=standing.waits_from_s,
        cooling=standing.state.cooling,
        cooling_low=standing.state.cooling / spread,
        cooling_high=standing.state.cooling * spread,
        said=_said_or_none(standing.said),
        word=standing.word,
        words=standing.words,
        closed=plan.closed,
    )


def _read(read: Read) -> schemas.RunReadOut:
    words = say.BELIEVED if read.believed else say.NOT_BELIEVED
    return filled(
        schemas.RunReadOut,
        axle=read.reading.axle,
        value_C=read.reading.value_C,
        after=read.reading.after,
        expected_C=read.expected_C,
        believed=read.believed,
        text=said_out(words(value=read.reading.value_C, expected=read.expected_C)),
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
            filled(
                schemas.BeddedOut,
                axle=axle,
                pads=str(standing.pads(axle)),
                rotors=str(standing.rotors(axle)),
                state=states[axle].state,
                why=said_out(states[axle].why),
            )
            for axle in AXLES
        ],
        results=[result_out(row) for row in rows.order_by("-on", "-pk")],
        films=[film_out(film) for film in films],
        film_schools=[
            schemas.FilmSchoolOut(option=one.option, label=one.label, reason=one.reason, default=one.default)
            for one in options()["film"]
        ],
        looks=[schemas.RingLookOut(**dataclasses.asdict(look)) for look in looks()],
    )


def result_out(row: BeddingResult) -> schemas.ResultOut:
    return filled(
        schemas.ResultOut,
        id=row.pk,
        axle=row.axle,
        on=row.on,
        word=row.word,
        source=row.source,
        look=row.look,
        pads=str(row.pad_set),
        rotors=str(row.rotor_pair),
        text=_said_or_none(row.text),
        wear_m=row.wear_m,
        removed=row.removed_at is not None,
    )


def film_out(film: Film) -> schemas.FilmOut:
    return filled(schemas.FilmOut, axle=film.axle, before=film.before, same=film.same, text=said_out(film.text))


def proof_out(proof: Proof) -> schemas.ProofOut:
    return filled(
        schemas.ProofOut,
        word=proof.word,
        axles=[
            filled(
                schemas.AxleProofOut,
                axle=axle.axle,
                word=axle.word,
                inside=axle.inside,
                missing=axle.missing,
                hottest_C=axle.hottest_C,
                peak_C=axle.peak_C,
                text=said_out(axle.text),
            )
            for axle in proof.axles
        ],
        brakings=proof.brakings,
        sure=proof.sure,
        text=said_out(proof.text),
    )
