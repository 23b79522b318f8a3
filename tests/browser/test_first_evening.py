"""A newcomer's first evening: a bare server, the first person, and those they invite; each sees what their role allows."""

from __future__ import annotations

import re
from pathlib import Path
from typing import Any

import pyotp
import pytest
from django.contrib.auth import get_user_model
from playwright.sync_api import Page, expect

from tests.browser.conftest import Opener, axe_violations, settled
from thermaxis.apps.accounts.models import Membership, OneTimeAddress, Workshop
from thermaxis.apps.people.addresses import found_address
from thermaxis.apps.safekeeping import backing_up
from thermaxis.formats.backup_file import read_head

pytestmark = pytest.mark.django_db(transaction=True)
ADA, BEN, DEE = "tarn-and-fell-91", "another-long-one-4", "beck-and-crag-17"


def fill(page: Page, **values: str) -> None:
    for label, value in values.items():
        page.get_by_label(label.replace("_", " "), exact=True).fill(value)


def passwords(page: Page, password: str) -> None:
    page.get_by_label("Password, 10 characters or more").fill(password)
    page.get_by_label("The same again").fill(password)


def invited(page: Page, role: str, note: str, machines_of: str = "") -> str:
    """The address an owner hands on."""
    form = page.get_by_role("form", name="Invite somebody")
    form.get_by_role("combobox", name="As").select_option(role)
    if machines_of:
        form.get_by_role("combobox", name="Their own machines").select_option(machines_of)
    form.get_by_label("For whom").fill(note)
    form.get_by_role("button", name="Make the address").click()
    shown = page.get_by_role("region", name=f"Address for {note}")
    address = shown.locator(".figures").inner_text()
    shown.get_by_role("button", name="I have it").click()
    expect(page.get_by_role("table", name="Open addresses")).to_contain_text(note)
    return address


@pytest.mark.bare
def test_a_first_evening(open_page: Opener, settings: Any) -> None:
    settings.DEMO_SIGN_IN = False
    secret = found_address()
    owner = open_page("desktop")
    owner.goto("/")
    expect(owner.get_by_role("heading", name="Sign in to Thermaxis")).to_be_visible()
    # Half an address is told to be one.
    owner.goto(f"/join#{secret}"[:-4])
    expect(owner.get_by_role("heading", name="This address leads nowhere")).to_be_visible()
    owner.goto("/")
    owner.goto(f"/join#{secret}")
    expect(owner.get_by_role("heading", name="Your workshop")).to_be_visible()
    assert axe_violations(owner) == []
    fill(owner, Name_of_the_workshop="Tarnside Brake & Chassis", Your_name_to_sign_in_with="ada")
    passwords(owner, "password12")
    owner.get_by_role("button", name="Make the workshop").click()
    expect(owner.get_by_text("too common")).to_be_visible()
    # Nothing typed is lost, nothing used up.
    expect(owner.get_by_label("Name of the workshop")).to_have_value("Tarnside Brake & Chassis")
    passwords(owner, ADA)
    owner.get_by_role("button", name="Make the workshop").click()
    # In at once, and told what to do next.
    owner.get_by_role("button", name="Try it on the demo machine").click()
    expect(owner).to_have_url(re.compile("/m/1/choose"))
    settled(owner)
    owner.goto("/settings/people")
    assert axe_violations(owner) == []
    machines_of = owner.evaluate("fetch('/api/owners').then((answer) => answer.json())")[0]["name"]
    to_ben, to_dee = invited(owner, "fitter", "Ben"), invited(owner, "driver", "Dee", machines_of)
    withdrawn = invited(owner, "reader", "Eve")
    owner.get_by_role("button", name=re.compile("Withdraw.*Eve")).click()
    expect(owner.get_by_role("button", name=re.compile("Withdraw.*Eve"))).to_have_count(0)

    fitter = open_page("phone")
    fitter.goto(withdrawn)
    expect(fitter.get_by_role("heading", name="This address leads nowhere")).to_be_visible()
    fitter.goto("/")
    fitter.goto(to_ben)
    expect(fitter.get_by_role("heading", name="Join Tarnside Brake & Chassis")).to_be_visible()
    assert fitter.evaluate("document.documentElement.scrollWidth") == 390
    fill(fitter, Your_name_to_sign_in_with="ben")
    passwords(fitter, BEN)
    fitter.get_by_role("button", name="Join", exact=True).click()
    expect(fitter.get_by_role("link", name="Kit roadster")).to_be_visible()
    # A fitter works, and has no say about people.
    expect(fitter.get_by_role("link", name="Add a machine")).to_be_visible()
    fitter.goto("/settings/people")
    expect(fitter.get_by_text("This part is for owners")).to_be_visible()
    expect(fitter.get_by_role("link", name="People")).to_have_count(0)

    driver = open_page("desktop")
    driver.goto(to_dee)
    fill(driver, Your_name_to_sign_in_with="dee")
    passwords(driver, DEE)
    driver.get_by_role("button", name="Join", exact=True).click()
    expect(driver.get_by_role("link", name="Kit roadster")).to_be_visible()
    expect(driver.get_by_role("link", name="Catalogue")).to_have_count(0)
    expect(driver.get_by_role("link", name="Add a machine")).to_have_count(0)
    # A machine of somebody else's comes in: the fitter sees it, the driver does not.
    fitter.goto("/add")
    fitter.get_by_label("What it is called").fill("Somebody else's van")
    fitter.get_by_label("Owner", exact=True).fill("Another customer")
    fitter.get_by_role("button", name="Add the machine").click()
    expect(fitter).to_have_url(re.compile("/m/2/"))
    driver.goto("/")
    expect(driver.get_by_role("link", name="Kit roadster")).to_be_visible()
    expect(driver.get_by_text("Somebody else's van")).to_have_count(0)
    driver.goto("/m/2/duty")
    expect(driver.get_by_text("There is nothing here for this workshop").first).to_be_visible()
    # Used, an address leads nowhere.
    stranger = open_page("desktop")
    stranger.goto(to_ben)
    expect(stranger.get_by_role("heading", name="This address leads nowhere")).to_be_visible()


def sign_in(page: Page, name: str, password: str) -> None:
    page.get_by_label("Name", exact=True).fill(name)
    page.get_by_label("Password", exact=True).fill(password)
    page.keyboard.press("Enter")


def test_settings_by_keyboard_and_on_the_phone(open_page: Opener, demo_server: str, settings: Any) -> None:
    settings.DEMO_SIGN_IN = False
    workshop = Workshop.objects.get()
    other = Workshop.objects.create(name="Second workshop")
    everybody = (("ada", "owner", (workshop, other)), ("ben", "fitter", (workshop,)), ("rita", "reader", (workshop,)))
    for name, role, places in everybody:
        user = get_user_model().objects.create_user(name, password=ADA)
        for place in places:
            Membership.objects.create(user=user, workshop=place, role=role)
    page, ben, rita = open_page("desktop"), open_page("phone"), open_page("phone")
    for each, name in ((page, "ada"), (ben, "ben"), (rita, "rita")):
        each.goto("/")
        sign_in(each, name, ADA)
        expect(each.get_by_role("link", name="Kit roadster")).to_be_visible()
    # Who only reads is told so; an owner is told once what an upgrade has changed.
    expect(rita.get_by_text("you see everything and change nothing")).to_be_visible()
    expect(ben.locator("[data-reader], [data-news]")).to_have_count(0)
    page.get_by_role("button", name="What changed").press("Enter")
    expect(page.get_by_role("dialog")).to_contain_text("A backup each night")
    assert axe_violations(page) == []
    page.get_by_role("button", name="I have read it").press("Enter")
    expect(page.locator("[data-news]")).to_have_count(0)
    assert page.evaluate("document.activeElement.contains(document.querySelector('main'))")
    assert page.evaluate("document.activeElement !== document.body")
    # A second factor: set up, asked for, a written code in place of the device's.
    page.goto("/settings/me")
    settled(page)
    assert axe_violations(page) == []
    page.get_by_role("button", name="Set it up").press("Enter")
    page.keyboard.type("wrong")
    page.keyboard.press("Enter")
    expect(page.get_by_text("your present password")).to_be_visible()
    page.get_by_label("Your password once more").fill(ADA)
    page.keyboard.press("Enter")
    letters = page.locator("form .figures").inner_text()
    page.get_by_label("The six digits it shows now").fill(pyotp.TOTP(letters.replace(" ", "")).now())
    page.keyboard.press("Enter")
    codes = page.get_by_role("region", name="Codes to write down").locator(".figures").inner_text().split("\n")
    assert len(codes) == 10
    page.get_by_role("button", name="I have it").click()
    # The workshop asks everybody for one: who has none is led to it, and to nothing else.
    page.goto("/settings/workshop")
    page.get_by_label("Everybody signs in with a second factor").check()
    page.get_by_role("button", name="Keep").click()
    expect(page.get_by_role("button", name="Keep")).to_be_disabled()
    settled(page)
    ben.goto("/m/1/job")
    expect(ben).to_have_url(re.compile("/settings/me"))
    expect(ben.get_by_text("asks everybody for a second factor")).to_be_visible()
    assert ben.evaluate("document.documentElement.scrollWidth") == 390
    # Signing in again: the code is a question of its own.
    page.get_by_role("button", name="Sign out").click()
    expect(page.get_by_role("button", name="Sign in")).to_be_visible()
    page.goto("/")
    sign_in(page, "ada", ADA)
    expect(page.get_by_label("Code your device shows")).to_be_focused()
    page.keyboard.type("000000")
    page.keyboard.press("Enter")
    expect(page.get_by_text("The code is wrong, or was used already")).to_be_visible()
    from django_otp.plugins.otp_static.models import StaticDevice

    # A wrong code is paid for by a second of waiting; this test does not wait for it.
    StaticDevice.objects.update(throttling_failure_timestamp=None, throttling_failure_count=0)
    page.get_by_label("Code your device shows").fill(codes[0])
    page.keyboard.press("Enter")
    expect(page.get_by_role("link", name="Kit roadster")).to_be_visible()
    # From one workshop to the other, in the rail.
    page.get_by_role("button", name="Tarnside Brake & Chassis").click()
    page.get_by_role("menuitem", name="Second workshop").click()
    expect(page.get_by_text("No machine yet").first).to_be_visible()
    page.get_by_role("button", name="Second workshop").click()
    page.get_by_role("menuitem", name="Tarnside Brake & Chassis").click()
    expect(page.get_by_role("link", name="Kit roadster")).to_be_visible()
    # A key is shown once, and withdrawn.
    page.goto("/settings/keys")
    page.get_by_label("What it is for").fill("Gauge in bay 2")
    page.get_by_role("button", name="Make a key").click()
    key = page.get_by_role("region", name="Key “Gauge in bay 2”").locator(".figures").inner_text()
    assert key.startswith("thx_")
    page.reload()
    expect(page.get_by_role("table", name="Keys")).to_contain_text("Gauge in bay 2")
    assert key not in page.content()
    page.get_by_role("button", name=re.compile("Withdraw.*Gauge in bay 2")).click()
    expect(page.get_by_text("None so far")).to_be_visible()
    # A member forgets the password: an address, and they are in; their other session has ended.
    page.goto("/settings/people")
    page.get_by_role("button", name="Change ben").click()
    drawer = page.get_by_role("dialog", name="ben")
    drawer.get_by_role("button", name="Address for another password").click()
    address = drawer.locator(".figures").inner_text()
    ben.goto(address)
    expect(ben.get_by_role("heading", name="Another password")).to_be_visible()
    passwords(ben, BEN)
    ben.get_by_role("button", name="Set the password").click()
    expect(ben).to_have_url(re.compile("/settings/me"))
    # Taken out, with the name forgotten.
    drawer.get_by_role("button", name="Take out of the workshop").click()
    drawer.get_by_label("Forget the name as well").check()
    drawer.get_by_role("button", name="Take ben out").click()
    expect(page.get_by_role("table", name="Members")).not_to_contain_text("ben")
    assert not get_user_model().objects.filter(username="ben").exists()
    assert not OneTimeAddress.objects.filter(used_at=None, withdrawn_at=None).exists()
    ben.reload()
    expect(ben.get_by_role("heading", name="Sign in to Thermaxis")).to_be_visible()


def test_a_backup_taken_away_and_put_back_from_the_page(
    open_page: Opener, demo_server: str, settings: Any, tmp_path: Path
) -> None:
    settings.VAR = tmp_path
    user = get_user_model().objects.get(username="demo")
    user.set_password(ADA)
    user.save()
    page = open_page("phone")
    page.goto("/settings/backup")
    settled(page)
    assert axe_violations(page) == []
    # The nights' backups get a lock of their own.
    page.get_by_role("button", name="Lock them…").click()
    page.get_by_label("Passphrase, 10 characters or more").fill("becks and tarns 17")
    page.get_by_label("The same again").fill("becks and tarns 17")
    page.get_by_label("Your password").fill(ADA)
    page.get_by_role("button", name="Lock them", exact=True).click()
    expect(page.get_by_text("They are locked by a passphrase")).to_be_visible()
    assert backing_up.own_passphrase() == "becks and tarns 17"
    # Locked by words that differ nothing is made.
    page.get_by_label("Lock it by a passphrase").check()
    page.get_by_label("Passphrase, 10 characters or more").fill("horse battery staple 9")
    page.get_by_label("The same again").fill("horse battery")
    page.get_by_role("button", name="Make one now").click()
    expect(page.get_by_text("the same as above", exact=False)).to_be_visible()
    page.get_by_label("The same again").fill("horse battery staple 9")
    page.get_by_role("button", name="Make one now").click()
    backups = page.get_by_role("table", name="Backups")
    expect(backups).to_contain_text("by hand")
    with page.expect_download() as taken:
        backups.get_by_role("link", name="Take away").click()
    file = tmp_path / "taken.backup"
    taken.value.save_as(file)
    # Something is written since, and the backup on the server is gone.
    Workshop.objects.update(name="Renamed since")
    backups.get_by_role("button", name="Delete").click()
    expect(page.get_by_text("None yet")).to_be_visible()
    # A file that is none is told, and touches nothing.
    chooser = page.locator("input[type=file]")
    (tmp_path / "other.backup").write_bytes(b"not a backup")
    chooser.set_input_files(tmp_path / "other.backup")
    page.get_by_role("button", name="Look through it").click()
    expect(page.get_by_text("a backup this program has written")).to_be_visible()
    page.get_by_role("button", name="Leave it").click()
    chooser.set_input_files(file)
    page.get_by_label("Passphrase, where it is locked by one").fill("horse battery staple 8")
    page.keyboard.press("Enter")
    expect(page.get_by_text("the passphrase this backup was locked with")).to_be_visible()
    page.get_by_label("Passphrase, where it is locked by one").fill("horse battery staple 9")
    page.keyboard.press("Enter")
    expect(page.get_by_text("Tarnside Brake & Chassis as of")).to_be_visible()
    expect(page.get_by_text("Every session: everybody signs in again.")).to_be_visible()
    assert page.evaluate("document.documentElement.scrollWidth") == 390
    page.get_by_label("Your password once more").fill(ADA)
    page.keyboard.press("Enter")
    expect(page.get_by_text("What was there before is kept on the server as")).to_be_visible()
    assert Workshop.objects.get().name == "Tarnside Brake & Chassis"
    (aside,) = backing_up.backups_folder().glob("before-restore-*.backup")
    assert read_head(aside).locked
    page.get_by_role("button", name="Go on").click()
    expect(page.get_by_role("link", name="Kit roadster")).to_be_visible()
    page.goto("/settings/backup")
    expect(page.get_by_role("table", name="Backups")).to_contain_text("what was there before one was put back")
