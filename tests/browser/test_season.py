"""Life, calendar, log and workshop: a fitter's season from the plan to the driven event, on desk and phone."""

from __future__ import annotations

import datetime as dt
import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import Opener, axe_violations, pressed_for_pdf, settled
from tests.workshop import today

pytestmark = pytest.mark.django_db(transaction=True)
TRACK = "pads-front-3"


def day(ahead: int) -> str:
    return (today() + dt.timedelta(days=ahead)).isoformat()


def chances(page: Page, part: str) -> list[str]:
    row = page.locator(f"[data-part='{part}']").locator("xpath=../..")
    found: list[str] = row.locator("[data-word]").evaluate_all("nodes => nodes.map((node) => node.dataset.word)")
    return found


def test_an_event_is_planned_judged_driven_and_the_forecast_follows(open_page: Opener) -> None:
    page = open_page("desktop")
    page.goto("/m/1/life")
    settled(page)
    expect(page.get_by_role("heading", name="What survives which event")).to_be_visible()
    expect(page.get_by_text(re.compile(r"of \d+ readings \d+ fell inside their range"))).to_be_visible()
    assert axe_violations(page) == []
    before = chances(page, TRACK)
    assert before[0] == "survives"
    assert before[-1] == "change before"
    # Every part can be opened, with its formula and its numbers.
    page.locator(f"[data-part='{TRACK}']").click()
    opened = page.get_by_role("dialog")
    expect(opened).to_contain_text("it holds where t(k) ≥ limit")
    expect(opened).to_contain_text(re.compile(r"Relay stint, fast group: .*times"))
    page.keyboard.press("Escape")
    # An event more, on the track set, by the keyboard.
    page.get_by_role("button", name="Add an event").click()
    form = page.get_by_role("form", name="Plan an event")
    expect(form.get_by_label("Event")).to_be_focused()
    page.keyboard.type("Wet test")
    form.get_by_label("Day", exact=True).fill(day(5))
    form.get_by_label("What it asks").select_option(label="Relay stint, Tarn loop")
    form.get_by_label("Front pads").select_option(label="Fellmark R2, shelf")
    form.get_by_label("Begins, empty for a whole day").fill("09:30")
    form.get_by_role("button", name="Plan it").click()
    expect(page.locator("[data-event]", has_text="Wet test")).to_contain_text("09:30")
    settled(page)
    assert len(chances(page, TRACK)) == len(before) + 1
    # Taken out and back.
    row = page.locator("[data-event]", has_text="Wet test")
    row.get_by_role("button", name="Take out").click()
    page.get_by_role("note").filter(has_text="out of the calendar").get_by_role("button", name="Undo").click()
    expect(row).to_be_visible()
    # Ready for it: the word, its reasons, another air, and the print.
    row.get_by_role("link", name="Ready for it?").click()
    ready = page.locator("[data-ready]")
    expect(ready).to_contain_text("not on the front axle yet")
    expect(ready).to_contain_text("torque wrench")
    assert axe_violations(page) == []
    page.get_by_label("Air that day").fill("35")
    page.get_by_label("Air that day").press("Enter")
    expect(ready).to_contain_text("air 35 °C")
    sheet = pressed_for_pdf(page, page.get_by_role("link", name="Print it, one page"))
    assert sheet.body().startswith(b"%PDF-")
    # What was driven closes the loop: the set it was driven on has it in its history.
    page.goto("/m/1/life")
    settled(page)
    waiting = page.locator("[data-event]", has_text="Club evening")
    waiting.get_by_role("button", name="Driven").click()
    driven = page.get_by_role("form", name="What became of it")
    driven.get_by_label("Odometer after it").fill("8600")
    driven.get_by_role("button", name="It was driven").click()
    page.get_by_text(re.compile(r"^Over \(5\)")).click()
    over = page.locator("[data-event]", has_text="Club evening")
    expect(over).to_contain_text("driven, odometer 8600 km")
    settled(page)
    track = page.locator("[data-thing='shelf']", has_text="Front pads, Fellmark R2")
    track.get_by_role("link", name="Its history").click()
    expect(page.get_by_role("table", name="Its history")).to_contain_text("driven: Club evening")
    page.go_back()
    settled(page)
    page.get_by_text(re.compile(r"^Over \(5\)")).click()
    page.locator("[data-event]", has_text="Club evening").get_by_role("button", name="Take that back").click()
    expect(page.get_by_role("heading", name="Was it driven?")).to_be_visible()


def test_a_change_is_ordered_comes_and_lies_on_the_shelf(open_page: Opener) -> None:
    page = open_page("phone")
    page.goto("/m/2/life")
    settled(page)
    assert page.evaluate("document.documentElement.scrollWidth") == 390
    # The fluid boils at the final unless it is changed before.
    advice = page.locator("[data-before]", has_text="Corrie Hill, final")
    expect(advice).to_contain_text("Fluid")
    assert axe_violations(page) == []
    order = page.locator("[data-order]", has_text="Beck 5.1, one litre")
    order.get_by_role("button", name="Ordered").click()
    expect(order).to_contain_text("ordered")
    expect(advice).to_contain_text("ordered")
    order.get_by_role("button", name="Has come").click()
    expect(order).to_contain_text("has come")
    # A test of the fluid that says otherwise, in Fahrenheit.
    page.get_by_text("Fluid tested", exact=False).first.click()
    form = page.get_by_role("form", name="A reading of the fluid")
    form.get_by_label("Tester: it boiled at").fill("480 °F")
    form.get_by_role("button", name="Keep it").click()
    expect(page.get_by_text("boiled at 249 °C")).to_be_visible()


def test_a_calendar_comes_in_and_can_be_followed(open_page: Opener, tmp_path: Path) -> None:
    page = open_page("desktop")
    lines = ["BEGIN:VCALENDAR", "VERSION:2.0", "PRODID:-//x//y//EN"]
    for uid, name, on in (("1", "Club sprint", 9), ("2", "Night rally", 30)):
        start = (today() + dt.timedelta(days=on)).strftime("%Y%m%d")
        lines += ["BEGIN:VEVENT", f"UID:{uid}", f"SUMMARY:{name}", f"DTSTART;VALUE=DATE:{start}", "END:VEVENT"]
    file = tmp_path / "club.ics"
    file.write_text("\r\n".join([*lines, "END:VCALENDAR", ""]), "utf-8")
    page.goto("/m/4/life")
    settled(page)
    page.get_by_text("Calendar files").click()
    for said in ("2 taken in.", "Nothing in it was new."):
        page.locator("input[type=file][accept*='.ics']").set_input_files(file)
        expect(page.get_by_text("club.ics: 2 events")).to_be_visible()
        if said.startswith("2"):
            page.get_by_role("button", name="Take them in").click()
            expect(page.get_by_text(said)).to_be_visible()
            expect(page.locator("[data-event]", has_text="Night rally")).to_be_visible()
        else:
            expect(page.get_by_text("is here already")).to_have_count(2)
    page.get_by_role("button", name="Make an address").click()
    address = page.locator("code").inner_text()
    feed = page.request.get(address)
    assert "Night rally" in feed.text()
    page.get_by_role("button", name="Withdraw the address").click()
    expect(page.get_by_role("button", name="Make an address")).to_be_visible()
    assert page.request.get(address).status == 404


def test_the_log_is_read_searched_written_and_the_workshop_plans_by_it(open_page: Opener, tmp_path: Path) -> None:
    page = open_page("desktop")
    page.goto("/m/1/log")
    settled(page)
    entries = page.get_by_role("list", name="Entries")
    expect(entries).to_contain_text("Event planned: Relay, round 3")
    assert axe_violations(page) == []
    page.get_by_role("button", name="Write an entry").click()
    page.keyboard.type("Front left caliper pin greased")
    page.get_by_role("form", name="Write an entry").get_by_role("button", name="Keep it").click()
    expect(entries).to_contain_text("Front left caliper pin greased")
    page.get_by_label("Search in words").fill("pin greased")
    page.get_by_label("Search in words").press("Enter")
    expect(entries.get_by_role("listitem")).to_have_count(1)
    page.get_by_label("Search in words").fill("")
    page.get_by_label("Search in words").press("Enter")
    page.get_by_label("Kind").select_option("order")
    expect(entries).not_to_contain_text("Event planned")
    older = tmp_path / "old.csv"
    older.write_text("Date,Odometer km,Work\n2021-05-04,3100,New discs all round\n", "utf-8")
    page.get_by_text("Bring in an older log").click()
    page.locator("input[type=file][accept*='.csv']").set_input_files(older)
    expect(page.get_by_text("1 row can be read")).to_be_visible()
    page.get_by_role("button", name="Read it in").click()
    expect(page.get_by_text("1 entries read in.")).to_be_visible()
    # Over all machines: due next, its week and its month.
    page.goto("/")
    settled(page)
    page.get_by_role("link", name="Plan", exact=True).click()
    due = page.get_by_role("region", name="Due next")
    expect(due).to_contain_text("Was Club evening driven?")
    settled(page)
    assert axe_violations(page) == []
    page.get_by_role("button", name="Month").click()
    expect(page.locator("[data-calendar='month']")).to_be_visible()
    expect(page.locator(f"[data-day='{today().isoformat()}']")).to_contain_text("today")
    owners = page.get_by_role("region", name="Owners")
    form = owners.get_by_role("form", name="Hand a machine over")
    form.get_by_label("Machine").select_option(label="Parcel van")
    form.get_by_label("to", exact=True).fill("N. Fellside")
    form.get_by_role("button", name="Hand it over").click()
    expect(owners).to_contain_text("Parcel van is theirs now")
    expect(owners).to_contain_text("N. Fellside")
    due.get_by_role("link", name="Go there").first.click()
    expect(page).to_have_url(re.compile(r"/m/1/life$"))
