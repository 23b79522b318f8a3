"""First use as flows: what was tried is asked about, plans and rules stay, the past is said, nothing is lost offline."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Locator, Page, expect

from tests.browser.conftest import Opener, axe_violations, reads, settled

pytestmark = pytest.mark.django_db(transaction=True)


def opened(page: Page, path: str) -> None:
    page.goto(path)
    settled(page)


def step(slider: Locator, key: str, times: int) -> None:
    slider.focus()
    for _ in range(times):
        slider.press(key)


def test_what_a_set_was_chosen_under_is_asked_about_and_written_down(open_page: Opener) -> None:
    page = open_page("desktop")
    opened(page, "/m/1/choose")
    tried = page.get_by_role("region", name="What if")
    step(tried.get_by_role("slider", name="Ducts, cooling"), "ArrowRight", 3)
    step(tried.get_by_role("slider", name="Air"), "ArrowRight", 5)
    expect(page.get_by_text(re.compile("^◐ Chosen under a what-if: what of it is true is asked"))).to_be_visible()
    settled(page)
    page.get_by_role("button", name=re.compile("^Fit ")).click()
    asked = page.get_by_role("region", name="Chosen under a what-if")
    expect(asked.get_by_role("heading")).to_be_focused()
    assert axe_violations(page) == []
    # The ducts are there, the heat was a thought.
    asked.get_by_role("checkbox", name=re.compile("air", re.I)).uncheck()
    asked.get_by_role("button", name="Write down what is ticked").click()
    expect(asked).to_have_count(0)
    settled(page)
    expect(tried.get_by_role("button", name="Back to the machine")).to_have_count(0)
    opened(page, "/m/1/machine")
    # Front 1.5 and rear 1.0 times as much air as the bare class, each times 1.3.
    for axle, factor in (("front", "1.95"), ("rear", "1.3")):
        expect(page.locator(f"[data-path='{axle}.cooling_factor']")).to_have_value(factor)
    expect(page.locator("[data-path='ambient.air_C']")).to_have_count(0)


def test_plans_and_rules_stay_with_what_they_are_of(open_page: Opener) -> None:
    page = open_page("desktop")
    opened(page, "/m/1/bed")
    step(page.get_by_role("slider", name="Fastest a braking begins"), "ArrowLeft", 2)
    settled(page)
    page.get_by_role("button", name="Keep this plan").click()
    kept = page.get_by_role("region", name="Kept plans")
    expect(kept.get_by_text(re.compile("brakings up to 90 km/h"))).to_be_visible()
    # The road's limit is still there after a reload, and the plan opens as it was kept.
    page.reload()
    settled(page)
    expect(page.get_by_role("slider", name="Fastest a braking begins")).to_have_attribute("aria-valuetext", "90 km/h")
    step(page.get_by_role("slider", name="Fastest a braking begins"), "ArrowRight", 6)
    settled(page)
    kept.get_by_role("button", name="Open").click()
    expect(page.get_by_text(re.compile("^As it was kept on .* up to 90 km/h"))).to_be_visible()
    expect(page.get_by_role("button", name="Print", exact=True)).to_be_visible()
    page.get_by_role("button", name="Back to planning").click()
    kept.get_by_role("button", name="Take out").click()
    expect(kept.get_by_text("The plan is out of the list.")).to_be_visible()
    kept.get_by_role("button", name="Undo").click()
    expect(kept.get_by_text(re.compile("brakings up to 90 km/h"))).to_be_visible()

    # The rule by which pads are changed is the machine's.
    opened(page, "/m/1/life")
    rule = page.get_by_role("combobox", name=re.compile("^Change the pads"))
    before = page.get_by_role("region", name="front pads").inner_text()
    other = rule.evaluate("(select) => [...select.options].find((option) => !option.selected).value")
    rule.select_option(str(other))
    settled(page)
    expect(page.get_by_role("region", name="front pads")).not_to_have_text(before, use_inner_text=True)
    page.reload()
    settled(page)
    expect(rule).to_have_value(str(other))


def test_a_trailer_s_brakes_fail_and_a_hill_is_longer_in_a_what_if(open_page: Opener) -> None:
    page = open_page("phone")
    opened(page, "/m/3/choose")
    before = reads(page, "rotor", 100)
    tried = page.get_by_role("region", name="What if")
    tried.get_by_role("button", name="They have failed").click()
    failed = reads(page, "rotor", before + 20)
    tried.get_by_role("button", name="They work again").click()
    reads(page, "rotor", before, before)
    step(tried.get_by_role("slider", name="Slope"), "ArrowRight", 4)
    reads(page, "rotor", before + 10)
    assert failed > before


def test_a_set_that_went_on_last_year_is_dated_so(open_page: Opener) -> None:
    page = open_page("desktop")
    opened(page, "/m/1/choose")
    page.get_by_text("It went on before today").click()
    # The day after its last inspection, as nothing else was on it since.
    page.get_by_label("Odometer then").fill("1")
    page.get_by_role("button", name=re.compile("^Fit ")).click()
    expect(page.get_by_text(re.compile("^▲ Odometer then: .*at least"))).to_be_visible()
    page.get_by_label("Odometer then").fill("8200")
    page.get_by_label("Odometer then").press("Enter")
    page.get_by_role("button", name=re.compile("^Fit ")).click()
    expect(page.get_by_text("fitted now")).to_be_visible()
    settled(page)
    opened(page, "/m/1/life")
    expect(page.get_by_text(re.compile("^212 km driven on it")).first).to_be_visible()


def test_own_rotors_are_offered_once_the_mount_is_said(open_page: Opener) -> None:
    page = open_page("phone")
    opened(page, "/add")
    page.get_by_label("What it is called").fill("Barn find")
    page.get_by_label("Owner").fill("R. Kirkstone")
    page.get_by_role("button", name="Add the machine").click()
    page.wait_for_url("**/m/6/machine")
    opened(page, "/m/6/choose")
    why = page.get_by_text("Why so few parts are offered: no rotor of the catalogue for the front and the rear")
    expect(why).to_be_visible()
    before = page.locator("tr[data-candidate]").count()
    why.click()
    page.get_by_label(re.compile("^Rotor mount, front")).select_option(index=1)
    expect(page.get_by_text("Why so few parts are offered: no rotor of the catalogue for the rear")).to_be_visible()
    settled(page)
    page.get_by_role("button", name=re.compile("^All .* that pass, rotor by rotor")).click()
    expect(page.locator("tr[data-candidate]").nth(before)).to_be_attached()


def test_the_sheet_takes_back_one_entry_and_leads_on(open_page: Opener) -> None:
    page = open_page("desktop")
    opened(page, "/m/1/inspect")
    page.get_by_role("button", name="Start measuring").click()
    inner = page.get_by_role("textbox", name="Front left, pad, inner", exact=True)
    outer = page.get_by_role("textbox", name="Front left, pad, outer", exact=True)
    inner.fill("2.1")
    inner.press("Enter")
    outer.fill("3.2")
    outer.press("Enter")
    expect(page.locator("[data-saved='true']")).to_be_visible()
    page.keyboard.press("Control+z")
    expect(outer).to_have_value("")
    expect(inner).to_have_value("2.1")
    outer.fill("3.2")
    outer.press("Enter")
    page.get_by_role("button", name=re.compile("^Undo")).click()
    expect(outer).to_have_value("")
    expect(inner).to_have_value("2.1")
    expect(page.locator("[data-saved='true']")).to_be_visible()
    # So much thinner than last time: it asks, and nothing is finished while it does.
    expect(page.get_by_role("button", name="Finish")).to_be_disabled()
    page.get_by_role("button", name="It is right, keep it").click()
    expect(page.locator("[data-saved='true']")).to_be_visible()
    # Come back to by the rail, it is the sheet that is open, and finished it stays in sight.
    opened(page, "/m/1/inspect")
    page.get_by_role("button", name="Finish").click()
    then = page.get_by_role("region", name="What to do now")
    expect(then.get_by_role("heading", name="Finished. What to do now")).to_be_focused()
    assert axe_violations(page) == []
    then.get_by_role("link", name=re.compile("Choose", re.I)).first.click()
    expect(page).to_have_url(re.compile("/m/1/choose"))


def test_without_a_connection_every_page_says_so_and_nothing_typed_moves(open_page: Opener) -> None:
    page = open_page("phone")
    opened(page, "/m/1/duty")
    page.get_by_role("button", name="Descent in sections").click()
    name = page.get_by_label("Name of the duty")
    name.fill("Back lane")
    # Every stage has been fetched ahead once the page has been still for a while.
    for stage in ("machine", "bed", "life", "choose", "inspect", "duty"):
        page.get_by_role("link", name=re.compile(f"{stage}", re.I)).first.click()
        page.wait_for_url(f"**/{stage}")
        settled(page)
    page.context.set_offline(True)
    said = page.get_by_role("alert").filter(has_text="No connection.")
    for stage in ("machine", "life", "choose", "duty"):
        page.get_by_role("link", name=re.compile(f"{stage}", re.I)).first.click()
        page.wait_for_url(f"**/{stage}")
        expect(said).to_be_visible()
        expect(said).to_contain_text("nothing is computed now")
        expect(page.get_by_role("status")).to_have_count(0)
    expect(name).to_have_value("Back lane")
    page.context.set_offline(False)
    expect(said).to_have_count(0)
    # Another machine's page is its own: what was begun here is not there.
    opened(page, "/m/3/duty")
    expect(page.get_by_role("heading", name="Hause pass with trailer")).to_be_visible()
    expect(page.get_by_label("Name of the duty")).to_have_count(0)
    opened(page, "/m/1/duty")
    expect(name).to_have_value("Back lane")
