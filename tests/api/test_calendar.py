"""A season's calendar over the API: out at its address, in from files, moved, and never twice."""

from __future__ import annotations

import datetime as dt
import io
from typing import Any

import pytest
import vobject
from django.contrib.auth import get_user_model
from django.core.files.uploadedfile import SimpleUploadedFile

from tests.api.test_season import planned, roadster
from tests.workshop import Api, assert_problem
from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.log.models import LogEntry
from thermaxis.apps.season.models import Event

__all__ = ["roadster"]
pytestmark = pytest.mark.django_db


def upload(demo: Api, path: str, content: bytes, name: str, **form: Any) -> Any:
    file = SimpleUploadedFile(name, content)
    return demo.client.post(f"/api{path}", {"file": file, "zone": "Europe/London", **form})


def test_the_calendar_goes_out_comes_in_and_moves(demo: Api, roadster: str, workshop: Workshop) -> None:
    planned(demo, roadster, 10, every_days=14, times=3, starts_at="09:00", ends_at="17:30")
    planned(demo, roadster, 12, name="Whole day")
    token = demo.put(f"{roadster}/feed", {"shared": True})["token"]
    demo.client.logout()
    feed = demo.client.get(f"/api/feeds/{token}.ics")
    assert feed["Content-Type"].startswith("text/calendar")
    rows = vobject.readOne(io.StringIO(feed.content.decode())).vevent_list
    assert len(rows) == 4
    demo.client.force_login(get_user_model().objects.get(username="demo"))
    before = list(Event.objects.of(workshop).order_by("pk").values())
    entries = LogEntry.objects.count()
    # Its own feed read twice changes nothing.
    duty = demo.duty("Relay stint, Tarn loop")
    for _ in range(2):
        answer = upload(demo, f"{roadster}/events/take-in", feed.content, "events.ics", duty_id=duty)
        assert [row["what"] for row in answer.json()] == ["same"] * 4
    assert list(Event.objects.of(workshop).order_by("pk").values()) == before
    assert LogEntry.objects.count() == entries
    # A day later in the file: that one moves, the others stay.
    first = Event.objects.get(name="Whole day")
    moved = feed.content.replace(
        first.on.strftime("%Y%m%d").encode(), (first.on + dt.timedelta(days=1)).strftime("%Y%m%d").encode()
    )
    looked = upload(demo, f"{roadster}/events/read", moved, "events.ics").json()
    assert sorted(row["what"] for row in looked) == ["moved", "same", "same", "same"]
    assert Event.objects.get(pk=first.pk).on == first.on
    upload(demo, f"{roadster}/events/take-in", moved, "events.ics", duty_id=duty)
    assert Event.objects.get(pk=first.pk).on == first.on + dt.timedelta(days=1)
    assert Event.objects.of(workshop).count() == len(before)
    # Withdrawn, the address is gone, and another one comes in its place.
    demo.put(f"{roadster}/feed", {"shared": False})
    demo.get(f"/feeds/{token}.ics", 404)
    assert demo.put(f"{roadster}/feed", {"shared": True})["token"] != token


def test_a_table_of_events_comes_in_once(demo: Api, roadster: str, workshop: Workshop) -> None:
    content = b"Date;Event;Start;End\n06.03.2027;Sprint day;08:30;16:00\n20 Mar 2027;Test evening;;\n"
    duty, before = demo.duty("Relay stint, Tarn loop"), Event.objects.of(workshop).count()
    for expected in (["new", "new"], ["same", "same"]):
        answer = upload(demo, f"{roadster}/events/take-in", content, "season.csv", duty_id=duty)
        assert [row["what"] for row in answer.json()] == expected
    assert Event.objects.of(workshop).count() == before + 2
    assert Event.objects.get(name="Sprint day").starts_at == dt.time(8, 30)
    bad = upload(demo, f"{roadster}/events/read", b"Date,Event\nsoon,Sprint day\n", "season.csv")
    assert_problem(bad.json(), 422, "file", "row 2")
