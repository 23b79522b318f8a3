"""People on one device: what one typed the other does not see, signing out clears it, a new password ends other sessions."""

from __future__ import annotations

from typing import Any

import pytest
from django.contrib.auth import get_user_model
from playwright.sync_api import Page, expect

from tests.browser.conftest import Opener, axe_violations, settled
from thermaxis.apps.accounts.models import Membership, Workshop

pytestmark = pytest.mark.django_db(transaction=True, reset_sequences=True)
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


@pytest.mark.parametrize("size", ["desktop", "phone"])
def test_another_password_by_keyboard(open_page: Opener, people: None, size: str) -> None:
    page, elsewhere = open_page(size), open_page("desktop")
    signed_in(page, "ada")
    signed_in(elsewhere, "ada")
    page.goto("/account")
    settled(page)
    assert axe_violations(page) == []
    page.get_by_label("Present password").focus()
    for text in (PASSWORD, "password12", "password12"):
        page.keyboard.type(text)
        page.keyboard.press("Tab")
    page.keyboard.press("Enter")
    expect(page.get_by_text("too common")).to_be_visible()
    # What was typed stands as it was; only the two that were wrong are typed again.
    expect(page.get_by_label("Present password")).to_have_value(PASSWORD)
    page.get_by_label("New password").fill(OTHER)
    page.get_by_label("The new one again").fill("something else")
    page.keyboard.press("Enter")
    expect(page.get_by_text("the same as above")).to_be_visible()
    page.get_by_label("The new one again").fill(OTHER)
    page.keyboard.press("Enter")
    expect(page.get_by_text("You stay signed in here")).to_be_visible()
    page.reload()
    expect(page.get_by_text("Signed in as ada")).to_be_visible()
    elsewhere.reload()
    sign_in(elsewhere, "ada")
    expect(elsewhere.get_by_text("The name or the password is wrong")).to_be_visible()
    sign_in(elsewhere, "ada", OTHER)
    expect(elsewhere.get_by_role("link", name="Kit roadster")).to_be_visible()
