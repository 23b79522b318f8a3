"""`make screenshots`: one current picture of each main view, from the demo data."""

from __future__ import annotations

import re
from pathlib import Path

import pytest

from tests.browser.conftest import Opener, settled
from tests.workshop import duty_named, machine_named
from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.accounts.scope import scope_of_owner
from thermaxis.apps.garage.actions.choose_duty import choose_duty

FOLDER = Path(__file__).parents[2] / "docs" / "screenshots"


@pytest.mark.django_db(transaction=True)
def test_take_pictures(open_page: Opener) -> None:
    workshop = Workshop.objects.get()
    roadster = machine_named(workshop, "Kit roadster")
    choose_duty(scope_of_owner(workshop), roadster, duty_named(workshop, "Relay stint, Tarn loop"))
    page = open_page("desktop")
    for name, path in (
        ("workshop", "/"),
        ("machine", "/m/3/machine"),
        ("duty", "/m/1/duty"),
        ("choose", "/m/1/choose"),
    ):
        page.goto(path)
        settled(page)
        if path != "/":
            page.locator("[data-range='rotor']").wait_for()
        if path.endswith("choose"):
            page.locator("[data-chance]").first.wait_for()
            page.get_by_role("region", name="Fluid", exact=True).wait_for()
        page.evaluate("document.fonts.ready")
        page.screenshot(path=FOLDER / f"{name}.png")
    page.goto("/catalogue")
    settled(page)
    page.get_by_role("checkbox", name="Draw Fellmark R4").check()
    page.get_by_role("img", name="Fellmark R4").wait_for()
    page.screenshot(path=FOLDER / "catalogue.png")
    page.goto("/add")
    settled(page)
    page.get_by_label("What it is called").fill("Hatch from a paper spec")
    page.get_by_label("Mass as driven").fill("1320 kg")
    page.get_by_label("Rotor diameter").first.fill("280 mm")
    page.get_by_label("Rotor diameter").first.press("Tab")
    settled(page)
    page.screenshot(path=FOLDER / "add.png")
    for name, path in (("fit", "/m/2/fit"), ("job", "/m/5/job?job=5")):
        page.goto(path)
        settled(page)
        page.locator("[data-range='rotor']").wait_for()
        page.screenshot(path=FOLDER / f"{name}.png")
    page.goto("/m/1/duty")
    settled(page)
    for button in reversed(page.get_by_role("button", name="Solve").all()):
        button.click()
    form = page.get_by_role("form", name="Add a reading")
    for minutes, value in (("0.5", "330"), ("1.5", "245"), ("3", "165")):
        form.get_by_label("Ring temperature").fill(value)
        form.get_by_label("Since the last braking").fill(minutes)
        form.get_by_label("At", exact=True).fill("36")
        form.get_by_role("button", name="Add the reading").click()
    page.get_by_role("button", name="Try the fit").click()
    page.locator("[data-fit]").wait_for()
    settled(page)
    page.goto("/m/1/choose")
    settled(page)
    page.get_by_role("button", name=re.compile("^Fit ")).click()
    page.get_by_text("fitted now").wait_for()
    page.goto("/m/1/bed")
    settled(page)
    page.locator("[data-range='rotor']").wait_for()
    page.screenshot(path=FOLDER / "bed.png")
    page.keyboard.press("w")
    page.get_by_text("Where the energy went, MJ").wait_for()
    page.get_by_role("region", name="How sure").wait_for()
    page.screenshot(path=FOLDER / "why.png")
    page.goto("/m/5/inspect?sheet=4")
    settled(page)
    page.get_by_role("button", name="Open it again").click()
    page.get_by_role("button", name="Finish").wait_for()
    settled(page)
    page.get_by_role("button", name="Close what was found, Front left").click()
    page.locator("[data-range='rotor']").wait_for()
    page.screenshot(path=FOLDER / "inspect.png")
    page.get_by_role("button", name="Finish").click()
    page.get_by_role("button", name="Open it again").wait_for()
    for name, path in (("life", "/m/1/life"), ("ready", "/m/2/ready/12"), ("log", "/m/4/log"), ("plan", "/plan")):
        page.goto(path)
        settled(page)
        if path != "/plan":
            page.locator("[data-range='rotor']").wait_for()
        page.screenshot(path=FOLDER / f"{name}.png")
    page.goto("/settings/people")
    settled(page)
    page.get_by_label("For whom (for you to remember)").fill("Jo, for the bay")
    page.get_by_role("button", name="Make the address").click()
    page.get_by_role("button", name="I have it").click()
    page.get_by_role("cell", name="Jo, for the bay", exact=True).wait_for()
    page.screenshot(path=FOLDER / "settings.png")
    phone = open_page("phone")
    phone.goto("/m/2/job?job=3")
    settled(phone)
    phone.get_by_role("button", name="Rear left").click()
    phone.screenshot(path=FOLDER / "job-phone.png")
    phone.goto("/m/5/bed")
    settled(phone)
    phone.get_by_role("button", name="Go on with the card").click()
    phone.locator("[data-braking]").wait_for()
    phone.screenshot(path=FOLDER / "bed-phone.png")
    phone.goto("/m/5/inspect?sheet=4")
    settled(phone)
    phone.get_by_role("link", name="Front left").click()
    phone.screenshot(path=FOLDER / "inspect-phone.png")
