"""A newcomer with a one-page spec: adds a machine, sees what is estimated, compares, copies, and takes a case along."""

from __future__ import annotations

import json
import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import Opener, axe_violations, reading, reads, settled
from thermaxis.core.physics.simulate import simulate_one
from thermaxis.formats.case_file import read_case

pytestmark = pytest.mark.django_db(transaction=True)


def typed(page: Page, label: str, text: str) -> None:
    box = page.get_by_label(label, exact=True).first
    box.fill(text)
    box.press("Tab")


def test_a_paper_spec_becomes_a_whole_marked_machine_by_keyboard(open_page: Opener) -> None:
    page = open_page("desktop")
    page.goto("/")
    settled(page)
    page.get_by_role("link", name="Add a machine").press("Enter")
    settled(page)
    add = page.get_by_role("button", name="Add the machine")
    expect(add).to_be_disabled()
    typed(page, "What it is called", "Paper hatch")
    typed(page, "Owner", "L. Dunmail")
    typed(page, "Mass as driven", "2910 lb")
    typed(page, "Wheelbase", "2560 mm")
    # Rotors by diameter, in whatever unit stands on the paper; everything else stays open.
    typed(page, "Rotor diameter", "11.02 in")
    expect(page.get_by_label("Pad area").first).to_have_attribute("placeholder", re.compile(r"^\d"))
    assert axe_violations(page) == []

    # What was typed outlives a reload, before anything is saved.
    page.reload()
    settled(page)
    expect(page.get_by_label("Mass as driven").first).to_have_value(re.compile(r"^1319\.9"))
    expect(page.get_by_text(re.compile(r"^3 numbers known, \d\d estimated\.$"))).to_be_visible()

    # A value that cannot be is refused under its own box, stays there, and holds the whole form until it is corrected.
    typed(page, "Weight on the front", "120 %")
    add.press("Enter")
    expect(page.get_by_text(re.compile("^▲ Weight on the front: .*at most"))).to_be_visible()
    typed(page, "Weight on the front", "sixty")
    add.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("Nothing was sent: one field needs another look.")
    expect(page.get_by_label("Weight on the front")).to_be_focused()
    typed(page, "Weight on the front", "")
    # What lies far outside its class asks once.
    typed(page, "Mass as driven", "1,08 kg")
    expect(page.get_by_text("▲ 1.08 kg? Usual for Small hatchback: 1100 to 1400 kg.")).to_be_visible()
    add.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("Nothing was sent")
    typed(page, "Mass as driven", "2910 lb")
    typed(page, "Tyre radius, front", "195/50R15")
    expect(page.get_by_text("195/50 R15 rolls on 280 mm, of 288 mm free")).to_be_visible()
    typed(page, "Tyre radius, front", "")
    add.press("Enter")
    expect(page).to_have_url(re.compile(r"/m/6/machine$"))
    settled(page)
    expect(page.get_by_role("heading", level=1)).to_have_text("Paper hatch")
    expect(page.get_by_text("estimate", exact=True).nth(15)).to_be_attached()
    reads(page, "rotor", 31, 499)
    expect(page.get_by_label("Rotor diameter").first).to_have_value(re.compile(r"^279\.9"))

    # How far each estimate moves the answer.
    page.get_by_role("button", name="Which estimates move the answer?").press("Enter")
    expect(page.get_by_text(re.compile("^Measure first: "))).to_be_visible()
    expect(page.get_by_text(re.compile(r"hottest rotor -?\d.* to \+?\d.* K")).nth(5)).to_be_attached()
    assert axe_violations(page) == []

    # A typed value is known; left open it is an estimate again.
    cg = page.get_by_label(re.compile("^Height of the CG"))
    guess = cg.input_value()
    cg.fill("0.66")
    cg.press("Enter")
    settled(page)
    cg.focus()
    page.get_by_role("button", name=re.compile("^Leave open.*Height of the CG")).press("Enter")
    expect(cg).to_have_value(guess)


def test_the_mass_is_put_together_from_its_parts(open_page: Opener) -> None:
    page = open_page("desktop")
    page.goto("/m/2/machine")
    settled(page)
    page.get_by_role("button", name="Put the mass together from parts").press("Enter")
    drawer = page.get_by_role("dialog", name="What the mass is made of")
    expect(drawer.locator("[data-sum]")).to_have_text("Together 1545 kg, 56.0 % on the front.")
    drawer.get_by_role("button", name="Add a passenger").click()
    drawer.get_by_label("Mass of passenger").fill("75")
    expect(drawer.locator("[data-sum]")).to_have_text(re.compile("^Together 1620 kg"))
    assert axe_violations(page) == []
    drawer.get_by_role("button", name="Use this sum").click()
    expect(drawer).to_be_hidden()
    settled(page)
    expect(page.get_by_label("Mass as driven").first).to_have_value("1620")
    expect(page.get_by_text(re.compile("passenger 75 kg"))).to_be_visible()


def test_an_upgrade_is_compared_kept_put_on_and_taken_off(open_page: Opener) -> None:
    page = open_page("desktop")
    page.goto("/m/1/machine")
    settled(page)
    tried = page.get_by_role("group", name="Tried instead")
    table = page.locator("[data-compared]")
    torque = table.locator("[data-row='Torque, one front rotor'] td")
    before = torque.nth(0).inner_text()
    tried.get_by_label("Rotor diameter, front").fill("284 mm")
    tried.get_by_label("Band starts at, front").fill("190")
    tried.get_by_label("Piston area, one pad, front").fill("26 cm2")
    remarks = page.get_by_role("list", name="What the change does")
    expect(remarks.get_by_text(re.compile("does not fit inside the wheel: 6 mm"))).to_be_visible()
    expect(remarks.get_by_text(re.compile("balance moves .* forward"))).to_be_visible()
    expect(remarks.get_by_text(re.compile("pedal gets .* longer"))).to_be_visible()
    expect(torque.nth(2)).to_have_text(re.compile(r"^\+\d+$"))
    assert axe_violations(page) == []

    page.get_by_label("Name of this set-up").fill("Big front brake")
    # What is no price stays in its box and is not sent.
    price = page.get_by_label("What it costs, pads apart")
    price.fill("a lot")
    page.get_by_role("button", name="Keep as a set-up").click()
    expect(price).to_have_attribute("aria-invalid", "true")
    price.fill("480")
    page.get_by_role("button", name="Keep as a set-up").click()
    kept = page.locator("[data-set-up='Big front brake']")
    expect(kept).to_contain_text("£480, pads apart")
    # Nothing has changed on the machine yet.
    assert torque.nth(0).inner_text() == before
    kept.get_by_role("button", name="Put it on").click()
    back = page.locator("[data-set-up^='Before Big front brake']")
    expect(back).to_be_visible()
    settled(page)
    expect(torque.nth(0)).not_to_have_text(before)
    expect(page.get_by_label("Rotor diameter", exact=True).first).to_have_value("284")
    back.get_by_role("button", name="Put it on").click()
    expect(torque.nth(0)).to_have_text(before)


def test_a_copy_lives_its_own_life_and_a_machine_can_come_back(open_page: Opener) -> None:
    page = open_page("desktop")
    page.goto("/m/4/machine")
    settled(page)
    # A taller rider, a rear wheel that lifts: in words, while it is being typed.
    words = page.get_by_role("list", name="Balance in words")
    expect(words.get_by_text(re.compile("rear wheel lifts at"))).to_have_count(0)
    page.get_by_label(re.compile("^Height of the CG")).fill("0.78 m")
    expect(words.get_by_text(re.compile("rear wheel lifts at 0.95 g"))).to_be_visible()
    page.get_by_role("button", name="Copy this machine").click()
    expect(page).to_have_url(re.compile("/m/6/machine$"))
    settled(page)
    name = page.get_by_label("Name", exact=True)
    name.fill("Twin on wets")
    name.press("Enter")
    expect(page.get_by_role("heading", level=1)).to_have_text("Twin on wets")
    grip = page.get_by_label(re.compile("^Tyre grip")).first
    grip.fill("0.7")
    grip.press("Enter")
    settled(page)
    page.get_by_role("button", name="Take out of the workshop").click()
    page.get_by_role("button", name="Take it out").click()
    expect(page.get_by_text("Twin on wets is out of the workshop.")).to_be_visible()
    expect(page.get_by_role("link", name="Twin on wets")).to_have_count(0)
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("link", name="Twin on wets")).to_be_visible()
    # Found among the others by its owner's name.
    page.get_by_label("Find by machine, owner or duty").fill("tolland")
    expect(page.locator("main li")).to_have_count(2)


def test_a_case_goes_out_and_in_with_the_numbers_of_the_page(open_page: Opener, tmp_path: Path) -> None:
    page = open_page("desktop")
    page.goto("/m/3/duty")
    settled(page)
    shown = reading(page, "rotor")
    with page.expect_download() as coming:
        page.get_by_role("link", name="Save as a case file").click()
    saved = tmp_path / "4x4.case.json"
    coming.value.save_as(saved)
    solved = simulate_one(read_case(saved.read_text("utf-8")))
    # To the last digit that is shown.
    assert round(max(solved.front.peak_surface_C, solved.rear.peak_surface_C)) == shown
    page.goto("/")
    settled(page)
    page.get_by_label("Open a case file").set_input_files(saved)
    expect(page).to_have_url(re.compile("/m/6/machine$"))
    settled(page)
    reads(page, "rotor", shown, shown)
    # A file that is none says which field is wrong, and adds nothing.
    document = json.loads(saved.read_text("utf-8"))
    document["vehicle"]["mass_kg"] = "heavy"
    saved.write_text(json.dumps(document), "utf-8")
    page.goto("/")
    settled(page)
    page.get_by_label("Open a case file").set_input_files(saved)
    expect(page.get_by_role("alert")).to_contain_text("Mass must be a number")
    expect(page.locator("main li")).to_have_count(6)
