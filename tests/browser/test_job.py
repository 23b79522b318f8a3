"""Job: a whole rear job on a phone through a lost connection and a killed server; the sheet on a desk; two at once."""

from __future__ import annotations

import datetime as dt
import json
import re
import signal
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, expect

from tests.browser.conftest import PATIENCE_MS, SIZES, Opener, axe_violations, settled
from tests.browser.test_served import demo, loaded, start, stop
from tests.pictures import picture

__all__ = ["demo", "loaded"]
DATABASE = pytest.mark.django_db(transaction=True)


def progress(page: Page) -> str:
    return page.locator("[data-progress]").first.inner_text().split(" ")[0].strip()


def tick(page: Page) -> None:
    """Done, by thumb; the next step comes by itself."""
    before = page.locator("article[data-step]").get_attribute("data-step")
    page.get_by_role("button", name="Done", exact=True).click()
    expect(page.locator(f"article[data-step='{before}']")).to_have_count(0)


def through(page: Page, until: str) -> None:
    """Tick on until a step, by its key."""
    for _ in range(140):
        key = page.locator("article[data-step]").get_attribute("data-step")
        if key == until:
            return
        tick(page)
    raise AssertionError(f"{until} never came")


def test_a_rear_job_on_a_phone_with_the_connection_cut_and_the_server_killed(
    demo: dict[str, str], chromium: Browser, tmp_path: Path
) -> None:
    process, address = start(demo)
    width, height = SIZES["phone"]
    context = chromium.new_context(base_url=address, viewport={"width": width, "height": height}, locale="en-GB")
    page = context.new_page()
    page.set_default_timeout(PATIENCE_MS)
    photo = tmp_path / "corner.jpg"
    photo.write_bytes(picture("JPEG"))
    try:
        page.goto("/m/2/job")
        page.get_by_role("button", name=re.compile("^Go on")).click()
        # Waits in service mode, as the demo left it: fourteen steps are done.
        expect(page.get_by_role("heading", name="Take the wheel off and lay it under the sill")).to_be_visible()
        assert progress(page) == "14"
        assert axe_violations(page) == []
        tick(page)
        page.locator("input[type=file]").first.set_input_files(photo)
        through(page, "guide_bolts_out@left")
        # The connection goes in the middle: thumb and gauge do not wait for it.
        context.set_offline(True)
        through(page, "pads_measured@left")
        for name, value in (("Inner pad", "3.1"), ("Outer pad", "4.4"), ("Ring", "9.6")):
            box = page.get_by_role("textbox", name=re.compile(f"^{name}"))
            box.fill(value)
            box.press("Enter")
        page.locator("input[type=file]").first.set_input_files(photo)
        through(page, "guide_torque@left")
        expect(page.locator("[data-waiting]")).to_contain_text("wait for the connection")
        waiting = int(page.locator("[data-waiting]").get_attribute("data-waiting") or 0)
        assert waiting > 20
        done = progress(page)
        context.set_offline(False)
        expect(page.locator("[data-waiting]")).to_have_count(0)
        assert progress(page) == done
        tick(page)
        expect(page.get_by_text("all saved")).to_be_visible()
        # The server is killed; what is ticked while nobody listens waits on the device, and outlives a reload.
        stop(process, signal.SIGKILL)
        through(page, "push_electric@right")
        expect(page.locator("[data-waiting]")).to_contain_text("wait for the connection")
        done = progress(page)
        process, _ = start(demo)
        page.reload()
        expect(page.locator("article[data-step='push_electric@right']")).to_be_visible()
        expect(page.locator("[data-waiting]")).to_have_count(0)
        assert progress(page) == done
        through(page, "service_learn")
        # Driving waits until it has learned.
        expect(page.get_by_role("button", name="Done", exact=True)).to_be_disabled()
        page.get_by_role("button", name="Leave service mode").click()
        expect(page.locator("[data-service='learned']")).to_be_visible()
        through(page, "papers")
        page.get_by_role("button", name="Done", exact=True).click()
        # Every tightening by a second pair of eyes, then closed.
        page.get_by_role("button", name="All checked again").click()
        expect(page.get_by_text("all saved")).to_be_visible()
        page.get_by_role("region", name="Close the job").get_by_role("button", name="Close the job").click()
        expect(page.get_by_role("heading", name=re.compile("^Closed"))).to_be_visible()
        expect(page.get_by_text("Wheel bolts once more at")).to_be_visible()
        job = page.evaluate("async () => (await fetch('/api/jobs/3')).json()")
        # Nothing lost, nothing twice.
        assert all(step["done"] for step in job["steps"])
        assert all(step["rechecked_by"] for step in job["steps"] if step["tighten"])
        assert len(job["photos"]) == 2
        kept = {name: round(1000 * value, 2) for name, value in job["values"].items() if name != "level"}
        assert kept == {"pad.left.inner": 3.1, "pad.left.outer": 4.4, "ring.left": 9.6}
        # As moments: a whole second is written without a fraction, and as text would come after its tenths.
        at = [dt.datetime.fromisoformat(step["at"]) for step in job["steps"] if step["corner"] == "left"]
        assert at == sorted(at)
        pdf = context.request.get(f"/api/jobs/{job['id']}/pdf")
        assert pdf.body().startswith(b"%PDF-")
        assert pdf.body().count(b"/Type /Page\n") == 2
        rows = json.loads(context.request.get(f"/api/jobs/{job['id']}/file/json").body())
        assert rows["machine"] == "Electric hatch"
    finally:
        context.close()
        stop(process)


@DATABASE
def test_the_whole_sheet_on_a_desk_and_two_at_once(open_page: Opener) -> None:
    page = open_page("desktop")
    page.goto("/m/5/job")
    settled(page)
    page.get_by_role("button", name=re.compile("^Go on")).click()
    settled(page)
    expect(page.locator("[data-progress]")).to_have_text("47 of 101 steps")
    assert axe_violations(page) == []
    # Somebody else opens the same sheet and ticks; here it is checked again.
    other = open_page("phone")
    other.goto("/m/5/job?job=5")
    settled(other)
    tick(other)
    expect(other.get_by_text("all saved")).to_be_visible()
    page.reload()
    settled(page)
    expect(page.locator("[data-progress]")).to_have_text("48 of 101 steps")
    page.get_by_role("button", name=re.compile("^Front left")).click()
    line = page.locator("[data-step='guide_torque@left']")
    expect(line).to_contain_text("33 N m · 24 lbf ft")
    expect(line).to_contain_text("checked again by demo")
    # Taken back and done again by keyboard: it has to be checked again anew.
    line.get_by_role("button", name=re.compile("^Done: Tighten")).press("Enter")
    expect(line).to_have_attribute("data-done", "false")
    line.get_by_role("button", name=re.compile("^Done: Tighten")).press("Enter")
    line.get_by_role("button", name=re.compile("^Check again")).press("Enter")
    expect(line).to_contain_text("checked again by demo")
    # A torque nobody has is looked up; ten times what its thread bears asks.
    page.get_by_role("button", name=re.compile("^Write it down.*Bracket bolts")).click()
    form = page.get_by_role("form", name=re.compile("Bracket bolts"))
    form.get_by_role("combobox", name="Thread", exact=True).select_option("M10")
    form.get_by_role("textbox", name="Torque", exact=True).fill("600")
    form.get_by_role("button", name="Keep it").click()
    expect(form.get_by_role("alert")).to_contain_text("far from what M10 usually bears")
    form.get_by_role("textbox", name="Torque", exact=True).fill("44 lbf ft")
    form.get_by_role("textbox", name="Page").fill("46-12")
    form.get_by_role("button", name="Keep it").click()
    expect(page.locator("[data-fastener='bracket']")).to_contain_text("60 N m · 44 lbf ft")
    # Bleeding: one tap a stroke, and the counter says when.
    page.get_by_role("button", name=re.compile("^Close")).first.click()
    page.locator("[data-step='bleed_corner@front_left']").get_by_role("button", name=re.compile("^Hose on")).click()
    counter = page.get_by_role("region", name="Stroke counter")
    for _ in range(4):
        counter.get_by_role("button", name="One stroke").click()
    expect(counter.locator("[data-strokes]")).to_have_text("4")
    expect(counter).to_contain_text("Refill now")
    # What it costs beside the shop, and by what is driven.
    cost = page.get_by_role("region", name="Time and cost")
    expect(cost).to_contain_text("the shop: £420")
    # A step that is not there says why.
    page.get_by_text("Steps that do not belong to this sheet, and why").click()
    expect(page.get_by_text("only for opposed calipers").first).to_be_visible()
    # Given up, nothing of the machine has changed; taken up again, all ticks are there.
    page.get_by_role("button", name="Give it up").click()
    expect(page.get_by_text("nothing of the machine changed")).to_be_visible()
    page.get_by_role("button", name="Take it up again").click()
    expect(page.get_by_role("button", name="Give it up")).to_be_visible()


@DATABASE
def test_the_service_tool_and_what_stops_a_job(open_page: Opener) -> None:
    page = open_page("phone", "dark")
    page.goto("/m/1/job?job=2")
    settled(page)
    # Two left rotors in the boxes: Fit stops the very first step, in words too.
    expect(page.get_by_text("Fit says stop: rotor for the right")).to_be_visible()
    expect(page.get_by_role("button", name="Done", exact=True)).to_be_disabled()
    page.goto("/m/1/fit")
    settled(page)
    page.locator("[data-item='rotor.right']").get_by_role("combobox").select_option("right")
    expect(page.locator("[data-item='rotor.right']")).to_contain_text("there")
    page.goto("/m/1/job?job=2")
    settled(page)
    expect(page.get_by_role("button", name="Done", exact=True)).to_be_enabled()
    tick(page)
    # A hatch's rear from the beginning: the tool's faults each lead somewhere.
    page.goto("/m/2/job?job=3")
    settled(page)
    page.get_by_text("Fasteners, cost, pictures and the rest of the sheet").click()
    page.get_by_role("button", name="The whole sheet").click()
    page.get_by_role("button", name="Give it up").or_(
        page.get_by_role("button", name=re.compile("^Close"))
    ).first.click()
    page.get_by_role("button", name="Give it up").click()
    page.get_by_role("button", name="All jobs").click()
    page.get_by_role("combobox", name="Work").select_option("Pads")
    page.get_by_role("combobox", name="Axle").select_option("Rear")
    page.get_by_role("button", name="Build the sheet").click()
    page.get_by_role("button", name="Step by step").click()
    through(page, "service_mode")
    expect(page.get_by_text("the parking brake is not in service mode")).to_be_visible()
    tool = page.get_by_role("region", name="Service tool")
    tool.get_by_text("This is a stand-in").click()
    for fault, said in (("low voltage", "Put a charger on"), ("lost contact", "connect again")):
        tool.get_by_role("combobox", name="Fault").select_option(fault)
        tool.get_by_role("button", name="Connect", exact=True).click()
        expect(tool.get_by_role("alert")).to_contain_text(said)
    tool.get_by_role("combobox", name="Fault").select_option("")
    tool.get_by_role("button", name="Connect", exact=True).click()
    tool.get_by_role("button", name="Release the parking brake").click()
    expect(page.locator("[data-service='released']")).to_be_visible()
    tool.get_by_role("combobox", name="Fault").select_option("stall")
    tool.get_by_role("button", name="Drive the pistons home").click()
    expect(tool.get_by_role("alert")).to_contain_text("The motor stalled")
    tool.get_by_role("combobox", name="Fault").select_option("")
    tool.get_by_role("button", name="Drive the pistons home").click()
    expect(tool.get_by_role("progressbar")).to_be_visible()
    expect(page.locator("[data-service='home']")).to_be_visible()
    expect(page.get_by_role("button", name="Done", exact=True)).to_be_enabled()
    assert axe_violations(page) == []
