"""Catalogue: curves over each other, a file out, edited and taken in, twenty planted errors shown by row."""

from __future__ import annotations

import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import Opener, axe_violations, settled
from tests.formats.test_catalogue_table import PLANTED
from thermaxis.formats.table import read_table, write_csv

pytestmark = pytest.mark.django_db(transaction=True)


def saved(page: Page, link: str) -> bytes:
    with page.expect_download() as download:
        page.get_by_role("link", name=link).click()
    return Path(download.value.path()).read_bytes()


def test_curves_and_tables(open_page: Opener) -> None:
    page = open_page("desktop")
    page.goto("/")
    settled(page)
    page.get_by_role("link", name="Catalogue").locator("visible=true").click()
    curves = page.get_by_role("img", name="Friction against temperature")
    expect(curves).to_be_visible()
    drawn = page.get_by_role("checkbox", checked=True)
    expect(drawn).to_have_count(3)
    page.get_by_role("checkbox", name="Draw Fellmark R4").check()
    expect(page.get_by_role("img", name="Fellmark R4")).to_be_visible()
    assert axe_violations(page) == []
    page.get_by_text("Rotors, 21").click()
    expect(page.get_by_role("table", name="Rotors").get_by_role("row")).to_have_count(22)
    page.get_by_text("Fluids, 5").click()
    expect(page.get_by_role("table", name="Fluids")).to_contain_text("Fellmark 310")
    assert axe_violations(page) == []


def test_a_file_goes_out_and_comes_back_changed(open_page: Opener, tmp_path: Path) -> None:
    page = open_page("desktop")
    page.goto("/catalogue")
    settled(page)
    page.get_by_text("Rotors, 21").click()
    table = read_table(saved(page, "Rotors as CSV"))
    rows = [list(cells) for _, cells in table.rows]
    price = table.headings.index("price of one")
    rows[0][price] = "41.5"
    rows.append(["Tarn 260 curved", *rows[0][1:]])
    path = tmp_path / "rotors.csv"
    path.write_bytes(write_csv(table.headings, rows))
    page.get_by_role("button", name="Take in a file of parts").click()
    page.get_by_label("The file holds").select_option("rotors")
    page.get_by_label("Open a CSV or spreadsheet").set_input_files(path)
    plan = page.locator("[data-plan]")
    expect(plan).to_contain_text("1 added: Tarn 260 curved, RB-260")
    expect(plan).to_contain_text("Tarn 260 plain, RB-260: price of one 38 → 41.5")
    expect(plan).to_contain_text("20 as they are already")
    assert axe_violations(page) == []
    page.get_by_role("button", name="Take it in").click()
    expect(page.locator("[data-plan='written']")).to_be_visible()
    expect(page.get_by_text("Rotors, 22")).to_be_visible()
    expect(page.get_by_role("row", name="Tarn 260 plain")).to_contain_text("41.5")


def test_twenty_planted_errors_are_shown_and_nothing_is_taken_in(open_page: Opener, tmp_path: Path) -> None:
    page = open_page("desktop")
    page.goto("/catalogue")
    settled(page)
    page.get_by_text("Rotors, 21").click()
    table = read_table(saved(page, "Rotors as spreadsheet"))
    good = list(table.rows[0][1])
    rows = []
    for number, (heading, value) in enumerate(PLANTED):
        row = [f"{good[0]} {number}", *good[1:]]
        row[table.headings.index(heading)] = value
        rows.append(row)
    path = tmp_path / "rotors.csv"
    path.write_bytes(write_csv(table.headings, rows))
    page.get_by_role("button", name="Take in a file of parts").click()
    page.get_by_label("The file holds").select_option("rotors")
    page.get_by_label("Open a CSV or spreadsheet").set_input_files(path)
    wrong = page.get_by_role("table", name="Wrong cells").get_by_role("row")
    expect(wrong).to_have_count(21)
    expect(wrong.nth(1)).to_contain_text("wide")
    expect(wrong.nth(20)).to_contain_text("1 to 24 characters")
    expect(page.get_by_role("button", name="Take it in")).to_have_count(0)
    # Other headings: the mapping step asks for what it did not find.
    path = tmp_path / "fluids.csv"
    path.write_text("Part,Fit,Boils dry,Boils wet,Cost\nMoor 4,DOT 4,250,160,9\n", "utf-8")
    page.get_by_label("The file holds").select_option("fluids")
    page.get_by_label("Another file").set_input_files(path)
    expect(page.get_by_role("alert")).to_contain_text(
        re.compile("Nothing is read yet. No column was found for: fluid; standard; dry boiling point, °C; wet")
    )
    for label, heading in (
        ("fluid", "Part"),
        ("standard", "Fit"),
        ("dry boiling point, °C", "Boils dry"),
        ("wet boiling point, °C", "Boils wet"),
        ("price of a litre", "Cost"),
    ):
        page.get_by_role("combobox", name=label, exact=True).select_option(heading)
    expect(page.locator("[data-plan]")).to_contain_text("1 added: Moor 4")
