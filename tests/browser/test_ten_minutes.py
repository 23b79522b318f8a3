"""A first visit: an empty workshop looks at the demo machine; then the guide's page of ten minutes, done as it stands."""

from __future__ import annotations

import re
from pathlib import Path
from typing import Literal

import pytest
from django.contrib.auth import get_user_model
from playwright.sync_api import Locator, Page, expect

from tests.browser.conftest import Opener, axe_violations, reads, settled
from thermaxis.apps.accounts.models import Membership, Workshop

pytestmark = pytest.mark.django_db(transaction=True)
GUIDE = Path(__file__).parents[2] / "docs" / "guide" / "ten-minutes.md"
MOST_CLICKS = 20
COUNTING = """
for (const kind of ["click", "keydown"])
  addEventListener(kind, (event) => {
    // A click by the keyboard, on a button or a label's own box, has no count of its own.
    if (kind === "click" && event.detail === 0) return;
    sessionStorage[kind] = Number(sessionStorage[kind] ?? 0) + 1;
  }, true);
"""


class Hand:
    """One who follows the guide: every label that is used is remembered."""

    def __init__(self, page: Page) -> None:
        self.page, self.used = page, set[str]()

    def press(self, label: str, *, link: bool = False, name: re.Pattern[str] | None = None) -> None:
        self.used.add(label)
        role: Literal["link", "button"] = "link" if link else "button"
        self.page.get_by_role(role, name=name or label, exact=name is None).click()
        settled(self.page)

    def box(self, label: str) -> Locator:
        self.used.add(label)
        return self.page.get_by_label(label, exact=True).first

    def type(self, *keys: str) -> None:
        """Figures and words as they stand, each with Enter after it."""
        for key in keys:
            self.page.keyboard.type(key)
            self.page.keyboard.press("Enter")

    def count(self, kind: str) -> int:
        return int(self.page.evaluate("(kind) => sessionStorage[kind] ?? 0", kind))


def pieces_of(guide: str) -> list[tuple[str, str]]:
    return [(row[0], row[1]) for row in re.findall(r"^\| (\d+) \| ?(\d*) ?\|$", guide, re.M)]


def test_from_my_car_to_the_right_pads_as_the_guide_says(open_page: Opener) -> None:
    guide = GUIDE.read_text("utf-8")
    # As it is read, wherever its lines end.
    words = " ".join(guide.split())
    page = open_page("phone")
    page.context.add_init_script(COUNTING)
    page.goto("/")
    settled(page)
    hand = Hand(page)

    # 1. The car. The focus stands in the first box: nothing is clicked to begin.
    hand.press("Add a machine", link=True)
    expect(hand.box("What it is called")).to_be_focused()
    hand.type("My hatch")
    expect(hand.box("Owner")).to_be_focused()
    hand.type("A. Newman")
    for label in ("Mass as driven", "Rotor diameter"):
        (figure,) = re.findall(rf"\*{label}\*: `([^`]+)`", words)
        hand.box(label).focus()
        hand.type(figure)
    hand.press("Add the machine")
    expect(page).to_have_url(re.compile("/m/6/machine$"))
    settled(page)
    expect(page.get_by_role("button", name="Which estimates move the answer?")).to_be_visible()
    hand.used.add("Which estimates move the answer?")
    hand.press("Say what it is asked to do", link=True)

    # 2. The day.
    hand.press("Circuit, sprint or hill-climb")
    expect(hand.box("Name of the duty")).to_be_focused()
    hand.type("Club day")
    hand.press("Draw a new circuit")
    expect(hand.box("Name of the circuit")).to_be_focused()
    hand.type("Moss loop")
    page.keyboard.press("Enter")  # past the lap that ends where it starts
    rows = page.get_by_role("table", name="Straights and corners").locator("tbody tr")
    there = rows.count()
    for index, (length, radius) in enumerate(pieces_of(guide)):
        if index >= there:
            hand.used.add("Add a piece")
            expect(page.get_by_role("button", name="Add a piece")).to_be_focused()
            page.keyboard.press("Enter")
        expect(page.get_by_label(f"Length, piece {index + 1}", exact=True)).to_be_focused()
        hand.type(length)
        if not radius:
            page.keyboard.press("Delete")
        hand.type(radius, "")
    assert rows.count() == len(pieces_of(guide)) == 10
    hand.press("Keep the circuit")
    expect(page.get_by_label("Circuit or course").locator("option:checked")).to_have_text("Moss loop")
    hand.used |= {"Driver", "Laps"}
    page.get_by_role("combobox", name="Driver").select_option(label="novice")
    page.get_by_label("Laps", exact=True).fill(re.findall(r"the \*Laps\*: (\d+)", words)[0])
    page.keyboard.press("Enter")
    hand.press("Keep this duty")
    expect(page.get_by_role("heading", name="Club day")).to_be_visible()

    # 3. The pads: what was found on the car does not survive, what is chosen does.
    hand.press("See which pads live through it", link=True)
    expect(page.locator("[data-outcome]")).to_contain_text("Front pads fade")
    expect(page.get_by_text(re.compile("^Why so few parts are offered"))).to_be_visible()
    hand.used.add("Why so few parts are offered")
    hand.press("Fit", name=re.compile("^Fit "))
    expect(page.locator("[data-outcome]")).to_contain_text("survives")
    reads(page, "rotor", 400, 650)

    # 4. Bedded in.
    hand.press("Bed the pads in", link=True)
    expect(page.get_by_role("button", name="Print")).to_be_visible()
    hand.used.add("Print")
    hand.press("Keep this plan")
    page.get_by_role("region", name="Kept plans").get_by_role("checkbox").click()
    hand.press("See when the pads are due", link=True)

    # 5. A date for each axle.
    for axle in ("front", "rear"):
        pads = page.get_by_role("region", name=f"{axle} pads")
        expect(pads.get_by_text(re.compile(r"^\d+ \w+ 20\d\d$"))).to_be_visible()
    assert axe_violations(page) == []

    clicks, keys = hand.count("click"), hand.count("keydown")
    print(f"{clicks} clicks, {keys} keys")
    assert clicks <= MOST_CLICKS
    assert f"{('thirteen' if clicks == 13 else clicks)} clicks" in words
    # Every label the page names was used, and none that it does not name.
    assert set(re.findall(r"(?<![*\w])\*([^*|]{1,80})\*(?!\*)", words)) == hand.used


def test_an_empty_workshop_says_what_to_do_and_shows_the_demo_machine(open_page: Opener) -> None:
    page = open_page("phone")
    page.goto("/")
    settled(page)
    # The demo's user begins a workshop of their own, and works in it.
    own = Workshop.objects.create(name="Ghyll Street garage")
    user = get_user_model().objects.get(username="demo")
    Membership.objects.create(user=user, workshop=own, role="owner")
    page.goto("/")
    settled(page)
    page.get_by_role("button", name="More").click()
    page.get_by_role("menuitem", name="To Ghyll Street garage").click()
    expect(page.get_by_text("No machine yet. Three things lead to the right pads:")).to_be_visible()
    assert axe_violations(page) == []
    page.get_by_role("button", name="Try it on the demo machine").click()
    expect(page).to_have_url(re.compile("/choose$"))
    settled(page)
    expect(page.locator("tr[data-candidate]").nth(4)).to_be_attached()
    page.goto("/")
    expect(page.get_by_role("link", name="Kit roadster")).to_be_visible()
