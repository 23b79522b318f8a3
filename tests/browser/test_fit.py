"""Fit: from Choose to a set that does not go in, its ways out, boxes and fluid, at both sizes."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import Opener, axe_violations, settled

pytestmark = pytest.mark.django_db(transaction=True)


def test_from_choose_to_parts_that_go_on(open_page: Opener) -> None:
    page = open_page("phone")
    page.goto("/m/2/choose")
    settled(page)
    # The set that fits by its number is out in the list, and says by how much.
    page.locator("summary").filter(has_text="too thick").click()
    thick = page.locator("li[data-rejected]").filter(has_text="Moss 288 slotted").first
    expect(thick).to_contain_text("It does not go into the front caliper: 1.6 mm ± 0.2 mm too thick")
    thick.get_by_role("button").first.click()
    page.get_by_role("button", name="Check fit").click()
    page.wait_for_url("**/m/2/fit")
    settled(page)
    expect(page.get_by_role("heading", name="Will it go in")).to_be_visible()
    stack = page.locator("[data-fit='front']")
    expect(stack).to_have_attribute("data-verdict", "does not fit")
    expect(stack).to_contain_text("1.6 mm ± 0.2 mm too thick with the pistons home. The ring measures 27.2 mm")
    assert axe_violations(page) == []
    # The last resort is folded away behind its cost.
    page.get_by_text("Last resort: take friction material off").click()
    expect(page.get_by_text(re.compile(r"0\.80 mm off the friction material of each pad.*14 %|15 %"))).to_be_visible()
    expect(page.get_by_text("Most would send the parts back")).to_be_visible()
    # Another ring: the first way out, and it goes in.
    page.locator("[data-way='rotor']").first.get_by_role("button", name="Check this set").click()
    expect(page.locator("[data-fit='front']")).to_have_attribute("data-verdict", "fits")
    expect(page.locator("[data-fit='front']")).to_contain_text("0.6 mm ± 0.3 mm to spare")
    # Boxes: two and two on one wheel, put right.
    for wheel, count in (("left", "2"), ("right", "0")):
        box = page.locator(f"[data-item='tabs.{wheel}']").get_by_role("textbox")
        box.fill(count)
        box.press("Enter")
    expect(page.locator("[data-item='tabs.left']")).to_contain_text("swap: two on the left wheel")
    for wheel in ("left", "right"):
        box = page.locator(f"[data-item='tabs.{wheel}']").get_by_role("textbox")
        box.fill("1")
        box.press("Enter")
        expect(page.locator(f"[data-item='tabs.{wheel}']")).to_contain_text("there: one a wheel")
    page.get_by_role("combobox", name="Sensor, left").select_option("cut in")
    expect(page.locator("[data-item='sensors']")).to_contain_text("order: it has cut in at the left")
    # An opening measured otherwise is kept, in the reader's unit, and everything follows.
    page.locator("[data-measured] summary").click()
    opening = page.get_by_role("textbox", name="Caliper opening")
    opening.fill("2.25 in")
    opening.press("Enter")
    expect(page.locator("[data-fit='front']")).to_have_attribute("data-verdict", "does not fit")
    opening.fill("59.1")
    opening.press("Enter")
    expect(page.locator("[data-fit='front']")).to_have_attribute("data-verdict", "fits")
    # The level read today: what comes back has room, or runs over.
    fluid = page.get_by_role("region", name="Fluid pushed back")
    level = fluid.get_by_role("textbox", name="Level today")
    level.fill("10")
    level.press("Enter")
    expect(fluid).not_to_contain_text("it runs over")
    level.fill("100")
    level.press("Enter")
    expect(fluid).to_contain_text("it runs over at corner 1")
    page.reload()
    settled(page)
    expect(page.get_by_role("textbox", name="Level today")).to_have_value("100")
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
    assert axe_violations(page) == []


def test_a_left_rotor_on_the_right_and_numbers_nobody_has(open_page: Opener) -> None:
    page = open_page("desktop", "dark")
    page.goto("/m/1/fit")
    settled(page)
    expect(page.get_by_text("Look below at: rotor for the right.")).to_be_visible()
    right = page.locator("[data-item='rotor.right']")
    expect(right).to_contain_text("stop: both lean the same way")
    right.get_by_role("combobox").select_option("right")
    expect(right).to_contain_text("there: its vanes lean back")
    expect(page.get_by_text("Look below at")).to_have_count(0)
    # What nobody has measured says how, and takes the number where it belongs.
    page.goto("/m/2/fit")
    settled(page)
    row = page.locator("[data-row='spokes']")
    expect(row).to_contain_text("clay on the caliper")
    box = row.get_by_role("textbox")
    box.fill("2.5")
    box.press("Enter")
    expect(row).to_contain_text("only 2.50 mm; at least 3.0 mm")
    # A machine with nothing said: what is on it, and where to say it.
    page.goto("/m/3/fit")
    settled(page)
    expect(page.get_by_text("Nobody has said what is to go on")).to_be_visible()
    page.get_by_role("combobox", name="Front pads").select_option("Garth Tow")
    expect(page.get_by_text("front: Garth Tow on Crag 332 plain")).to_be_visible()
    page.get_by_text("What is to go on", exact=True).click()
    page.get_by_role("button", name="Nothing is to go on").click()
    expect(page.get_by_text("Nobody has said what is to go on")).to_be_visible()
    assert axe_violations(page) == []
