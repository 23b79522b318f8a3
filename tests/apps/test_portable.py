"""A workshop as a file: out, in again into an empty one, every row equal; a machine taken to another workshop."""

from __future__ import annotations

import json
from typing import Any

import pytest
from django.contrib.auth import get_user_model

from tests import builders
from tests.workshop import machine_named
from thermaxis.apps.accounts.models import Membership, Workshop
from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.log.models import LogEntry
from thermaxis.apps.solving.forecasting import outlook
from thermaxis.apps.solving.in_force import in_force
from thermaxis.apps.workshop.actions import take_in
from thermaxis.apps.workshop.actions.take_in import hand_over
from thermaxis.apps.workshop.api.drawing import draw
from thermaxis.apps.workshop.portable.coming_in import from_a_file
from thermaxis.apps.workshop.portable.going_out import machine_document, workshop_document
from thermaxis.apps.workshop.portable.tables import NAMES, WHO, neighbours, tables
from thermaxis.core.errors import FieldError, SolveError
from thermaxis.formats.workshop_archive import read_archive, write_archive

pytestmark = pytest.mark.django_db


def take_in_workshop(scope: Scope, document: Any) -> int:
    return take_in.take_in_workshop(scope, document, draw)


def take_in_machine(scope: Scope, document: Any) -> Machine:
    return take_in.take_in_machine(scope, document, draw)


def elsewhere(document: dict[str, Any]) -> dict[str, Any]:
    """The same file as it reads where it was imported: people are text, entries say that they came from a file."""
    found = through_a_file(document)
    for label, names in NAMES.items():
        for row in found["tables"].get(label, []):
            row.update({name: from_a_file(row[name]) for name in names})
    for label in ("log.LogEntry", "garage.Owner", "job.JobTick"):
        for row in found["tables"].get(label, []):
            row["user"] = None
    for row in found["tables"]["log.LogEntry"]:
        row["from_file"] = True
    text = json.dumps([row.pop("content") for row in found["tables"]["job.Job"]])
    for name in WHO:
        text = text.replace(f'"{name}": "demo"', f'"{name}": "from a file: demo"')
    for row, content in zip(found["tables"]["job.Job"], json.loads(text), strict=True):
        row["content"] = content
    return found


def through_a_file(document: dict[str, Any]) -> dict[str, Any]:
    read: dict[str, Any] = json.loads(json.dumps(document, allow_nan=False))
    return read


def numbered(document: dict[str, Any]) -> dict[str, Any]:
    """The same file whatever the numbers of its rows: each is its place among the rows of its table."""
    places = {label: {row["id"]: place for place, row in enumerate(rows)} for label, rows in document["tables"].items()}
    text: dict[str, Any] = json.loads(json.dumps(document["tables"]))
    labels = {str(model._meta.verbose_name): model._meta.label for model in tables()}
    for model in tables():
        for row in text.get(model._meta.label, []):
            row["id"] = places[model._meta.label][row["id"]]
            for field in neighbours(model):
                if row[field.name] is not None:
                    row[field.name] = places[field.related_model._meta.label][row[field.name]]
    for row in text["log.LogEntry"]:
        row["things"] = [_placed(words, labels, places) for words in row["things"]]
    for label in ("job.Job", "fitted.Intended"):
        for row in text.get(label, []):
            row["key"] = "" if not row["key"] else "set"
            row.pop("off", None)
    return text


def _placed(words: str, labels: dict[str, str], places: dict[str, dict[int, int]]) -> str:
    name, _, number = words.rpartition(" ")
    return f"{name} {places.get(labels.get(name, ''), {}).get(int(number), '?')}"


def test_every_row_is_equal_in_an_empty_workshop(workshop: Workshop) -> None:
    document: dict[str, Any] = json.loads(read_archive(write_archive(workshop_document(workshop))))
    assert document == through_a_file(workshop_document(workshop))
    assert len(document["tables"]) > 30
    there = builders.workshop("Another")
    # A member there of the same name is nobody in the file.
    Membership.objects.create(user=get_user_model().objects.get(username="demo"), workshop=there)
    rows = take_in_workshop(builders.owner(there), document)
    assert rows == sum(map(len, document["tables"].values()))
    again = through_a_file(workshop_document(there))
    # The entry that says so is the only one more.
    told = [row for row in again["tables"]["log.LogEntry"] if row["act"] == "take_in_workshop"]
    assert len(told) == 1
    again["tables"]["log.LogEntry"] = [row for row in again["tables"]["log.LogEntry"] if row not in told]
    before, after = numbered(elsewhere(document)), numbered(again)
    assert before.keys() == after.keys()
    for label, expected in before.items():
        assert after[label] == expected, label


def test_what_was_read_in_is_computed_as_before(workshop: Workshop) -> None:
    there = builders.workshop("Another")
    take_in_workshop(builders.owner(there), through_a_file(workshop_document(workshop)))
    for name in ("Kit roadster", "Electric hatch"):
        one, other = (in_force(machine_named(place, name)) for place in (workshop, there))
        assert other.result == one.result
        chances = [[forecast.ahead.words for forecast in outlook(state).forecasts] for state in (one, other)]
        assert chances[0] == chances[1]


def test_a_file_that_is_wrong_is_refused_and_nothing_is_kept(workshop: Workshop) -> None:
    document = through_a_file(workshop_document(workshop))
    there = builders.workshop("Another")
    scope = builders.owner(there)

    def spoilt(label: str, **values: Any) -> dict[str, Any]:
        copy = through_a_file(document)
        copy["tables"][label][0].update(values)
        return copy

    wrongs: tuple[Any, ...] = (
        {},
        [],
        {**document, "format": "thermaxis-workshop/2"},
        {**document, "what": "machine"},
        {**document, "tables": {"auth.User": []}},
        {**document, "tables": {"garage.Machine": [1]}},
        spoilt("garage.Machine", duty=10**9),
        spoilt("garage.Machine", mass_kg="heavy"),
        spoilt("garage.Machine", mass_kg=-5.0),
        spoilt("garage.Machine", name="x" * 5000),
        spoilt("garage.Axle", machine=10**9),
        spoilt("fitted.PadReading", measured_on="yesterday"),
        spoilt("fitted.PadReading", id=None),
        spoilt("garage.Machine", kind="hovercraft"),
    )
    for wrong in wrongs:
        with pytest.raises((FieldError, SolveError)):
            take_in_workshop(scope, wrong)
        assert not Machine.objects.of(there).exists()
        assert not LogEntry.objects.of(there).exists()
    take_in_workshop(scope, document)
    with pytest.raises(SolveError, match="machines already"):
        take_in_workshop(scope, document)


def test_a_machine_goes_to_another_workshop_with_its_log(workshop: Workshop) -> None:
    machine = machine_named(workshop, "Kit roadster")
    document = through_a_file(machine_document(machine))
    assert [row["name"] for row in document["tables"]["garage.Machine"]] == ["Kit roadster"]
    there = builders.workshop("Another")
    scope = builders.owner(there)
    came = take_in_machine(scope, document)
    assert came.workshop_id == there.pk
    acts = list(LogEntry.objects.filter(machine=machine).order_by("pk").values_list("act", flat=True))
    come = list(LogEntry.objects.filter(machine=came).order_by("pk").values_list("act", flat=True))
    assert come == [*acts, "take_in_machine"]
    assert in_force(machine_named(there, "Kit roadster")).result == in_force(machine).result
    # Another machine of the same workshop brings its own, and shares the parts that are there by their names.
    take_in_machine(scope, through_a_file(machine_document(machine_named(workshop, "Electric hatch"))))
    names = list(Machine.objects.of(there).order_by("pk").values_list("name", flat=True))
    assert names == ["Kit roadster", "Electric hatch"]
    for name in names:
        assert in_force(machine_named(there, name)).result == in_force(machine_named(workshop, name)).result


def test_a_machine_is_handed_to_another_owner_with_its_log(workshop: Workshop) -> None:
    scope, machine = builders.owner(workshop), machine_named(workshop, "Parcel van")
    entries = LogEntry.objects.filter(machine=machine).count()
    hand_over(scope, machine, "  N. Fellside ")
    machine.refresh_from_db()
    assert machine.owner.name == "N. Fellside"
    last = LogEntry.objects.filter(machine=machine).latest("pk")
    assert LogEntry.objects.filter(machine=machine).count() == entries + 1
    assert last.changes["owner"][1] == "N. Fellside"
    with pytest.raises(FieldError, match="owner"):
        hand_over(scope, machine, " ")
