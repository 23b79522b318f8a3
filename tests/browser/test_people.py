"""People on one device: what one typed the other does not see, signing out clears it, a new password ends other sessions."""

from __future__ import annotations

from typing import Any

import pytest
from django.contrib.auth import get_user_model
from django.contrib.sessions.models import Session
from playwright.sync_api import Page, expect

from tests.browser.conftest import Opener, axe_violations, settled
from thermaxis.apps.accounts.models import ApiKey, Membership, Workshop

pytestmark = pytest.mark.django_db(transaction=True)
PASSWORD, OTHER = "tarn-and-fell-91", "another-long-one-4"


@pytest.fixture
def people(demo_server: str, settings: Any) -> None:
    """Two people with passwords, and nobody signed in by itself."""
    settings.DEMO_SIGN_IN = False
    for name in ("ada", "ben"):
        user = get_user_model().objects.create_user(name, password=PASSWORD)
        Membership.objects.create(user=user, workshop=Workshop.objects.get())


def sign_in(page: Page, name: str, password: str = PASSWORD) -> None:
    page.get_by_label("Name", exact=True).fill(name)
    page.get_by_label("Password", exact=True).fill(password)
    page.keyboard.press("Enter")


def signed_in(page: Page, name: str, password: str = PASSWORD) -> None:
    page.goto("/")
    sign_in(page, name, password)
    expect(page.get_by_role("link", name="Kit roadster")).to_be_visible()


def test_a_device_that_two_people_use(open_page: Opener, people: None) -> None:
    page = open_page("desktop")
    signed_in(page, "ada")
    page.goto("/add")
    owner = page.get_by_label("Owner", exact=True)
    owner.fill("A customer of Ada's")
    # Her session runs out, and Ben sits down.
    page.context.clear_cookies()
    signed_in(page, "ben")
    page.goto("/add")
    expect(owner).to_have_value("")
    # Nothing of his waits: he is out at once.
    page.get_by_role("button", name="Sign out").click()
    expect(page.get_by_role("button", name="Sign in")).to_be_visible()
    sign_in(page, "ada")
    settled(page)
    page.goto("/add")
    expect(owner).to_have_value("A customer of Ada's")
    # She is told that something waits, stays, looks, and goes.
    page.get_by_role("button", name="Sign out").click()
    dialog = page.get_by_role("dialog", name="Something is not sent yet")
    dialog.get_by_role("button", name="Stay and finish").click()
    expect(owner).to_have_value("A customer of Ada's")
    page.get_by_role("button", name="Sign out").click()
    dialog.get_by_role("button", name="Sign out and clear").click()
    expect(page.get_by_role("button", name="Sign in")).to_be_visible()
    assert "customer" not in str(page.evaluate("JSON.stringify({...localStorage})"))
    signed_in(page, "ada")
    page.goto("/add")
    expect(owner).to_have_value("")


def test_a_tab_sends_nothing_for_somebody_else(open_page: Opener, people: None) -> None:
    """Two tabs share their cookies: what Ada had typed went out in Ben's name."""
    page = open_page("desktop")
    signed_in(page, "ada")
    page.goto("/settings/keys")
    settled(page)
    purpose = page.get_by_label("What it is for")
    purpose.fill("Ada's gauge")
    other = page.context.new_page()
    other.context.clear_cookies()
    signed_in(other, "ben")
    purpose.press("Enter")
    page.get_by_role("button", name="Make a key").click()
    expect(page.get_by_text("This browser is signed in as ben now.")).to_be_visible()
    # Nothing of it is lost, and nobody has a key by it.
    expect(purpose).to_have_value("Ada's gauge")
    assert not ApiKey.objects.exists()


def test_another_password_by_keyboard(open_page: Opener, people: None) -> None:
    page, elsewhere = open_page("phone"), open_page("desktop")
    signed_in(page, "ada")
    signed_in(elsewhere, "ada")
    page.goto("/settings/me")
    settled(page)
    assert axe_violations(page) == []
    page.get_by_label("Present password").focus()
    for text in (PASSWORD, "password12", "password12"):
        page.keyboard.type(text)
        page.keyboard.press("Enter")
    # Three fields on it is the button's turn.
    page.keyboard.press("Enter")
    expect(page.get_by_text("too common")).to_be_visible()
    # What was typed stands as it was; only the two that were wrong are typed again.
    expect(page.get_by_label("Present password")).to_have_value(PASSWORD)
    page.get_by_label("New password").fill(OTHER)
    page.get_by_label("The new one again").fill("something else")
    page.keyboard.press("Enter")
    page.keyboard.press("Enter")
    expect(page.get_by_text("the same as above")).to_be_visible()
    page.get_by_label("The new one again").fill(OTHER)
    page.keyboard.press("Enter")
    page.keyboard.press("Enter")
    expect(page.get_by_text("You stay signed in here")).to_be_visible()
    page.reload()
    expect(page.get_by_text("Signed in as ada")).to_be_visible()
    elsewhere.reload()
    sign_in(elsewhere, "ada")
    expect(elsewhere.get_by_text("The name or the password is wrong")).to_be_visible()
    sign_in(elsewhere, "ada", OTHER)
    expect(elsewhere.get_by_role("link", name="Kit roadster")).to_be_visible()


def test_a_session_that_ends_loses_nothing_typed(open_page: Opener, people: None) -> None:
    page = open_page("desktop")
    signed_in(page, "ada")
    page.goto("/m/1/machine")
    settled(page)
    Session.objects.all().delete()
    mass = page.get_by_label("Mass as driven", exact=False).first
    mass.fill("712")
    mass.press("Enter")
    again = page.get_by_role("dialog", name="Sign in again")
    expect(again).to_be_visible()
    again.get_by_label("Name", exact=True).fill("ada")
    again.get_by_label("Password", exact=True).fill(PASSWORD)
    page.keyboard.press("Enter")
    expect(again).to_have_count(0)
    # What was on its way has arrived, and the page stands as it was.
    settled(page)
    expect(mass).to_have_value("712")
    page.reload()
    expect(mass).to_have_value("712")


def test_two_people_on_one_number_and_one_cell(open_page: Opener, people: None) -> None:
    ada, ben = open_page("desktop"), open_page("desktop")
    for page, name in ((ada, "ada"), (ben, "ben")):
        signed_in(page, name)
        page.goto("/m/1/machine")
        settled(page)
    masses = [page.get_by_label("Mass as driven", exact=False).first for page in (ada, ben)]
    for mass, typed in zip(masses, ("700", "715"), strict=True):
        mass.fill(typed)
        mass.press("Enter")
        settled(mass.page)
    expect(ben.get_by_text("somebody else has set it to 700 kg meanwhile, yours was 715 kg")).to_be_visible()
    ada.goto("/m/1/inspect")
    ada.get_by_role("button", name="Start measuring").click()
    cell = "[data-name='front_left.pad_inner_1']"
    expect(ada.locator(cell)).to_be_visible()
    ben.goto(ada.url)
    expect(ben.locator(cell)).to_be_visible()
    for page, typed in ((ada, "8.8"), (ben, "8.6")):
        page.locator(cell).fill(typed)
        page.locator(cell).press("Enter")
    theirs = ben.get_by_role("alert").filter(has_text="Somebody else has entered 8.80 mm meanwhile")
    expect(theirs).to_be_visible()
    theirs.get_by_role("button", name="Keep mine, 8.60 mm").click()
    expect(theirs).to_have_count(0)
    settled(ben)
    ada.reload()
    expect(ada.locator(cell)).to_have_value("8.6")
    # Single keys can be switched off, for who speaks to the page.
    ada.keyboard.press("?")
    ada.get_by_label("Single keys act by themselves").uncheck()
    ada.keyboard.press("Escape")
    ada.keyboard.press("3")
    ada.keyboard.press("u")
    expect(ada).to_have_url(ben.url)
