"""How often the busiest operations ask the database: few times, and no more for more rows of the same."""

from __future__ import annotations

from typing import Any

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext

from tests.builders import decided, owner
from tests.workshop import Api, machine_named, today
from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.choose.actions.fit_set import fit_set
from thermaxis.apps.fitted.offering import choices_of
from thermaxis.apps.fitted.standing import standing_of
from thermaxis.apps.machine.actions.add_machine import copy_machine
from thermaxis.apps.season.models import Event

pytestmark = pytest.mark.django_db
CELLS = {"cells": {"front_left.pad_inner_1": {"value": 0.0088}, "front_left.pad_outer_1": {"value": 0.0089}}}
# Inside a test's transaction nothing is kept between requests: this is what the first request of all asks.
MOST: dict[str, tuple[str, str, Any, int]] = {
    "session": ("get", "/session", None, 5),
    "machines": ("get", "/machines", None, 4),
    "machine": ("get", "{machine}", None, 15),
    "verdict": ("post", "{machine}/verdict", {}, 43),
    "candidates": ("post", "{machine}/candidates", {}, 28),
    "duties": ("get", "/duties", None, 13),
    "change_machine": ("patch", "{machine}", {"changes": {"vehicle.mass_kg": 700}}, 27),
    "life": ("get", "{machine}/life", None, 26),
    "season": ("get", "{machine}/season", None, 80),
    "shelf": ("get", "{machine}/shelf", None, 18),
    "inspection": ("get", "{sheet}", None, 41),
    "enter_cells": ("put", "{sheet}/cells", CELLS, 52),
    "overview": ("get", "/workshop/overview", None, 181),
}


def count(demo: Api, method: str, path: str, body: Any) -> int:
    with CaptureQueriesContext(connection) as queries:
        demo.call(method, path, body)
    return len([entry for entry in queries.captured_queries if "SAVEPOINT" not in entry["sql"]])


@pytest.fixture
def paths(demo: Api) -> dict[str, str]:
    machine = f"/machines/{demo.machine('Kit roadster')['id']}"
    head = {"measured_on": today().isoformat(), "odometer_km": 8412}
    return {"machine": machine, "sheet": f"/inspections/{demo.post(f'{machine}/inspections', head)['id']}"}


@pytest.mark.parametrize("name", MOST)
def test_an_operation_asks_no_more_often_than_it_did(demo: Api, paths: dict[str, str], name: str) -> None:
    method, path, body, most = MOST[name]
    assert count(demo, method, path.format(**paths), body) <= most


def test_more_of_the_same_is_asked_for_together(demo: Api, paths: dict[str, str], workshop: Workshop) -> None:
    """Sets on the shelf, readings, duties: one question for all of them. A machine more is a machine solved more."""
    before = {name: count(demo, *asked(name, paths)) for name in ("machines", "shelf", "life", "overview", "duties")}
    machine, scope = machine_named(workshop, "Kit roadster"), owner(workshop)
    for key in list(choices_of(standing_of(machine)).pads["front"])[:4]:
        on = standing_of(machine).parts.key.split("-")
        fit_set(
            scope,
            machine,
            "-".join([str(key), *on[1:]]),
            on=today(),
            content=decided(),
            title="A",
            renew=["front_pads"],
        )
    assert len(demo.get(f"{paths['machine']}/shelf")) == 10
    after = {name: count(demo, *asked(name, paths)) for name in ("machines", "shelf", "duties")}
    assert after == {name: before[name] for name in after}
    copy_machine(scope, machine, "One more", today())
    assert count(demo, *asked("machines", paths)) == before["machines"]
    assert count(demo, *asked("overview", paths)) <= before["overview"] + MOST["verdict"][3]


def test_an_event_more_asks_nothing_more(demo: Api, paths: dict[str, str]) -> None:
    """Its set comes with its curve for all events at once, and what was computed for one like it holds."""
    rows = Event.objects.planned().filter(machine__name="Kit roadster", on__gte=today())
    event = rows.exclude(front_pads=None).first()
    assert event is not None
    before = count(demo, *asked("season", paths))
    event.pk, event.uid = None, "another@thermaxis"
    event.save()
    assert count(demo, *asked("season", paths)) == before


def asked(name: str, paths: dict[str, str]) -> tuple[str, str, Any]:
    method, path, body, _ = MOST[name]
    return method, path.format(**paths), body


def test_what_lists_pictures_reads_none_of_them(demo: Api, paths: dict[str, str]) -> None:
    """A job has twenty pictures of some megabytes each: whoever asks for its steps is not to wait for them."""
    jobs = demo.get(f"{paths['machine']}/jobs")["jobs"]
    for path in ("/log", f"/jobs/{jobs[0]['id']}", paths["sheet"]):
        with CaptureQueriesContext(connection) as queries:
            demo.get(path)
        of_pictures = [entry["sql"] for entry in queries.captured_queries if "photo" in entry["sql"]]
        assert of_pictures, path
        assert not [sql for sql in of_pictures if '."content"' in sql], path
