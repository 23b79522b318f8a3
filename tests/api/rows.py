"""Real row numbers for addresses and bodies made from the schema."""

from __future__ import annotations

import datetime as dt
import json
from pathlib import Path
from typing import Any

import pytest
import schemathesis
from django.db.models import Model
from django.utils import timezone

from tests.pictures import picture
from tests.workshop import Api, today
from thermaxis.apps.accounts.models import ApiKey, Membership, OneTimeAddress, OpenSession, Workshop
from thermaxis.apps.bed.models import BeddingRecord, BeddingRun
from thermaxis.apps.catalogue.models import Fluid, OwnMu, Pad, PadVariant, Rotor
from thermaxis.apps.choose.models import Decision
from thermaxis.apps.fitted.models import BeddingResult, Calibration, FluidReading, PadReading, PadSet, RotorPair
from thermaxis.apps.fitted.standing import standing_of
from thermaxis.apps.garage.models import Circuit, Duty, Machine, RecordedRun, SetUp
from thermaxis.apps.inspect.models import Inspection, InspectionPhoto
from thermaxis.apps.job.models import Job, JobPhoto
from thermaxis.apps.log.models import LogEntry, LogPhoto
from thermaxis.apps.season.models import Event, Order

# Which rows the numbers in addresses and bodies are of, by their names.
ROWS: dict[str, type[Model]] = {
    "machine_id": Machine,
    "duty_id": Duty,
    "circuit_id": Circuit,
    "run_id": RecordedRun,
    "set_up_id": SetUp,
    "inspection_id": Inspection,
    "photo_id": InspectionPhoto,
    "decision_id": Decision,
    "plan_id": BeddingRecord,
    "bedding_run_id": BeddingRun,
    "bedding_result_id": BeddingResult,
    "calibration_id": Calibration,
    "measurement_id": PadReading,
    "reading_id": OwnMu,
    "pad_id": Pad,
    "thing_id": PadSet,
    "fluid_id": Fluid,
    "workshop_id": Workshop,
    "job_id": Job,
    "job_photo_id": JobPhoto,
    "pad_set_id": PadSet,
    "front_pads_id": PadSet,
    "rear_pads_id": PadSet,
    "event_id": Event,
    "order_id": Order,
    "variant_id": PadVariant,
    "rotor_id": Rotor,
    "fluid_reading_id": FluidReading,
    "entry_id": LogEntry,
    "log_photo_id": LogPhoto,
    "rotor_pair_id": RotorPair,
    "member_id": Membership,
    "address_id": OneTimeAddress,
    "open_session_id": OpenSession,
    "key_id": ApiKey,
}
VIA: dict[type[Model], str] = {
    LogPhoto: "entry__workshop",
    PadVariant: "pad__workshop",
    OwnMu: "pad__workshop",
    InspectionPhoto: "inspection__workshop",
    JobPhoto: "job__workshop",
    OpenSession: "user__membership__workshop",
}
# What is answered without a session: ways in, and what somebody was given the address of.
OPEN = frozenset(
    {
        "sign_in",
        "shared",
        "shared_pdf",
        "calendar_feed",
        "look_at_address",
        "found_workshop",
        "join_as_new",
        "set_new_password",
        "health",
    }
)
SCHEMA = schemathesis.openapi.from_dict(json.loads((Path(__file__).parents[2] / "openapi.json").read_text("utf-8")))
OPERATIONS: list[Any] = [found.ok() for found in SCHEMA.get_all_operations()]  # type: ignore[union-attr]
# What a decision shows takes a second to compute: once is enough.
SHOWN: dict[str, Any] = {}


def name_of(operation: Any) -> str:
    return str(operation.definition.raw["operationId"])


@pytest.fixture
def filled(demo: Api, workshop: Workshop) -> Workshop:
    """The demo workshop with at least one row of everything an address can name."""
    machine = Machine.objects.of(workshop).get(name="Kit roadster")
    path = f"/machines/{machine.pk}"
    demo.post(f"{path}/set-ups", {"name": "A", "changes": {"vehicle.mass_kg": 700}}, 201)
    standing = standing_of(machine)
    things = {f"{axle}_pads": standing.pads(axle) for axle in ("front", "rear")}
    rotors = {f"{axle}_rotors": standing.rotors(axle) for axle in ("front", "rear")}
    if "plan" not in SHOWN:
        kept = BeddingRecord.objects.get(
            pk=demo.post(f"{path}/plans", {"school": "rising", "top_speed_mps": 30, "hard_g": 0.6})["id"]
        )
        SHOWN["plan"], SHOWN["order"] = kept.plan, kept.order
        kept.delete()
    plan = BeddingRecord.objects.create(
        workshop=workshop,
        machine=machine,
        order=SHOWN["order"],
        plan=SHOWN["plan"],
        engine_version="x",
        **things,
        **rotors,
    )
    BeddingRun.objects.create(workshop=workshop, record=plan, token="a", started_at=timezone.now(), seed=1)
    BeddingResult.objects.create(
        workshop=workshop,
        machine=machine,
        axle="front",
        pad_set=standing.pads("front"),
        rotor_pair=standing.rotors("front"),
        on=today(),
        odometer_km=machine.odometer_km,
        word="begun",
        source="run",
    )
    sheet = Inspection.objects.of(workshop).filter(machine=machine)[0]
    InspectionPhoto.objects.create(inspection=sheet, token="token-000", wheel="front_left", content=picture("JPEG"))
    if "content" not in SHOWN:
        key = demo.post(f"{path}/candidates", {})["ranked"][0]["key"]
        SHOWN["content"] = demo.post(f"{path}/decisions", {"keys": [key], "title": "A"}, 201)["content"]
    Decision.objects.create(workshop=workshop, machine=machine, title="A", content=SHOWN["content"], engine_version="x")
    duty = Duty.objects.of(workshop)[0]
    Calibration.objects.create(
        workshop=workshop, machine=machine, duty=duty, evidence=[], residuals=[], engine_version="x"
    )
    RecordedRun.objects.create(workshop=workshop, name="A", trace={"t_s": [0, 1], "v_mps": [1, 1], "grade": None})
    pad = Pad.objects.of(workshop)[0]
    job = Job.objects.of(workshop).filter(machine=machine, closed_at=None).first() or Job.objects.create(
        workshop=workshop, machine=machine, axle="front", work="clean", started_at=timezone.now(), started_by="demo"
    )
    JobPhoto.objects.create(job=job, token="token-000", when="before", content=picture("JPEG"))
    event = Event.objects.create(
        workshop=workshop, machine=machine, name="A", on=today() + dt.timedelta(days=9), duty=duty, uid="a@x"
    )
    Order.objects.create(workshop=workshop, machine=machine, event=event, kind="pads", name="A")
    FluidReading.objects.create(
        workshop=workshop, machine=machine, fill=standing.fill, measured_on=today(), boiling_C=190.0
    )
    note = LogEntry.objects.create(workshop=workshop, machine=machine, act="write_note", text="A")
    LogPhoto.objects.create(entry=note, token="token-000", content=picture("JPEG"))
    OwnMu.objects.create(pad=pad, temperature_C=200, mu=0.4, measured_on=today())
    member = Membership.objects.filter(workshop=workshop)[0]
    OneTimeAddress.objects.create(
        kind="join", role="fitter", workshop=workshop, print="a", ends_at=timezone.now() + dt.timedelta(days=1)
    )
    ApiKey.objects.create(user=member.user, workshop=workshop, name="A", reach="read", print="a")
    return workshop


def number_of(name: str, workshop: Workshop) -> int:
    model = ROWS[name]
    if model is Workshop:
        return workshop.pk
    via = VIA.get(model, "workshop")
    rows = model._default_manager.filter(**{via: workshop})
    return int((rows.filter(name="Kit roadster") if model is Machine else rows).latest("pk").pk)


def with_rows_of(body: Any, workshop: Workshop) -> Any:
    """A body whose row numbers are those of a workshop."""
    if isinstance(body, dict):
        return {
            key: number_of(key, workshop) if key in ROWS and value is not None else with_rows_of(value, workshop)
            for key, value in body.items()
        }
    return [with_rows_of(entry, workshop) for entry in body] if isinstance(body, list) else body
