"""Choose in the browser: everything that can be tried, questioned, opened, kept, shared and bought."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import Opener, axe_violations, reading, reads, settled

pytestmark = pytest.mark.django_db(transaction=True)


def on_the_relay(page: Page) -> None:
    page.goto("/m/1/duty")
    settled(page)
    page.get_by_role("radio", name=re.compile("^Relay stint, Tarn loop")).check()
    expect(page.get_by_role("heading", name="Relay stint, Tarn loop")).to_be_visible()
    # Leaving before the duty is kept would choose for the one before it.
    settled(page)
    page.goto("/m/1/choose")
    settled(page)


def test_levers_moments_chances_and_ways_out(open_page: Opener) -> None:
    page = open_page("desktop")
    on_the_relay(page)
    expect(page.locator("[data-chance]").first).to_have_text(re.compile(r"over a limit: (under )?\d+ % likely"))

    # Every lever of the duty; the strip says what is tried and how far it moved.
    now = reading(page, "rotor")
    page.get_by_role("slider", name="Driver").press("ArrowRight")
    page.get_by_role("slider", name="Mass as driven").press("PageUp")
    settled(page)
    expect(page.get_by_text(re.compile(r"What-if: \d+ kg more on board, driver advanced\. Nothing"))).to_be_visible()
    reads(page, "rotor", now + 31)
    expect(page.locator("[data-change='rotor']")).to_be_visible()
    page.get_by_role("button", name="Back to the machine").click()
    settled(page)
    reads(page, "rotor", now, now)

    # The whole ladder: arrow keys walk along it, however many columns there are.
    page.get_by_role("combobox", name="On the ladder", exact=True).select_option("peak")
    columns = page.get_by_role("list", name="Columns of the ladder").get_by_role("listitem")
    expect(columns.nth(1)).to_be_visible()
    assert columns.count() <= 12
    ladder = page.get_by_role("region", name="Heat ladder, scrolls sideways")
    pressed = ladder.get_by_role("button", pressed=True)
    ladder.focus()
    ladder.press("ArrowRight")
    first = pressed.get_attribute("aria-label")
    for _ in range(12):
        ladder.press("ArrowRight")
    expect(pressed).not_to_have_attribute("aria-label", first or "")
    expect(pressed).to_be_in_viewport()

    # One moment of the duty in all columns in sight.
    moment = page.get_by_role("slider", name="Moment of the duty")
    moment.press("PageUp")
    settled(page)
    expect(moment).to_have_attribute("aria-valuetext", re.compile(r"^\d+:\d\d$"))
    expect(page.locator("[data-now]").nth(1)).to_be_visible()

    # What would let a rejected one pass, with a number that can be tried on the slider.
    page.locator("summary", has_text="rejected").click()
    page.get_by_role("button", name=re.compile("^What would let it pass")).first.click()
    settled(page)
    ways = page.get_by_role("list", name=re.compile("^Ways out for")).get_by_role("listitem")
    # The first one out boils its fluid with worn pads only: changing them earlier is one of the ways.
    expect(ways).to_have_count(6)
    expect(page.locator("[data-way='change_to_pass']")).to_contain_text(re.compile(r"no later than at \d+\.\d mm"))
    expect(page.locator("[data-way='cooling_to_pass']")).to_contain_text(re.compile(r"Cooling × \d"))
    assert axe_violations(page) == []
    # Wide things scroll by themselves, the page does not.
    assert page.evaluate("document.documentElement.scrollWidth <= innerWidth")


def test_mixed_pads_side_by_side_kept_shared_and_printed(open_page: Opener) -> None:
    page = open_page("desktop")
    on_the_relay(page)
    total = int(re.findall(r"(\d+) combinations", page.locator("header").inner_text())[0])
    page.get_by_role("checkbox", name="Mix compounds front and rear").check()
    settled(page)
    expect(page.locator("header")).not_to_contain_text(f" {total} combinations")
    two = page.locator("tr[data-candidate]", has_text="behind").first
    two.get_by_role("checkbox").check()
    page.locator("tr[data-candidate]").filter(has_not_text="behind").first.get_by_role("checkbox").check()
    settled(page)
    side = page.get_by_role("region", name="Side by side", exact=True)
    expect(side.get_by_role("group", name=re.compile("^Heat ladder"))).to_be_visible()
    expect(side.get_by_role("row", name=re.compile("^Braking in front"))).to_contain_text("%")
    # The cursor of the traces stands in the ladders too.
    side.get_by_role("slider").press("Home")
    expect(side.locator("[data-now]").first).to_be_visible()

    page.get_by_role("textbox", name="Note", exact=True).fill("For the second driver")
    page.get_by_role("button", name="Keep", exact=True).click()
    settled(page)
    page.get_by_role("note").filter(has_text="Kept:").get_by_role("link").click()
    expect(page.get_by_role("article")).to_contain_text("For the second driver")
    settled(page)
    assert axe_violations(page) == []
    page.get_by_role("button", name="Share for reading").click()
    address = page.get_by_role("region", name="Shared").get_by_role("link").get_attribute("href") or ""
    pdf = page.request.get(f"{address.replace('/shared/', '/api/shared/')}/pdf")
    assert pdf.body().startswith(b"%PDF")

    # Somebody else, with nothing but the address.
    guest = open_page("phone")
    guest.goto(address)
    expect(guest.get_by_role("article")).to_contain_text("Fellmark")
    expect(guest.get_by_role("article")).not_to_contain_text("For the second driver")
    # The note stays in the workshop until it is ticked.
    page.get_by_role("checkbox", name="Show the notes").check()
    expect(page.get_by_role("checkbox", name="Show the notes")).to_be_checked()
    # The tick stands there at once; the guest reads what has arrived.
    settled(page)
    guest.reload()
    expect(guest.get_by_role("article")).to_contain_text("For the second driver")
    expect(guest.get_by_role("navigation")).to_have_count(0)
    assert axe_violations(guest) == []
    page.get_by_role("button", name="Stop sharing").click()
    expect(page.get_by_role("button", name="Share for reading")).to_be_visible()
    guest.reload()
    expect(guest.get_by_role("alert")).to_be_visible()

    # In the list of what was kept, out of it and back.
    page.get_by_role("link", name="Back to Choose").click()
    kept = page.get_by_role("region", name="Kept decisions")
    kept.get_by_role("button", name=re.compile("^Take out")).click()
    expect(kept.locator("[data-decision='out']")).to_have_count(1)
    kept.get_by_role("button", name=re.compile("^Bring back")).click()
    expect(kept.locator("[data-decision='in']")).to_have_count(1)


def test_a_fitted_set_says_a_year_later_why_it_was_chosen(open_page: Opener) -> None:
    page = open_page("desktop")
    on_the_relay(page)
    winner = page.locator("tr[data-candidate]").first.get_attribute("data-candidate")
    page.get_by_role("button", name=f"Fit {winner}").click()
    expect(page.get_by_text("fitted now")).to_be_visible()
    page.get_by_role("link", name="Why it was chosen").click()
    article = page.get_by_role("article")
    expect(article).to_contain_text(f"{winner} for Relay stint, Tarn loop")
    expect(article.get_by_text("chosen")).to_be_visible()
    expect(article.get_by_role("region", name="Rejected")).to_contain_text("Burnside Quiet")


def test_a_set_up_goes_on_from_the_list_and_its_pads_after_it(open_page: Opener) -> None:
    page = open_page("desktop")
    page.goto("/m/1/machine")
    settled(page)
    page.get_by_role("group", name="Tried instead").get_by_label("Piston area, one pad, front").fill("21 cm2")
    page.get_by_label("Name of this set-up").fill("Bigger front pistons")
    page.get_by_label("What it costs, pads apart").fill("260")
    page.get_by_role("button", name="Keep as a set-up").click()
    expect(page.locator("[data-set-up='Bigger front pistons']")).to_be_visible()
    on_the_relay(page)
    row = page.locator("tr[data-candidate]", has_text="set-up Bigger front pistons, £260").first
    pads = row.get_attribute("data-candidate")
    row.get_by_role("button", name=pads, exact=True).click()
    page.get_by_role("button", name="Put on Bigger front pistons").click()
    # On the machine it is no set-up any more: the same pads are next, to be fitted.
    expect(page.locator("tr[data-candidate]", has_text="Bigger front pistons").first).to_contain_text("Before Bigger")
    page.get_by_role("button", name=f"Fit {pads}").click()
    expect(page.get_by_text("fitted now")).to_be_visible()
    page.goto("/m/1/machine")
    expect(page.get_by_label("Piston area, one pad").first).to_have_value("21")


def test_fluid_counter_and_why(open_page: Opener) -> None:
    page = open_page("desktop")
    on_the_relay(page)
    fluids = page.get_by_role("region", name="Fluid", exact=True)
    expect(fluids.locator("tr[data-fluid]")).to_have_count(5)
    before = reading(page, "fluid")
    fluids.get_by_role("button", name=re.compile("^Changed today")).click()
    undo = fluids.get_by_role("button", name=re.compile("^Undo"))
    expect(undo).to_be_visible()
    expect(page.locator("[data-change='fluid']")).to_have_text(re.compile(r"^-[2-9]\d$"))
    undo.click()
    expect(fluids.get_by_role("note").first).to_contain_text("14 months old")
    expect(page.locator("[data-reading='fluid'] .figures.font-bold")).to_have_text(f"{before:.0f}")

    # A set on rotors with a left and a right; how much the fluid has left with new and with worn pads stands in its row.
    page.get_by_role("button", name=re.compile(r"^All \d+ that pass")).click()
    slotted = page.locator("tr[data-candidate]", has_text="Tarn 260 slotted").first
    shown = [slotted.locator(f"[data-why='{topic}']").inner_text() for topic in ("fluid_margin", "worn_margin")]
    left, worn = (int(text.split()[0]) for text in shown)
    assert left > worn > 0
    slotted.get_by_role("button", name=re.compile("^Fellmark")).click()
    counter = page.get_by_role("region", name="At the parts counter")
    counter.get_by_role("button", name="Ask for price, stock and lead time").click()
    expect(counter.get_by_role("row", name=re.compile("^All of it, by"))).to_contain_text("£")
    expect(counter).to_contain_text("one left and one right")

    # How likely a limit is crossed opens by itself: counted runs, not one more run.
    page.locator("[data-why='chance']").first.click()
    expect(page.get_by_role("dialog")).to_contain_text(re.compile(r"runs over a limit: \d+ of 64"))
    page.keyboard.press("Escape")

    # Any number opens; w does it from the keyboard, and an input leads to its box on the machine.
    figure = page.locator("[data-why='peak_front']").first
    figure.focus()
    page.keyboard.press("w")
    drawer = page.get_by_role("dialog")
    expect(drawer).to_contain_text(re.compile(r"Hottest front ring, Fellmark"))
    expect(drawer).to_contain_text("Where the energy went")
    drawer.get_by_role("link", name="mass", exact=True).click()
    expect(page.get_by_label("Mass as driven").first).to_be_focused()
    page.locator("[data-why='torque_front']").click()
    expect(drawer).to_contain_text(re.compile(r"2 × 0\.\d+ × \d+ N × 0\.\d+ m = \d+ N m"))
    page.keyboard.press("Escape")
    expect(drawer).to_have_count(0)


def test_a_part_by_form_and_a_reading_of_ones_own(open_page: Opener) -> None:
    page = open_page("desktop")
    page.goto("/catalogue")
    settled(page)
    page.get_by_role("button", name=re.compile("^Garth Road ?, change")).click()
    drawer = page.get_by_role("dialog", name="Change Garth Road")
    box = drawer.get_by_role("textbox", name="limit, °C")
    box.fill("hot")
    drawer.get_by_role("button", name="Keep the change").click()
    expect(drawer).to_contain_text("a number from -60 to 1600")
    expect(box).to_have_value("hot")
    box.fill("575")
    drawer.get_by_role("button", name="Keep the change").click()
    expect(drawer).to_have_count(0)
    expect(page.get_by_role("row", name=re.compile("Garth Road"))).to_contain_text("575")

    page.get_by_role("button", name=re.compile("shapes and own readings of Garth Road")).click()
    own = page.get_by_role("region", name="Own readings of Garth Road")
    own.locator("summary").click()
    for label, value in (("Pedal force", "120 N"), ("Deceleration", "0.55 g"), ("Speed at it", "70 km/h")):
        own.get_by_role("textbox", name=label).fill(value)
    own.get_by_role("button", name="Work it out").click()
    expect(own.locator("[data-worked-out]")).to_have_text(re.compile(r"Friction 0\.\d{3}"))
    own.get_by_role("textbox", name="Ring temperature").fill("150")
    own.get_by_role("button", name="Keep the reading").click()
    expect(own.locator("[data-own-ratio]")).to_be_visible()
    page.get_by_label("Draw Garth Road").check()
    expect(page.locator("[data-own-reading]")).to_have_count(1)
    own.get_by_role("checkbox").check()
    settled(page)
    expect(own.get_by_role("checkbox")).to_be_checked()
    assert axe_violations(page) == []
    own.get_by_role("button", name=re.compile("^Take out")).click()
    expect(own).to_contain_text("None yet")
    own.get_by_role("button", name="Undo").click()
    expect(own.locator("[data-own-ratio]")).to_be_visible()
