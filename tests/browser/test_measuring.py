"""Ruler and scales on Machine: from how to measure to the number in its field, by keyboard."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import Opener, answered, axe_violations, settled

pytestmark = pytest.mark.django_db(transaction=True)


def test_a_number_is_measured_worked_out_and_used(open_page: Opener) -> None:
    page = open_page("phone")
    page.goto("/m/1/machine")
    settled(page)

    estimate = page.get_by_label("Height of the CG").input_value()
    # The lift: mass, level reading, wheelbase and hub height are there already; two readings are missing.
    page.get_by_role("button", name=re.compile("^Measure it.*Height of the CG")).press("Enter")
    drawer = page.get_by_role("dialog", name="Height of the CG by lifting the rear")
    expect(drawer.get_by_role("listitem")).to_have_count(3)
    expect(drawer.get_by_label("Mass in all")).to_have_value("690")
    level = float(drawer.get_by_label("Front axle, level").input_value())
    use = drawer.get_by_role("button", name="Use it")
    expect(use).to_be_disabled()
    drawer.get_by_label("Rear hubs rose by").fill("50 cm")

    # Less weight in front with the rear up cannot be: said, and what was typed stays.
    lower = drawer.get_by_label("Front axle, rear lifted")
    lower.fill(f"{level - 5:.0f}")
    expect(drawer.get_by_text(re.compile("ifted.*at least .*as level: weight moves down the slope"))).to_be_visible()
    expect(use).to_be_disabled()
    lower.fill(f"{level + 8:.1f} kg")
    answer = drawer.locator("[data-worked-out='vehicle.cg_height_m']")
    expect(answer).to_have_text(re.compile(r"Height of the CG: 0\.\d{3} m"))
    assert axe_violations(page) == []
    said = answer.inner_text()
    # Enter goes on, and the button uses it.
    lower.press("Enter")
    use.press("Enter")
    expect(drawer).to_be_hidden()
    settled(page)
    # The number that was said, not the estimate that stood there: a page may be still before the answer is in.
    field = page.get_by_label("Height of the CG")
    expect(field).not_to_have_value(estimate)
    assert f"{float(field.input_value()):.3f} m" in said

    # Scales give two numbers at once, and neither is an estimate any more.
    page.get_by_role("button", name=re.compile("^Measure it.*Weight on the front")).click()
    drawer = page.get_by_role("dialog", name="Mass and weight split by scales")
    for label, kilograms in (("Front left", 190), ("Front right", 176), ("Rear left", 170), ("Rear right", 164)):
        drawer.get_by_label(label).fill(str(kilograms))
    expect(drawer.locator("[data-worked-out]")).to_have_count(2)
    with answered(page):
        drawer.get_by_role("button", name="Use it").click()
    settled(page)
    page.reload()
    settled(page)
    expect(page.get_by_label("Mass as driven").first).to_have_value("700")
    expect(page.get_by_label("Weight on the front")).to_have_value("52.29")
