"""Without connection: pages open again as last seen, what is entered waits in order and arrives once, clashes are shown."""

from __future__ import annotations

import re
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, BrowserContext, Page, expect

from tests.browser.conftest import PATIENCE_MS, SIZES, axe_violations, settled
from tests.browser.test_served import demo, loaded, served, start, stop

__all__ = ["demo", "loaded", "served"]


@pytest.fixture
def phone(served: tuple[str, dict[str, str]], chromium: Browser) -> Iterator[BrowserContext]:
    """A phone whose worker keeps what it sees."""
    width, height = SIZES["phone"]
    context = chromium.new_context(
        base_url=served[0], viewport={"width": width, "height": height}, locale="en-GB", is_mobile=True, has_touch=True
    )
    context.set_default_timeout(PATIENCE_MS)
    yield context
    context.close()


SEASON = "async (id) => (await (await fetch('/api/machines/1/season')).json())."


def kept(page: Page) -> None:
    """Wait until the device keeps what is seen."""
    page.wait_for_selector("html[data-kept='true']")


def asked(page: Page, path: str) -> Any:
    return page.evaluate("async (path) => (await fetch(path)).json()", path)


def changed(page: Page, path: str, body: dict[str, Any]) -> int:
    """Somebody else's change, from another browser than the one that is looked at."""
    ask = """async ([path, body]) => {
        const token = document.cookie.match(/csrftoken=([^;]*)/)[1];
        const headers = {"Content-Type": "application/json", "X-CSRFToken": token};
        return (await fetch(path, {method: "PUT", headers, body: JSON.stringify(body)})).status;
    }"""
    return int(page.evaluate(ask, [path, body]))


def read(page: Page, name: str, value: str) -> None:
    box = page.get_by_role("textbox", name=name, exact=True)
    box.fill(value)
    box.press("Enter")


def test_an_evening_in_a_bay_without_a_connection(phone: BrowserContext, chromium: Browser) -> None:
    page = phone.new_page()
    page.goto("/m/1/inspect")
    settled(page)
    page.get_by_role("button", name="Start measuring").click()
    read(page, "Front left, pad, inner", "8.1")
    expect(page.locator("[data-saved='true']")).to_be_visible()
    kept(page)
    event = asked(page, "/api/machines/1/season")["planned"][0]
    for path in ("/m/1/life", f"/m/1/ready/{event['id']}", "/m/2/job"):
        page.goto(path)
        settled(page)
    page.get_by_role("button", name=re.compile("^Go on")).click()
    step = page.locator("article[data-step]")
    expect(step).to_be_visible()
    job, first = page.url, step.get_attribute("data-step")

    # Nothing answers any more. What was seen opens again from nothing, and says that it is of before.
    phone.set_offline(True)
    none = page.get_by_role("alert").filter(has_text="No connection.")
    page.goto(f"/m/1/ready/{event['id']}")
    expect(page.locator("[data-ready]")).to_be_visible()
    expect(none).to_be_visible()
    page.goto("/m/1/inspect")
    # With what was entered last, and the readings of the strip as they were.
    expect(page.get_by_role("textbox", name="Front left, pad, inner", exact=True)).to_have_value("8.1")
    expect(page.locator("[data-reading='rotor']")).to_be_visible()
    expect(page.locator("[data-stage='inspect'][data-state='empty']")).to_have_count(0)
    assert axe_violations(page) == []
    read(page, "Front left, pad, outer", "8.3")
    page.goto(job)
    page.get_by_role("button", name="Done", exact=True).click()
    expect(page.locator(f"article[data-step='{first}']")).to_have_count(0)

    # The season: one event was driven, one is changed, one more is planned; each waits, and the first is forgotten.
    page.goto("/m/1/life")
    driven = page.locator("[data-event]").filter(has=page.get_by_role("button", name="Driven", exact=True)).first
    past = driven.get_attribute("data-event")
    driven.get_by_role("button", name="Driven", exact=True).click()
    page.get_by_role("button", name="It was driven").click()
    waits = page.locator("li[data-waits]")
    expect(waits).to_have_count(1)
    planned = page.locator(f"[data-event='{event['id']}']")
    planned.get_by_role("button", name="Change", exact=True).click()
    page.get_by_role("spinbutton", name="How many times").or_(page.get_by_label("How many times")).fill("3")
    page.get_by_role("button", name="Keep", exact=True).click()
    expect(waits).to_have_count(2)
    for name in ("Slip of the thumb", "Sprint after all"):
        page.get_by_role("button", name="Add an event").click()
        page.get_by_label("Event", exact=True).fill(name)
        page.get_by_role("button", name="Plan it").click()
        expect(page.get_by_text(f"{name}, planned for")).to_be_visible()
    page.locator("li[data-waits]").filter(has_text="Slip of the thumb").get_by_role("button", name="Forget it").click()
    expect(waits).to_have_count(3)
    expect(none).to_contain_text("1 entry of an inspection")
    expect(none).to_contain_text("3 changes of the season")
    expect(none).to_contain_text("of a job")
    assert axe_violations(page) == []
    page.close()

    # Meanwhile somebody else changes the same event.
    other = chromium.new_context(base_url=page.url.partition("/m/")[0], service_workers="block")
    desk = other.new_page()
    desk.set_default_timeout(PATIENCE_MS)
    desk.goto("/m/1/life")
    settled(desk)
    before = asked(desk, "/api/machines/1/season")["planned"][0]
    same = ("name", "on", "until_on", "starts_at", "ends_at", "duty_id", "sessions", "road_km", "air_C", "version")
    body = {name: before[name] for name in same} | {"sessions": 2}
    assert changed(desk, f"/api/events/{event['id']}", body) == 200
    assert "Slip" not in str(asked(desk, "/api/machines/1/season"))

    # The phone comes back on another page: everything is sent from there, once, but what clashes stays and says so.
    page = phone.new_page()
    page.goto("/")
    expect(none_of(page)).to_contain_text("3 changes of the season")
    phone.set_offline(False)
    stuck = page.locator("[data-stuck]")
    expect(stuck).to_contain_text("1 change of the season")
    expect(none_of(page)).to_have_count(0)
    page.wait_for_function(SEASON + "over.some((event) => `${event.id}` === id)", arg=past)
    season = asked(page, "/api/machines/1/season")
    assert [row["name"] for row in season["planned"]].count("Sprint after all") == 1
    cells = {cell["name"]: cell["value"] for cell in asked(page, f"/api/inspections/{newest(page)}")["cells"]}
    assert sorted(value for value in cells.values() if isinstance(value, float)) == pytest.approx([0.0081, 0.0083])
    stuck.get_by_role("link", name="1 change of the season").click()
    settled(page)
    refused = page.locator("li[data-refused]")
    expect(refused).to_contain_text("3 times")
    expect(refused).to_contain_text("There now")
    assert axe_violations(page) == []
    refused.get_by_role("button", name="Send mine all the same").click()
    expect(refused).to_have_count(0)
    expect(page.locator("[data-waits]")).to_have_count(0)
    page.wait_for_function(SEASON + "planned[0].sessions === 3")
    page.goto(job)
    expect(step_of(page)).not_to_have_attribute("data-step", first or "")
    other.close()


def none_of(page: Page) -> Any:
    return page.get_by_role("alert").filter(has_text="No connection.")


def step_of(page: Page) -> Any:
    return page.locator("article[data-step]")


def newest(page: Page) -> int:
    return max(int(row["id"]) for row in asked(page, "/api/machines/1/inspections"))


def test_another_version_waits_until_nothing_is_open(demo: dict[str, str], chromium: Browser) -> None:
    """The page that is open goes on with its own code; the other begins when the last one is closed."""
    process, address = start(demo)
    phone = chromium.new_context(base_url=address, locale="en-GB")
    phone.set_default_timeout(PATIENCE_MS)
    try:
        process = _upgraded(phone, demo, process)
    finally:
        phone.close()
        stop(process)


def _upgraded(phone: BrowserContext, demo: dict[str, str], process: Any) -> Any:
    page = phone.new_page()
    page.goto("/m/1/life")
    settled(page)
    kept(page)
    # Loaded under the worker, as every page but the very first is.
    page.reload()
    kept(page)
    worker = Path(demo["THERMAXIS_VAR"]) / "static" / "sw.js"
    build = re.search(r'self\.build=[`"](\w+)[`"]', worker.read_text("utf-8"))
    assert build
    stop(process)
    for beside in worker.parent.glob("sw.js.*"):
        beside.unlink()
    worker.write_text(worker.read_text("utf-8").replace(build[1], "another00001"), "utf-8")
    process, _ = start(demo)
    page.evaluate("async () => { await (await navigator.serviceWorker.ready).update(); }")
    expect(page.locator("[data-new-version]")).to_be_visible()
    state = (
        "async () => { const r = await navigator.serviceWorker.ready; return [r.waiting !== null, r.active.state]; }"
    )
    assert page.evaluate(state) == [True, "activated"]
    page.get_by_role("button", name="Add an event").click()
    expect(page.get_by_role("button", name="Plan it")).to_be_visible()
    second = phone.new_page()
    second.goto("/")
    expect(second.locator("[data-new-version]")).to_be_visible()
    page.close()
    second.close()
    # The browser takes its time to see that the last one is gone.
    waits = True
    while waits:
        third = phone.new_page()
        third.goto("/")
        expect(third.get_by_role("link", name="Kit roadster")).to_be_visible()
        waits = third.evaluate(state)[0]
        if waits:
            third.close()
    expect(third.locator("[data-new-version]")).to_have_count(0)
    return process
