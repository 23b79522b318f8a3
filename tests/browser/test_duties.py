"""Duties of one's own: typed while they are driven, drawn circuits, recorded runs from the logger's file."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, Route, expect

from tests.browser.conftest import Opener, axe_violations, reading, reads, settled, shows

pytestmark = pytest.mark.django_db(transaction=True)


# What the duty being typed would do: its figures by their place.
BRAKE_ENERGY, HOTTEST_RING = (f"[data-drive] > div:nth-child({place}) .figures" for place in (1, 2))


def figure(page: Page, which: str) -> float:
    return float(page.locator(which).inner_text())


def typed(page: Page, label: str | re.Pattern[str], text: str) -> None:
    box = page.get_by_label(label)
    box.fill(text)
    box.press("Enter")


def test_a_pass_is_typed_section_by_section_and_driven_while_typing(open_page: Opener) -> None:
    page = open_page("desktop")
    page.goto("/m/3/duty")
    settled(page)
    page.get_by_role("button", name="Descent in sections").press("Enter")
    form = page.get_by_role("form", name="A new duty")
    expect(form.get_by_role("img", name="Ring surface temperatures over time")).to_be_visible()
    settled(page)
    short = figure(page, BRAKE_ENERGY)
    typed(page, "Length, section 1", "2500 m")
    page.get_by_role("button", name="Add a section").press("Enter")
    typed(page, "Falls, section 2", "12 %")
    typed(page, "Stops, section 2", "2")
    page.get_by_label("Gear, section 2").select_option("one_lower")
    expect(page.get_by_text("5.0 km of it on the duty")).to_be_visible()
    shows(page, BRAKE_ENERGY, 3 * short)
    assert axe_violations(page) == []

    # Too many stops for its length: said in the cell, and what was typed stays.
    typed(page, "Stops, section 2", "150")
    expect(form.get_by_text(re.compile("▲ .*: at most"))).to_be_visible()
    expect(page.get_by_label("Stops, section 2")).to_have_value("150")
    page.reload()
    settled(page)
    expect(page.get_by_label("Stops, section 2")).to_have_value("150")
    typed(page, "Stops, section 2", "2")
    settled(page)
    # Enter goes on in a field; on the button it keeps it, and a second Enter does not keep it twice.
    typed(page, "Name of the duty", "Two ramps")
    expect(page.get_by_label("Note", exact=True)).to_be_focused()
    page.get_by_role("button", name="Keep this duty").focus()
    page.keyboard.press("Enter")
    page.keyboard.press("Enter")
    expect(page.get_by_role("radio", name=re.compile("^Two ramps"))).to_be_checked()
    settled(page)
    expect(page.get_by_role("heading", name="Two ramps")).to_be_visible()

    # Without the trailer it is another duty: a copy, changed.
    towed = reading(page, "rotor")
    page.get_by_role("button", name="Copy it").press("Enter")
    page.get_by_label("Trailer left behind").check()
    page.get_by_role("button", name="Keep this duty").click()
    expect(page.get_by_role("radio", name=re.compile("^Two ramps, copy"))).to_be_checked()
    settled(page)
    reads(page, "rotor", 0, towed - 21)
    page.get_by_role("button", name="Remove Two ramps", exact=True).click()
    expect(page.get_by_text("Two ramps is out of the list.")).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("radio", name=re.compile("^Two ramps"))).to_have_count(2)


def test_a_circuit_is_drawn_and_a_faster_driver_brakes_harder_on_it(open_page: Opener) -> None:
    page = open_page("desktop")
    page.goto("/m/1/duty")
    settled(page)
    page.get_by_role("button", name="Circuit, sprint or hill-climb").click()
    page.get_by_role("button", name="Draw a new circuit").click()
    typed(page, "Name of the circuit", "Back field")
    typed(page, "Length, piece 1", "350")
    page.get_by_role("button", name="Add a piece").click()
    typed(page, "Radius, piece 3", "")
    typed(page, "Length, piece 3", "250 m")
    page.get_by_role("button", name="Add a piece").click()
    typed(page, "Radius, piece 4", "25")
    typed(page, "Length, piece 4", "60")
    expect(page.get_by_role("img", name="2 corners on 750 m, a lap")).to_be_visible()
    page.get_by_role("button", name="Move piece 4 up").click()
    expect(page.get_by_label("Radius, piece 3")).to_have_value("25")
    page.get_by_role("button", name="Move piece 3 down").click()
    assert axe_violations(page) == []

    # The answer keeps one waiting; what is typed meanwhile is not taken back by it.
    waiting: list[Route] = []
    page.route(
        "**/api/circuits", lambda route: waiting.append(route) if route.request.method == "POST" else route.continue_()
    )
    with page.expect_request("**/api/circuits"):
        page.get_by_role("button", name="Keep the circuit").click()
    typed(page, "Name of the duty", "Club day")
    page.get_by_role("combobox", name="Driver").select_option("novice")
    typed(page, re.compile("^Laps"), "4")
    expect(page.get_by_role("button", name="Keep this duty")).to_be_disabled()
    waiting.pop().continue_()
    expect(page.get_by_label("Circuit or course").locator("option:checked")).to_have_text("Back field")
    expect(page.get_by_label("Name of the duty")).to_have_value("Club day")
    expect(page.get_by_label("Laps", exact=True)).to_have_value("4")
    expect(page.get_by_role("combobox", name="Driver")).to_have_value("novice")
    settled(page)
    novice = figure(page, HOTTEST_RING)
    page.get_by_role("combobox", name="Driver").select_option("advanced")
    shows(page, HOTTEST_RING, novice + 41)
    settled(page)
    held = figure(page, BRAKE_ENERGY)
    page.get_by_role("combobox", name="Traffic").select_option("0.5")
    shows(page, BRAKE_ENERGY, 0, held - 0.01)
    page.get_by_role("button", name="Put it away").click()
    expect(page.get_by_role("form")).to_have_count(1)  # only the readings of a calibration


def test_a_logger_s_file_becomes_a_duty(open_page: Opener) -> None:
    page = open_page("phone")
    page.goto("/m/1/duty")
    settled(page)
    page.get_by_role("radio", name=re.compile("^Relay stint, Tarn loop")).check()
    settled(page)
    clean = reading(page, "rotor")
    page.get_by_role("button", name="From a logger's file").click()
    page.get_by_text("No logger at hand?").click()
    page.get_by_role("button", name="Record a run").click()
    expect(page.locator("[data-done]")).to_contain_text(re.compile(r"\d+ rows at 10 a second · noise 0\.1\d m/s"))
    settled(page)
    expect(page.get_by_text("Every row could be read.")).to_be_visible()
    expect(page.get_by_label("Column 2, Speed (km/h), holds")).to_have_value("speed")
    assert axe_violations(page) == []

    # A mapping that cannot be read says what is missing; put right, the run is there again.
    page.get_by_label("Column 2, Speed (km/h), holds").select_option("")
    page.get_by_label("Column 4, Latitude, holds").select_option("")
    expect(page.get_by_text("Say which column is the speed")).to_be_visible()
    page.get_by_label("Column 2, Speed (km/h), holds").select_option("speed")
    page.get_by_label("Column 4, Latitude, holds").select_option("latitude")
    settled(page)
    page.get_by_label("Smoothing").select_option("medium")
    expect(page.locator("[data-done]")).to_contain_text("smoothing medium")
    page.get_by_label("Smoothing").select_option("auto")
    settled(page)
    page.get_by_label("Name of the duty").fill("Stint, as logged")
    page.get_by_role("button", name="Keep as a duty").click()
    expect(page.get_by_role("radio", name=re.compile("^Stint, as logged"))).to_be_checked()
    settled(page)
    reads(page, "rotor", 18 + 0.95 * (clean - 18), 18 + 1.05 * (clean - 18))


def test_rows_that_cannot_be_read_are_named_and_a_file_of_junk_is_refused(open_page: Opener) -> None:
    page = open_page("desktop")
    page.goto("/m/1/duty")
    settled(page)
    page.get_by_role("button", name="From a logger's file").click()
    rows = [f"{i / 10:.1f};{60 + 30 * (i % 100 > 50):.1f}".replace(".", ",") for i in range(600)]
    rows[30], rows[400] = "lost", "40,0;9999"
    content = "\n".join(["time (s);speed (km/h)", *rows]).encode("utf-8-sig")
    chooser = page.get_by_label(re.compile("Drop the logger's file here"))
    chooser.set_input_files({"name": "club.csv", "mimeType": "text/csv", "buffer": content})
    expect(page.get_by_text(re.compile("semicolons between columns, decimal comma"))).to_be_visible()
    bad = page.locator("[data-bad]")
    expect(bad).to_contain_text("2 rows were kept out")
    bad.locator("summary").click()
    expect(bad.get_by_text(re.compile("line 402: a speed of"))).to_be_visible()
    assert axe_violations(page) == []
    page.get_by_label(re.compile("club.csv")).set_input_files(
        {"name": "picture.csv", "mimeType": "text/csv", "buffer": b"\x00\x01\x02" * 50}
    )
    expect(page.get_by_role("alert")).to_contain_text("File must be a text file")


def test_every_form_of_a_duty_shows_what_it_would_do_and_passes_axe(open_page: Opener) -> None:
    page = open_page("desktop")
    page.goto("/m/3/duty")
    settled(page)
    for kind, typed_in in (
        ("Steady descent", ("Falls", "11 %")),
        ("Series of stops", ("From, stop 1", "120 km/h")),
        ("A usual week", ("Town", "120 km")),
        ("A whole day", ("Times, part 2", "3")),
    ):
        page.get_by_role("button", name=kind).press("Enter")
        expect(page.get_by_role("form", name="A new duty")).to_be_visible()
        settled(page)
        before = figure(page, BRAKE_ENERGY)
        label, text = typed_in
        box = page.get_by_role("textbox", name=label, exact=True)
        box.fill(text)
        box.press("Enter")
        shows(page, BRAKE_ENERGY, before + 0.01)
        settled(page)
        assert axe_violations(page) == [], kind
        page.get_by_role("button", name="Put it away").press("Enter")
