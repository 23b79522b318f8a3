"""One person, one sitting: Machine, Duty, Choose, Bed, Life, with the demo data, at a desk and on a phone."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import Opener, answered, axe_violations, reading, reads, settled, visit

# Addresses name machines by number, so numbering starts at 1 for every test.
pytestmark = pytest.mark.django_db(transaction=True)


def go(page: Page, stage: str) -> None:
    page.get_by_role("navigation", name="Stages").get_by_role("link", name=re.compile(stage)).click()
    # The stage's code is fetched first: until then the address is the old one.
    expect(page).to_have_url(re.compile(f"/{stage.lower()}$"))
    settled(page)


def first_pad(page: Page) -> str:
    return page.locator("tr[data-candidate]").first.get_attribute("data-candidate") or ""


def test_the_whole_journey(open_page: Opener) -> None:
    page = open_page("desktop")

    # Workshop: five machines, each with something to do next.
    page.goto("/")
    expect(page.locator("main li")).to_have_count(5)
    page.get_by_role("link", name="Kit roadster").click()

    # Machine: the pedal's answer follows the number while it is typed, then it is kept.
    settled(page)
    live = page.get_by_label("What the pedal gives")
    before = live.get_by_text("Deceleration it asks for").locator("xpath=../dd").inner_text()
    mass = page.get_by_label(re.compile("Mass as driven")).first
    mass.fill("760 kg")
    expect(live.get_by_text("Deceleration it asks for").locator("xpath=../dd")).not_to_have_text(before)
    with answered(page):
        mass.press("Enter")
    settled(page)
    page.reload()
    expect(page.get_by_label(re.compile("Mass as driven")).first).to_have_value("760")
    mass = page.get_by_label(re.compile("Mass as driven")).first
    mass.fill("690")
    mass.press("Enter")
    settled(page)

    # Choose on the street mix first, to see the ranking turn.
    go(page, "Choose")
    street_winner = first_pad(page)
    expect(page.locator("li[data-rejected]")).to_have_count(0)

    # Duty: the relay session; its trace and its energy.
    go(page, "Duty")
    cool = reading(page, "rotor")
    page.get_by_role("radio", name=re.compile("^Relay stint, Tarn loop")).check()
    expect(page.get_by_role("heading", name="Relay stint, Tarn loop")).to_be_visible()
    settled(page)
    expect(page.get_by_role("img", name="Speed and brake power over time")).to_be_visible()
    expect(page.get_by_text("per lap")).to_be_visible()
    reads(page, "rotor", cool + 301)
    expect(page.locator("[data-change='rotor']")).to_have_text(re.compile(r"^\+\d{3}$"))

    # Choose again: another winner, and the street pad out with its temperature and limit.
    go(page, "Choose")
    track_winner = first_pad(page)
    assert track_winner != street_winner
    page.locator("summary", has_text="rejected").click()
    out = page.locator("li[data-rejected='Burnside Quiet']")
    expect(out).to_contain_text(re.compile(r"reaches \d+ °C, \d+ K over the limit of Burnside Quiet, 400 °C"))

    # What-if on cooling: the ladder moves in the running page, without a reload.
    page.evaluate("window.stillTheSamePage = true")
    column = page.get_by_role("button", name=re.compile(f"^{track_winner}: front peak"))
    label_before = column.get_attribute("aria-label")
    slider = page.get_by_role("slider", name="Ducts, cooling")
    slider.focus()
    for _ in range(5):
        slider.press("ArrowRight")
    expect(slider).to_have_attribute("aria-valuetext", "× 1.5")
    settled(page)
    peaks = page.get_by_role("button", name=re.compile("front peak"))
    expect(peaks.first).not_to_have_attribute("aria-label", label_before or "")
    expect(page.get_by_text(re.compile("What-if: cooling × 1.5"))).to_be_visible()
    assert page.evaluate("window.stillTheSamePage") is True
    page.get_by_role("button", name="Back to the machine").click()
    settled(page)

    # Fit the winner.
    page.get_by_role("button", name=f"Fit {track_winner}").click()
    expect(page.get_by_text("fitted now")).to_be_visible()
    expect(page.get_by_role("button", name=re.compile("^Undo"))).to_be_visible()

    # Bed: a plan that ends in the window; keep it, drive it, tick it.
    go(page, "Bed")
    expect(page.get_by_role("heading", level=1)).to_contain_text(track_winner)
    plan = page.locator("[data-plan-text]")
    expect(plan).to_be_visible()
    if "short of the window" in plan.inner_text():
        speed = page.get_by_role("slider", name="Fastest a braking begins")
        speed.focus()
        speed.press("End")
        settled(page)
    expect(plan).to_contain_text("end in the front window")
    expect(page.get_by_text("Pads not bedded yet: bite uncertain").first).to_be_visible()
    # Each stop opens with its energy and the ring before and after it.
    page.locator("[data-why='stop_front']").last.click()
    expect(page.get_by_role("dialog")).to_contain_text(
        re.compile(r"MJ into one front rotor in the .* ring's mean = \d+")
    )
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Keep this plan").click()
    done = page.get_by_role("region", name="Kept plans").get_by_role("checkbox")
    done.check()
    expect(page.get_by_text(re.compile("driven on"))).to_be_visible()

    # Life: by energy first, then one measured thickness.
    go(page, "Life")
    front = page.locator("[data-axle='front']")
    expect(front).to_contain_text("By computed energy only")
    page.get_by_label("Thinnest friction material").fill("9.2 mm")
    page.get_by_label("Odometer", exact=True).fill("8600")
    page.get_by_role("button", name="Keep the measurement").click()
    expect(front).to_contain_text("by what was measured")
    expect(front).to_contain_text(re.compile(r"Next change in\s*[\d.]+ events"))
    expect(front).to_contain_text(re.compile(r"20\d\d|ten years"))
    measured = page.get_by_role("region", name="Measurements")
    measured.get_by_role("button", name="Take out").first.click()
    expect(measured.get_by_role("button", name="Bring back")).to_be_visible()
    expect(front).to_contain_text("By computed energy only")
    # Hoses age by date: said once, they stand there with the day of their change.
    hoses = page.get_by_role("region", name="Hoses")
    hoses.get_by_label("How old they are").fill("9 years")
    hoses.get_by_role("button", name="These are on").click()
    expect(hoses.locator("[data-hoses='front']")).to_contain_text(re.compile(r"rubber\s*9\.0 years.*look closely"))

    # The rail says so too.
    for stage in ("choose", "bed"):
        expect(page.locator(f"[data-stage='{stage}']")).to_have_attribute("data-state", "done")


@pytest.mark.parametrize(("size", "theme"), [("desktop", "dark"), ("phone", "light")])
def test_every_screen_passes_axe(open_page: Opener, size: str, theme: str) -> None:
    page = open_page(size, theme)
    page.goto("/")
    for path in ("/", "/m/1/machine", "/m/1/duty", "/m/1/choose", "/m/1/bed", "/m/1/life"):
        visit(page, path)
        expect(page.get_by_role("alert")).to_have_count(0)
        expect(page.locator("[data-reading]")).to_have_count(0 if path == "/" else 5)
        assert axe_violations(page) == [], path
        wide = page.evaluate("document.documentElement.scrollWidth - document.documentElement.clientWidth")
        assert wide <= 0, f"{path} scrolls sideways by {wide} px"


def test_an_overloaded_descent_rejects_street_pads_for_fade(open_page: Opener) -> None:
    page = open_page("desktop")
    page.goto("/m/3/duty")
    settled(page)
    page.get_by_role("radio", name=re.compile("^Scar brow, overloaded")).check()
    settled(page)
    go(page, "Choose")
    page.locator("summary", has_text="rejected").click()
    sentence = page.locator("li[data-rejected='Burnside Quiet']").inner_text()
    match = re.search(
        r"front ring reaches (\d+) °C, (\d+) K over the limit of Burnside Quiet, 400 °C, with μ 0\.\d\d left", sentence
    )
    assert match, sentence
    assert int(match[1]) - 400 == pytest.approx(int(match[2]), abs=1)
    expect(page.get_by_text("out: pad fades").first).to_be_visible()
    # What stands the heat boils its fluid once its pads are worn, and says at which thickness.
    boils = page.locator("li[data-rejected='Fellmark R2']")
    expect(page.get_by_text("out: fluid boils, pads worn").first).to_be_visible()
    expect(boils).to_contain_text(re.compile(r"With the pads down to \d\.\d mm in front"))
    # How far any of it is to be trusted has a page of its own, from every drawer and from the rail.
    page.keyboard.press("w")
    page.get_by_role("dialog").get_by_role("link", name="How far to trust it").click()
    expect(page.get_by_role("heading", name="How far to trust it")).to_be_visible()
    expect(page.get_by_role("region", name="Validated")).to_contain_text("Nothing yet")
    expect(page.get_by_role("table", name="Guesses and measurements")).to_contain_text(
        "temperature strip on each caliper"
    )
    assert axe_violations(page) == []


def test_why_opens_every_reading_by_keyboard_and_closes(open_page: Opener) -> None:
    page = open_page("desktop")
    page.goto("/m/1/duty")
    settled(page)
    page.keyboard.press("w")
    drawer = page.get_by_role("dialog")
    expect(drawer.get_by_text("If an input is 10 % greater")).to_be_visible()
    expect(drawer.get_by_text("Where the energy went, MJ")).to_be_visible()
    assert axe_violations(page) == []
    page.keyboard.press("Escape")
    expect(drawer).to_have_count(0)
    for name in ("window", "pedal", "fluid", "life"):
        page.locator(f"[data-reading='{name}']").press("Enter")
        expect(page.get_by_role("dialog").get_by_text("Source:")).to_be_visible()
        page.keyboard.press("Escape")


def test_keys_move_between_stages_machines_and_units(open_page: Opener) -> None:
    page = open_page("desktop")
    page.goto("/m/1/machine")
    settled(page)
    page.keyboard.press("3")
    expect(page).to_have_url(re.compile("/m/1/duty$"))
    settled(page)
    page.keyboard.press("]")
    expect(page).to_have_url(re.compile("/m/2/duty$"))
    settled(page)
    page.keyboard.press("[")
    expect(page).to_have_url(re.compile("/m/1/duty$"))
    settled(page)
    celsius = reading(page, "rotor")
    # A hurried hand types on after a box: among boxes a figure is no command.
    page.keyboard.press("1")
    box = page.get_by_role("textbox", name=re.compile("^Mass as driven")).first
    box.press("Tab")
    expect(box).not_to_be_focused()
    page.keyboard.press("3")
    page.keyboard.press("u")
    expect(page.locator("[data-reading='rotor']")).to_contain_text("°F")
    expect(page).to_have_url(re.compile("/m/1/machine$"))
    fahrenheit = celsius * 1.8 + 32
    reads(page, "rotor", fahrenheit - 1.5, fahrenheit + 1.5)
    page.keyboard.press("?")
    expect(page.get_by_role("dialog", name="Keys")).to_be_visible()
    at = page.evaluate_handle("document.activeElement.closest('[role=dialog]') === null")
    assert at.json_value() is False
    page.keyboard.press("Escape")
    # The hand is back where it was, among boxes; a figure is a command again once it has left them.
    expect(page.get_by_role("button", name=re.compile("^Measure it.*Mass as driven"))).to_be_focused()
    page.get_by_role("heading", level=1).click()
    page.keyboard.press("0")
    expect(page.locator("main li")).to_have_count(5)


def test_what_is_wrong_stays_as_typed_and_is_explained(open_page: Opener) -> None:
    page = open_page("desktop")
    page.goto("/m/1/machine")
    settled(page)
    mass = page.get_by_label(re.compile("Mass as driven")).first
    mass.fill("heavy")
    mass.press("Tab")
    expect(page.get_by_text(re.compile("Type a number, in kg, lb"))).to_be_visible()
    expect(mass).to_have_value("heavy")
    front = page.get_by_label(re.compile("^Weight on the front")).first
    front.fill("120")
    front.press("Enter")
    expect(page.get_by_text(re.compile("Not saved: Weight on the front: .*at most"))).to_be_visible()
    expect(front).to_have_value("120")
    page.goto("/m/1/life")
    settled(page)
    page.get_by_label("Thinnest friction material").fill("30")
    page.get_by_role("button", name="Keep the measurement").click()
    expect(
        page.get_by_text(
            re.compile("Thinnest friction material: at most .* mm, (as measured on|its thickness when new)")
        )
    ).to_be_visible()
    expect(page.get_by_label("Thinnest friction material")).to_have_value("30")


def test_a_lost_server_is_said_and_retried_without_losing_the_page(open_page: Opener) -> None:
    page = open_page("desktop")
    page.goto("/m/1/duty")
    settled(page)
    # All of it: a question beside the change that still gets its answer would say that the connection is back.
    page.route("**/api/**", lambda route: route.abort())
    page.get_by_role("radio", name=re.compile("^Relay stint, fast group")).check(force=True)
    expect(page.get_by_role("alert").filter(has_text="did not answer")).to_be_visible()
    expect(page.get_by_role("alert").filter(has_text="No connection")).to_be_visible()
    page.unroute("**/api/**")
    page.get_by_role("button", name="Retry").click()
    expect(page.get_by_role("heading", name="Relay stint, fast group")).to_be_visible()
    expect(page.get_by_role("alert")).to_have_count(0)


def test_a_stage_that_did_not_load_says_so_and_loads_when_it_can(open_page: Opener) -> None:
    page = open_page("phone")
    page.route("**/assets/life-*.js", lambda route: route.abort())
    page.goto("/m/1/inspect")
    settled(page)
    page.get_by_role("link", name="Life").click()
    expect(page.get_by_role("alert")).to_contain_text("A part of the page did not load")
    # Everything around it goes on.
    expect(page.locator("[data-reading='rotor']")).to_be_visible()
    page.unroute("**/assets/life-*.js")
    page.get_by_role("button", name="Try again").click()
    expect(page.get_by_role("heading", name="How long the pads last")).to_be_visible()


def test_signing_out_and_in(open_page: Opener, settings: object) -> None:
    page = open_page("desktop")
    page.goto("/")
    settled(page)
    settings.DEMO_SIGN_IN = False  # type: ignore[attr-defined]
    page.get_by_role("button", name="Sign out").click()
    expect(page.get_by_role("heading", name="Sign in to Thermaxis")).to_be_visible()
    page.get_by_label("Name").fill("demo")
    page.get_by_label("Password").fill("no such word")
    page.get_by_role("button", name="Sign in").click()
    expect(page.get_by_role("alert")).to_be_visible()
    expect(page.get_by_label("Name")).to_have_value("demo")
    assert axe_violations(page) == []


def test_sets_are_put_side_by_side_with_one_cursor(open_page: Opener) -> None:
    page = open_page("phone")
    page.goto("/m/1/choose")
    settled(page)
    ticks = page.get_by_role("checkbox", name=re.compile("^compare"))
    ticks.nth(0).check()
    expect(page.get_by_text("Tick one more")).to_be_visible()
    for number in (1, 2, 3):
        ticks.nth(number).check()
    # Four are enough: the others cannot be ticked until one is left out.
    expect(page.locator("input[type=checkbox]:disabled").first).to_be_attached()
    region = page.get_by_role("region", name="Side by side")
    expect(region.get_by_role("button", name="Leave out")).to_have_count(4)
    settled(page)
    moment = region.get_by_role("slider")
    before = moment.get_attribute("aria-valuetext")
    moment.press("Shift+ArrowLeft")
    expect(moment).not_to_have_attribute("aria-valuetext", before or "")
    region.get_by_label("Drawn over the duty").select_option("pedal_N")
    expect(region.locator("[data-cursor]")).to_contain_text(" N")
    expect(region.get_by_role("row", name="To the nearest limit")).to_contain_text("best")
    assert axe_violations(page) == []
    region.get_by_role("button", name="Leave out").first.click()
    expect(region.get_by_role("button", name="Leave out")).to_have_count(3)
    # Weights to start from: another kind of user, another order.
    page.get_by_label("Start from what suits").select_option("track")
    settled(page)
    expect(page.get_by_role("slider", name="Heat margin")).to_have_attribute("aria-valuenow", "5")
