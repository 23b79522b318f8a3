"""Bed: the card through to the end without a connection, a desk that watches, readings, leaflets, did it work."""

from __future__ import annotations

import re
import signal

import pytest
from playwright.sync_api import Browser, Page, expect

from tests.browser.conftest import PATIENCE_MS, SIZES, Opener, axe_violations, pressed_for_pdf, settled
from tests.browser.test_served import demo, loaded, start, stop

__all__ = ["demo", "loaded"]
DATABASE = pytest.mark.django_db(transaction=True)


def number(page: Page) -> int:
    return int(page.locator("[data-braking]").get_attribute("data-braking") or 0)


def done(page: Page, button: str = "Done, next") -> None:
    """Tap; the next braking, or the end, comes by itself."""
    before = number(page)
    page.get_by_role("button", name=button, exact=True).click()
    expect(page.locator(f"[data-braking='{before}']")).to_have_count(0)


def test_the_card_through_to_the_end_without_a_connection(demo: dict[str, str], chromium: Browser) -> None:
    process, address = start(demo)
    width, height = SIZES["phone"]
    context = chromium.new_context(base_url=address, viewport={"width": width, "height": height}, locale="en-GB")
    page = context.new_page()
    page.set_default_timeout(PATIENCE_MS)
    try:
        page.goto("/m/1/bed")
        settled(page)
        page.get_by_role("button", name=re.compile("^Hard from speed")).click()
        expect(page.locator("[data-plan-text][data-kept='true']")).to_be_visible()
        page.get_by_role("button", name="Keep this plan").click()
        page.get_by_role("button", name="Start bedding").click()
        # Who it is for is said before it starts; once it is kept on the device it says so.
        expect(page.get_by_text("hands stay on the wheel")).to_be_visible()
        expect(page.locator("[data-stored='true']")).to_be_visible()
        assert axe_violations(page) == []
        page.get_by_role("button", name="Begin").click()
        total = int(re.search(r"of (\d+)", page.get_by_text(re.compile(r"^Braking 1 of")).inner_text())[1])  # type: ignore[index]
        done(page)
        expect(page.locator("[data-waiting='0']")).to_be_visible()
        # The gap counts down beside the speed to hold.
        expect(page.get_by_role("timer")).to_be_visible()
        assert axe_violations(page) == []
        # Nobody answers any more: the card goes on, and comes back after a reload in the middle.
        stop(process, signal.SIGKILL)
        done(page)
        done(page, "Done, was harder")
        page.get_by_role("button", name="Undo").click()
        expect(page.locator("[data-braking='3']")).to_be_visible()
        done(page)
        page.get_by_role("button", name="Enter a reading").click()
        page.get_by_role("textbox", name="Reads").fill("155")
        page.get_by_role("button", name="Take this reading").click()
        expect(page.get_by_text("not planned anew yet")).to_be_visible()
        page.reload()
        expect(page.locator("[data-braking='4']")).to_be_visible()
        expect(page.locator("[data-waiting='5']")).to_contain_text("kept here, no connection")
        done(page)
        # It answers again: everything arrives, once, and the rest comes back planned anew.
        process, _ = start(demo)
        expect(page.locator("[data-waiting='0']")).to_be_visible()
        expect(page.locator("[data-believed='true']")).to_contain_text("155 °C read")
        assert number(page) == 5
        for _ in range(total + 8):
            if page.locator("[data-all-done]").count():
                break
            page.get_by_role("button", name="Done, next", exact=True).click()
            page.wait_for_function("() => document.querySelector('[data-waiting]')?.dataset.waiting === '0'")
        page.get_by_role("button", name="The run is over").click()
        expect(page.locator("[data-over]")).to_be_visible()
        assert axe_violations(page) == []
        run = page.evaluate("async () => (await fetch('/api/bedding-runs/2')).json()")
        assert run["ended_at"]
        assert run["kinds"].count("reading") == 1
        assert "harder" not in run["kinds"]
        assert len(run["did"]) == len(run["kinds"]) - 1
        assert [did["at_s"] for did in run["did"]] == sorted(did["at_s"] for did in run["did"])
        # What it came to stands with the pads, and Life counts what it took.
        page.get_by_role("link", name="Look at the rings").click()
        settled(page)
        expect(page.locator("[data-result]").first).to_contain_text("driven with the card")
    finally:
        context.close()
        stop(process)


@DATABASE
def test_a_desk_watches_while_the_passenger_reads(open_page: Opener) -> None:
    """The demo's half driven run: a phone in imperial units says, a desk sees it beside the plan."""
    desk, phone = open_page("desktop"), open_page("phone", "dark")
    phone.add_init_script("localStorage.setItem('thermaxis.units', '\"imperial\"')")
    desk.goto("/m/5/bed")
    settled(desk)
    expect(desk.get_by_text("Pads not bedded yet: bite uncertain").first).to_be_visible()
    desk.get_by_role("button", name="Go on with the card").click()
    expect(desk.locator("[data-braking='9']")).to_be_visible()
    expect(desk.locator("[data-said]")).to_contain_text("brakings left")
    assert axe_violations(desk) == []
    phone.goto(desk.url)
    expect(phone.locator("[data-braking='9']")).to_be_visible()
    expect(phone.locator("[data-from]")).to_contain_text("mph")
    done(phone)
    expect(desk.locator("[data-braking='10']")).to_be_visible()
    # The stand-in pyrometer reads a car nobody knows; what it reads is taken in, and said.
    phone.get_by_role("button", name="Enter a reading").click()
    phone.get_by_role("button", name="Let the stand-in pyrometer read").click()
    expect(phone.get_by_role("textbox", name="Reads")).not_to_have_value("")
    assert axe_violations(phone) == []
    phone.get_by_role("button", name="Take this reading").click()
    expect(phone.locator("[data-believed]")).to_have_count(3)
    expect(desk.locator("[data-believed]")).to_have_count(3)
    # A reading nothing explains is not believed, and is taken back.
    phone.get_by_role("button", name="Enter a reading").click()
    phone.get_by_role("textbox", name="Reads").fill("1400")
    phone.get_by_role("button", name="Take this reading").click()
    expect(phone.get_by_text("Measure again")).to_be_visible()
    phone.get_by_role("button", name="Undo").click()
    expect(phone.locator("[data-believed]")).to_have_count(3)
    # Traffic holds the next one back; skipped, it is left out.
    phone.get_by_role("button", name="Traffic, wait").click()
    expect(phone.locator("[data-countdown]")).to_be_visible()
    phone.get_by_role("button", name="Skip this one").click()
    expect(phone.locator("[data-braking='11']")).to_be_visible()


@DATABASE
def test_leaflets_logs_and_looks(open_page: Opener) -> None:
    page = open_page("desktop")
    page.goto("/m/4/bed")
    settled(page)
    # The demo's twin was overheated: it says so everywhere.
    expect(page.locator("[data-bedded='front']")).to_contain_text("the ring shows black streaks")
    assert axe_violations(page) == []
    page.get_by_role("button", name=re.compile("^Even grey")).click()
    expect(page.locator("[data-look-means]")).to_contain_text("nothing: drive")
    page.get_by_role("button", name="Write it down").click()
    expect(page.locator("[data-bedded='front']")).to_have_attribute("data-bed-state", "bedded")
    expect(page.locator("[data-bite]")).to_have_count(0)
    page.get_by_role("button", name=re.compile("^Take out ?: front bedded")).click()
    expect(page.locator("[data-bedded='front']")).to_have_attribute("data-bed-state", "unbedded")
    page.get_by_role("button", name="Undo").click()
    expect(page.locator("[data-bedded='front']")).to_have_attribute("data-bed-state", "bedded")
    # The leaflet in the box comes first.
    page.get_by_role("button", name="Type the rows in").click()
    times = page.get_by_role("group", name="Row 1").get_by_role("textbox", name="Times")
    times.fill("12")
    times.press("Enter")
    page.get_by_role("button", name="Another row").click()
    page.get_by_role("button", name="Keep the rows").click()
    expect(page.get_by_role("button", name=re.compile("^Maker's own rows"))).to_contain_text("suggested")
    expect(page.locator("[data-plan-text]")).to_be_visible()
    # The 4x4's drive was logged: the same log says the same again.
    page.goto("/m/3/bed")
    settled(page)
    expect(page.locator("[data-result]").first).to_contain_text("from a recorded drive")
    page.get_by_role("combobox", name="The drive").select_option(label="Bedding drive, old airfield")
    expect(page.locator("[data-proof]")).to_contain_text("brakings")
    page.get_by_role("button", name="Keep as this set's bedding").click()
    expect(page.locator("[data-result]")).to_have_count(4)
    # The card on paper, on one page of A5.
    card = pressed_for_pdf(page, page.get_by_role("link", name="Card to print (PDF)").first)
    assert card.body().startswith(b"%PDF-")
    assert card.body().count(b"/Type /Page\n") == 1
    # A slider moves every school at once.
    before = page.locator("[data-school='gentle']").inner_text()
    slider = page.get_by_role("slider").first
    slider.focus()
    for _ in range(6):
        slider.press("ArrowLeft")
    settled(page)
    expect(page.locator("[data-school='gentle']")).not_to_have_text(before)


@DATABASE
def test_another_compound_is_warned_of_where_it_goes_on(open_page: Opener) -> None:
    """The demo's hatch gets other pads on the rear rings that stay: Fit and the job's sheet say whose film is on them."""
    page = open_page("phone")
    page.goto("/m/2/fit")
    settled(page)
    page.get_by_role("button", name=re.compile("^Rear")).first.click()
    expect(page.locator("[data-film]")).to_contain_text("film is still on them")
    expect(page.locator("[data-film]")).to_contain_text("cleaned rings")
    sheet = page.evaluate("async () => (await fetch('/api/jobs/3')).json()")
    assert [step["corner"] for step in sheet["steps"] if step["id"] == "ring_film"] == ["left", "right"]
