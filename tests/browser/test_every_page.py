"""What holds on every page: targets a finger can aim at, Esc, Print once, and where the focus goes."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import Opener, settled, visit

pytestmark = pytest.mark.django_db(transaction=True)

PAGES = [
    "/",
    "/add",
    "/catalogue",
    "/trust",
    "/settings/me",
    "/settings/keys",
    "/settings/people",
    "/settings/workshop",
    "/settings/backup",
    "/join",
    "/plan",
    "/log",
    *(f"/m/1/{stage}" for stage in ("machine", "inspect", "duty", "choose", "fit", "job", "bed", "life", "log")),
    "/m/4/machine",
    "/m/4/inspect",
    "/m/4/choose",
    "/m/4/life",
    "/m/1/ready/6",
    "/m/1/thing/pads/3",
    "/m/2/fit",
    "/m/2/job?job=3",
]
# What is pressed, by the box that takes the press; words within a sentence are as high as their line (WCAG 2.5.8).
SMALLER = """(least) => {
  const pressed = "a[href], button, input, select, textarea, summary, [role=slider], [role=tab], [role=menuitem]";
  const found = [];
  for (const element of document.querySelectorAll(pressed)) {
    if (element.closest(".sr-only") || element.disabled || element.type === "hidden") continue;
    const style = getComputedStyle(element);
    const within = element.matches("a") && style.display === "inline";
    const ticked = element.matches("[type=checkbox], [type=radio]") && element.closest("label");
    const { width, height } = (ticked || element).getBoundingClientRect();
    if (within || style.visibility === "hidden" || width * height === 0) continue;
    if (width < least - 0.5 || height < least - 0.5)
      found.push(`${element.tagName} "${element.textContent.trim().slice(0, 40)}" ${element.ariaLabel ?? ""}`
        + ` ${width.toFixed(0)} x ${height.toFixed(0)}`);
  }
  return found;
}"""


def test_no_target_is_too_small_and_in_the_bay_they_are_large(open_page: Opener) -> None:
    page = open_page("phone")
    found: dict[str, list[str]] = {}
    for least, bay in ((24, False), (44, True)):
        page.goto("/")
        settled(page)
        if bay:
            # By what a thumb reaches: the menu behind the dots.
            page.get_by_role("button", name="More").click()
            page.get_by_role("menuitem", name="Bay mode: large").click()
            page.get_by_role("button", name="More").click()
            page.get_by_role("menuitem", name="Units: metric").click()
        for path in PAGES:
            visit(page, path)
            found[f"{path}, {least}"] = page.evaluate(SMALLER, least)
            # Nothing is wider than the screen either: a table scrolls within its place.
            assert page.evaluate("document.documentElement.scrollWidth") == 390, path
    assert {place: small for place, small in found.items() if small} == {}
    # A reading of five figures stands whole in its box.
    page.goto("/m/1/inspect")
    page.get_by_role("button", name="Start measuring").click()
    for name in ("Front left, pad, inner", "Front left, rotor, point 3"):
        box = page.get_by_role("textbox", name=name, exact=True)
        box.fill("9.123")
        assert box.evaluate("(input) => input.scrollWidth <= input.clientWidth"), name
    # The frame is whole in the bay as well: nothing lies beside the screen.
    more = page.get_by_role("button", name="More").bounding_box()
    assert more
    assert more["x"] + more["width"] <= 390


def focused(page: Page) -> str:
    return str(page.evaluate("document.activeElement.textContent.trim().slice(0, 60)"))


def test_esc_closes_every_drawer_and_the_focus_is_where_it_was(open_page: Opener) -> None:
    page = open_page("desktop")
    page.goto("/m/1/machine")
    settled(page)
    opened = [
        ("button", re.compile("Measure it.*Mass as driven")),
        ("button", re.compile("parts of the mass$")),
        ("button", re.compile("^Keys")),
    ]
    for _, name in opened:
        button = page.get_by_role("button", name=name)
        button.press("Enter")
        expect(page.get_by_role("dialog")).to_be_visible()
        page.keyboard.press("Escape")
        expect(page.get_by_role("dialog")).to_have_count(0)
        expect(button).to_be_focused()
    # Why, from a number, and from the strip by its key.
    number = page.locator("[data-why]").first
    number.focus()
    page.keyboard.press("w")
    expect(page.get_by_role("dialog", name="Why")).to_be_visible()
    page.keyboard.press("Escape")
    expect(number).to_be_focused()
    # The list of machines.
    switcher = page.get_by_role("button", name="Kit roadster")
    switcher.press("Enter")
    expect(page.get_by_role("menuitem", name="Parcel van")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.get_by_role("menuitem")).to_have_count(0)
    expect(switcher).to_be_focused()
    # Another page begins at its beginning.
    page.keyboard.press("3")
    settled(page)
    expect(page.locator("main")).to_be_focused()
    page.get_by_role("button", name="Change this duty").press("Enter")
    expect(page.get_by_label("Name of the duty")).to_be_focused()
    page.get_by_role("button", name="Put it away").press("Enter")
    page.wait_for_function("() => document.activeElement !== document.body")
    assert "Duty in force" in focused(page)


def test_print_prints_once(open_page: Opener) -> None:
    page = open_page("desktop")
    page.add_init_script("window.printed = 0; window.print = () => { window.printed += 1; };")
    for path in ("/m/1/bed", "/m/1/inspect?sheet=1"):
        page.goto(path)
        settled(page)
        page.get_by_role("button", name="Print", exact=True).dblclick()
        assert page.evaluate("window.printed") == 1, path
