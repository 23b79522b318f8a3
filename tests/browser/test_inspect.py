"""Inspect: a whole inspection by keys, by the gauge, through a lost connection; asking, overruling, printing."""

from __future__ import annotations

import csv
import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, Route, expect

from tests.browser.conftest import Opener, axe_violations, settled, shows

pytestmark = pytest.mark.django_db(transaction=True)
WHEELS = ("Front left", "Front right", "Rear left", "Rear right")
# Inner, outer and three points over 6.02 mm of washers, wheel by wheel.
READINGS = (
    ("8.91", "8.93", "25.42", "25.42", "25.43"),
    ("8.92", "8.95", "25.44", "25.43", "25.44"),
    ("8.61", "8.63", "15.68", "15.69", "15.68"),
    ("8.62", "8.60", "15.70", "15.69", "15.70"),
)


class Keys:
    """Presses keys and counts those that are no digit or decimal point."""

    def __init__(self, page: Page) -> None:
        self.page, self.count = page, 0

    def press(self, key: str) -> None:
        self.page.keyboard.press(key)
        self.count += 1

    def type(self, number: str) -> None:
        self.page.keyboard.type(number)

    def until(self, name: re.Pattern[str] | str) -> None:
        """Tab on until the control with this name has the focus."""
        control = self.page.get_by_role("button", name=name).first
        for _ in range(40):
            if control.evaluate("element => element === document.activeElement"):
                return
            self.press("Tab")
        raise AssertionError(f"{name} cannot be reached")


def start(page: Page) -> None:
    page.goto("/m/1/inspect")
    settled(page)
    page.get_by_role("button", name="Start measuring").click()
    expect(page.get_by_role("heading", name=re.compile("^Measured on"))).to_be_visible()
    settled(page)


def all_saved(page: Page) -> None:
    expect(page.locator("[data-saved='true']")).to_be_visible()


def test_four_corners_by_keyboard_alone(open_page: Opener) -> None:
    page = open_page("desktop")
    page.goto("/m/1/life")
    settled(page)
    keys = Keys(page)
    keys.press("2")
    page.wait_for_url("**/inspect")
    expect(page.get_by_role("button", name="Start measuring")).to_be_enabled()
    page.locator("#main").evaluate("main => { main.tabIndex = -1; main.focus(); }")
    keys.until("Start measuring")
    keys.press("Enter")
    expect(page.get_by_role("button", name="Finish")).to_be_visible()
    head = "Day, odometer, washers; print and save"
    if page.get_by_role("button", name=head).is_visible():
        keys.until(head)
        keys.press("Enter")
    expect(page.get_by_label("Both washers together")).to_be_visible()
    page.get_by_label("Both washers together").focus()
    for number in ("6.02", *(reading for wheel in READINGS for reading in wheel)):
        keys.type(number)
        keys.press("Enter")
    # Then the picks: nothing found on the faces and underneath, at every wheel; fluid after them.
    for _ in range(2 * len(WHEELS)):
        expect(page.locator("select:focus")).to_have_count(1)
        keys.press("n")
        keys.press("Enter")
    keys.press("b")
    keys.press("Enter")
    keys.type("14")
    keys.press("Enter")
    assert keys.count < 90, keys.count
    all_saved(page)
    expect(page.get_by_text("20 of 20 readings in")).to_be_visible()
    front = page.get_by_role("region", name="Front left", exact=True)
    expect(front.get_by_role("textbox", name="Front left, pad, inner", exact=True)).to_have_value("8.91")
    expect(front.get_by_label("Front left, underneath")).to_have_value("sound")
    expect(front.get_by_text("19.40")).to_be_visible()
    expect(page.get_by_label("Fluid level")).to_have_value("between the marks")
    expect(page.get_by_label("Fluid age")).to_have_value("14")
    assert axe_violations(page) == []
    # Finished it is Life's: eight pads, each with two readings now.
    page.get_by_role("button", name="Finish").press("Enter")
    expect(page.get_by_role("button", name="Open it again")).to_be_visible()
    expect(page.locator("[data-stage='inspect']")).to_have_attribute("data-state", "done")
    page.goto("/m/1/life")
    settled(page)
    table = page.get_by_role("table", name="Pads of the front axle")
    expect(table.get_by_role("row")).to_have_count(5)
    expect(table.get_by_role("row").nth(1)).to_contain_text("front left inner")
    expect(table.get_by_role("row").nth(1)).to_contain_text("8.91")
    expect(table.get_by_role("row").nth(1).get_by_role("cell").last).to_have_text("2")
    assert axe_violations(page) == []


def test_the_gauge_fills_the_sheet_without_a_touch_between_cells(open_page: Opener) -> None:
    page = open_page("phone")
    start(page)
    page.get_by_role("button", name="Gauge: simulated").click()
    page.get_by_label("It is held at").select_option("worn lip")
    page.get_by_role("button", name="Day, odometer, washers").click()
    page.get_by_label("Both washers together").focus()
    for count in range(1, 22):
        page.keyboard.press("F2")
        # The next cell is ready: the marked one has gone on.
        expect(page.locator("input[data-cell='reading'][data-state='kept']")).to_have_count(count)
    all_saved(page)
    expect(page.get_by_text("20 of 20 readings in")).to_be_visible()
    expect(page.locator("[data-ruling='front_left.rotor']")).to_be_visible()
    assert float(page.get_by_label("Front left, rotor, point 1").input_value()) > 25.0
    # By itself it does the same on the motorcycle, and stops after the last of its three discs.
    page.clock.install()
    page.goto("/m/4/inspect")
    settled(page)
    page.get_by_role("button", name="Start measuring").click()
    settled(page)
    page.get_by_role("button", name="Gauge: simulated").click()
    page.get_by_label("It is held at").select_option("even")
    page.get_by_role("textbox", name="Front left, pad, inner", exact=True).focus()
    # An answer that takes longer than that is waited for: the next one would be typed into the same cell.
    waiting: list[Route] = []
    page.route("**/gauge", lambda route: waiting.append(route))
    page.get_by_role("button", name="Send one every 2 s").click()
    with page.expect_request("**/gauge"):
        page.clock.fast_forward(2000)
    for _ in range(3):
        page.clock.fast_forward(2000)
    expect(page.get_by_role("button", name="Stop sending")).to_be_visible()
    assert len(waiting) == 1
    waiting.pop().continue_()
    page.unroute("**/gauge")
    for count in range(1, 16):
        # The clock goes on by itself too: what has come in meanwhile counts.
        shows(page, "[data-readings]", count)
        page.clock.fast_forward(2000)
    expect(page.get_by_role("button", name="Send one every 2 s")).to_be_visible()
    expect(page.get_by_text("15 of 15 readings in")).to_be_visible()


def test_what_cannot_be_asks_and_outlives_a_reload(open_page: Opener) -> None:
    page = open_page("desktop")
    start(page)
    inner = page.get_by_role("textbox", name="Front left, pad, inner", exact=True)
    inner.fill("12 psi")
    inner.press("Enter")
    # A wrong unit stays where it is, and so does the cursor.
    expect(page.get_by_text('"psi" is not a unit for this')).to_be_visible()
    expect(inner).to_be_focused()
    page.keyboard.type("0.351")
    page.keyboard.press("Enter")
    expect(page.get_by_role("textbox", name="Front left, pad, outer", exact=True)).to_be_focused()
    expect(page.get_by_text("mm less than last time")).to_be_visible()
    page.keyboard.type("14.5")
    page.keyboard.press("Enter")
    expect(page.get_by_text("Is the backing plate in it?")).to_be_visible()
    expect(page.get_by_text("2 entries are not kept")).to_be_visible()
    expect(page.get_by_role("button", name="Finish")).to_be_disabled()
    assert axe_violations(page) == []
    page.reload()
    settled(page)
    expect(page.get_by_role("textbox", name="Front left, pad, outer", exact=True)).to_have_value("14.5")
    page.get_by_role("button", name="It was inches: 8.92 mm").click()
    expect(inner).to_have_value(re.compile(r"^8\.91"))
    page.get_by_role("button", name="Take it out").click()
    expect(page.get_by_text("not kept")).to_have_count(0)
    expect(page.get_by_role("textbox", name="Front left, pad, outer", exact=True)).to_have_value("")
    all_saved(page)


def test_verdicts_causes_and_a_reasoned_overruling(open_page: Opener, tmp_path: Path) -> None:
    page = open_page("desktop")
    page.goto("/m/5/inspect")
    settled(page)
    page.get_by_role("table", name="Inspections").get_by_role("button").first.click()
    settled(page)
    # A finished sheet takes no entries until it is opened again.
    expect(page.get_by_role("textbox", name="Front left, pad, inner", exact=True)).to_be_disabled()
    expect(page.locator("[data-cause='slide_pins']")).to_contain_text("slide the caliper on its pins")
    page.get_by_role("button", name="Open it again").click()
    inner = page.get_by_role("textbox", name="Front left, pad, inner", exact=True)
    inner.fill("2.8")
    inner.press("Enter")
    pads = page.locator("[data-ruling='front.pads']")
    expect(pads).to_have_attribute("data-word", "due")
    expect(pads).to_contain_text("Both sides of the axle are changed together")
    # Over washers with a lip: the planned wear turns the verdict, as you type.
    rotor = page.locator("[data-ruling='front_right.rotor']")
    for point, value in enumerate(("26.60", "26.66", "26.61"), start=1):
        cell = page.get_by_label(f"Front right, rotor, point {point}")
        cell.fill(value)
        cell.press("Enter")
    expect(rotor).to_have_attribute("data-word", "machine")
    planned = page.get_by_label("Wear to plan for, front")
    planned.fill("1.1")
    planned.press("Enter")
    expect(rotor).to_have_attribute("data-word", "replace")
    # A symptom and what the findings make of it.
    page.get_by_label("Add a symptom").select_option("pulls_hard_braking")
    expect(page.locator("[data-cause]")).to_have_count(5)
    pads.get_by_role("button", name="Overrule").click()
    page.get_by_label("Instead").select_option("plan")
    keep = page.get_by_role("button", name="Keep my verdict")
    expect(keep).to_be_disabled()
    page.get_by_label("Reason, for whoever reads it next").fill("new pads come on Friday")
    keep.click()
    expect(pads).to_contain_text("Overruled: plan. new pads come on Friday")
    assert axe_violations(page) == []
    all_saved(page)

    with page.expect_download() as download:
        page.get_by_role("link", name="Save as CSV").click()
    rows = list(csv.reader(Path(download.value.path()).read_text("utf-8").splitlines()))
    assert ["cell", "front_left.pad_inner_1", "2.800", "mm", ""] in rows
    assert any(row[1] == "front.pads" and "new pads come on Friday" in row[4] for row in rows)
    page.pdf(path=tmp_path / "sheet.pdf", format="A4")
    assert len(re.findall(rb"/Type /Page\b", (tmp_path / "sheet.pdf").read_bytes())) == 1
    page.emulate_media(media="print")
    paper = page.locator("[data-print-sheet]")
    expect(paper).to_contain_text("Overruled: plan, new pads come on Friday")
    expect(page.get_by_role("navigation", name="Stages")).to_be_hidden()


def test_a_lost_connection_loses_nothing(open_page: Opener) -> None:
    page = open_page("phone")
    start(page)
    page.context.set_offline(True)
    page.get_by_role("textbox", name="Rear left, pad, inner", exact=True).focus()
    for typed in ("8.7", "8,8.", "8.8"):
        page.keyboard.type(typed)
        page.keyboard.press("Enter" if typed != "8.8" else "Tab")
    # Left with Tab for the way out of what was wrong, which is gone: a figure typed there leads nowhere, nor on a link.
    page.keyboard.type("1")
    page.get_by_role("region", name="Rear left").get_by_role("button").first.focus()
    page.keyboard.type("1")
    expect(page.get_by_text("2 not sent yet, kept on this device")).to_be_visible()
    expect(page).to_have_url(re.compile("/inspect"))
    page.context.set_offline(False)
    all_saved(page)
    page.reload()
    settled(page)
    expect(page.get_by_role("textbox", name="Rear left, pad, inner", exact=True)).to_have_value("8.7")
    expect(page.get_by_role("textbox", name="Rear left, pad, outer", exact=True)).to_have_value("8.8")
    expect(page.get_by_text("2 of 20 readings in")).to_be_visible()


def test_a_picture_and_a_set_put_back_on(open_page: Opener, tmp_path: Path) -> None:
    page = open_page("desktop")
    start(page)
    page.get_by_role("button", name="Note what was found, Rear left").click()
    picture = tmp_path / "wheel.png"
    page.screenshot(path=picture, clip={"x": 0, "y": 0, "width": 60, "height": 40})
    page.get_by_label("Add a picture of Rear left").set_input_files(picture)
    shown = page.get_by_role("img", name=re.compile("^Rear left, taken"))
    expect(shown).to_be_visible()
    # It stands there before its bytes do.
    expect(shown).to_have_js_property("naturalWidth", 60)
    page.goto("/m/1/choose")
    settled(page)
    page.get_by_role("button", name=re.compile("^Fit ")).first.click()
    settled(page)
    page.goto("/m/1/life")
    settled(page)
    front = page.locator("[data-thing='shelf']", has_text="Front pads, Garth Road")
    expect(front).to_contain_text("front left inner")
    front.get_by_role("button", name="Put these pads back on").click()
    expect(page.locator("[data-thing='on']", has_text="Front pads")).to_contain_text("Garth Road")
