"""Coming in without a password, and a role that reaches only a part of the company."""

import re

from playwright.sync_api import Browser, Page, expect

from demo.accounts import PASSWORD
from tests.journeys.conftest import ADMINISTRATOR, DESK, RunningWorld, sign_in_as


def by_the_directory(page: Page, name: str) -> None:
    page.goto("/sign-in")
    page.get_by_role("button", name="Use a directory (stand-in) instead").click()
    page.get_by_role("link", name=name).click()


def test_by_the_directory_then_by_a_passkey_of_ones_own(browser: Browser, running: RunningWorld) -> None:
    # Passkeys belong to a name: not to an address of numbers.
    context = browser.new_context(base_url=running.url.replace("127.0.0.1", "localhost"), viewport=DESK)
    page = context.new_page()
    devices = context.new_cdp_session(page)
    devices.send("WebAuthn.enable")
    kind = {"protocol": "ctap2", "transport": "internal", "hasResidentKey": True, "hasUserVerification": True,
            "isUserVerified": True}  # fmt: skip
    devices.send("WebAuthn.addVirtualAuthenticator", {"options": kind})
    by_the_directory(page, "Somebody who was never invited")
    expect(page.get_by_text(re.compile("an administrator of your company invites you"))).to_be_visible()
    by_the_directory(page, "Milo Tarn")
    expect(page).to_have_url(re.compile("/board"))
    page.goto("/account")
    page.get_by_role("button", name="Make a passkey on this device").click()
    page.get_by_label("Your password, once more").fill(PASSWORD)
    page.get_by_role("button", name="Go on").click()
    page.get_by_label("Name of the passkey").fill("office laptop")
    page.get_by_role("button", name="Make it").click()
    expect(page.get_by_role("list", name="Passkeys").get_by_text("office laptop")).to_be_visible()
    page.goto("/board")
    page.get_by_role("button", name=re.compile("Milo Tarn, dispatcher")).click()
    page.get_by_role("menuitem", name="Sign out").click()
    page.get_by_role("button", name="Use a passkey instead").click()
    expect(page).to_have_url(re.compile("/board"))
    # The demo is others', too: the password opens it again.
    page.goto("/account")
    page.get_by_role("button", name="Remove office laptop").click()
    page.get_by_label("Your password, once more").fill(PASSWORD)
    page.get_by_role("button", name="Go on").click()
    page.get_by_role("button", name="Remove office laptop", disabled=False).click()
    expect(page.get_by_role("list", name="Passkeys").get_by_text("office laptop")).to_be_hidden()
    context.close()


def test_a_role_of_the_company_s_own_is_put_together_and_given(browser: Browser, running: RunningWorld) -> None:
    context = browser.new_context(base_url=running.url, viewport=DESK)
    page = sign_in_as(context, running, ADMINISTRATOR)
    page.goto("/set-up/accounts")
    page.get_by_role("button", name="Put a role of your own together").click()
    form = page.get_by_role("form", name="A role of your own")
    form.get_by_label("Name").fill("Plans the Old Quay")
    form.get_by_label("place, move and send visits").check()
    expect(form.get_by_label("see the board")).to_be_checked()
    form.get_by_role("group", name="Areas").get_by_label("Old Quay").check()
    form.get_by_role("button", name="Make the role").click()
    expect(page.get_by_text("changes work in Old Quay only; nobody has it yet")).to_be_visible()
    page.get_by_role("button", name=re.compile("dispatcher")).filter(has_text="Milo Tarn").click()
    account = page.get_by_role("form", name="Account")
    account.get_by_label("Role").select_option(label="Plans the Old Quay")
    account.get_by_role("button", name="Save changes").click()
    row = page.get_by_role("list", name="Accounts").get_by_role("button", name=re.compile("Milo Tarn"))
    expect(row).to_contain_text("Plans the Old Quay")
    other = browser.new_context(base_url=running.url, viewport=DESK)
    milo = other.new_page()
    by_the_directory(milo, "Milo Tarn")
    expect(milo.get_by_role("button", name="Milo Tarn, Plans the Old Quay")).to_be_visible()
    account.get_by_label("Role").select_option(value="dispatcher")
    account.get_by_role("button", name="Save changes").click()
    expect(row).to_contain_text("dispatcher")
    other.close()
    context.close()
