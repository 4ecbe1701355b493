"""Taking a call: finding, not duplicating, promising, losing nothing."""

import re

import pytest
from playwright.sync_api import Locator, Page, expect

from tests.journeys.board import toast
from tests.journeys.conftest import INTAKE


@pytest.fixture
def page(sign_in) -> Page:
    opened: Page = sign_in(INTAKE)
    expect(opened.get_by_label("Find the caller")).to_be_focused()
    return opened


def find(page: Page, text: str) -> None:
    page.get_by_label("Find the caller").fill(text)


def request_form(page: Page) -> Locator:
    return page.get_by_role("form", name="Request")


def choose_ferries(page: Page) -> None:
    find(page, "ferry terminal")
    expect(page.get_by_label("Customers found").get_by_role("option").first).to_contain_text("Varn Ferries")
    page.keyboard.press("Enter")
    expect(page.get_by_label("Ferry Terminal")).to_be_checked()


def test_the_caller_is_chosen_by_keyboard_alone(page):
    find(page, "varnholm")
    options = page.get_by_label("Customers found").get_by_role("option")
    expect(options.nth(1)).to_be_visible()
    second = options.nth(1).locator("p").first.inner_text().split(" · ")[0]
    page.keyboard.press("ArrowDown")
    expect(options.nth(1)).to_have_attribute("aria-selected", "true")
    page.keyboard.press("Enter")
    expect(page.get_by_text(second, exact=True).first).to_be_visible()


def test_nobody_found_leads_to_a_new_customer_with_what_was_typed(page):
    find(page, "Zzyx Laundry")
    expect(page.get_by_text("Nobody found by that.")).to_be_visible()
    page.get_by_role("button", name="New customer").click()
    expect(page.get_by_label("Customer's name")).to_have_value("Zzyx Laundry")


def test_a_typed_number_becomes_the_phone(page):
    find(page, "+351 296 999 888")
    page.get_by_role("button", name="New customer").click()
    expect(page.get_by_label("Phone", exact=True)).to_have_value("+351 296 999 888")
    expect(page.get_by_label("Customer's name")).to_have_value("")


def test_a_probable_duplicate_is_offered_instead(page):
    find(page, "Varn Ferrys")
    page.get_by_role("button", name="New customer").click()
    expect(page.get_by_text("Perhaps we know them already:")).to_be_visible()
    page.get_by_role("listitem").filter(has_text="Varn Ferries").get_by_role("button", name="It is them").click()
    expect(page.get_by_label("Ferry Terminal")).to_be_visible()


def test_without_a_place_no_site_is_kept(page):
    find(page, "Zzyx Laundry")
    page.get_by_role("button", name="New customer").click()
    page.get_by_role("textbox", name="Address").fill("qqqq 12")
    expect(page.get_by_text("No such street.")).to_be_visible()
    expect(page.get_by_role("button", name="Keep customer and site")).to_be_disabled()


def test_another_site_of_a_known_customer_is_made_in_the_call(page):
    choose_ferries(page)
    page.get_by_role("button", name="Another site").click()
    page.get_by_role("textbox", name="Address").fill("kilnfield embankment 33")
    page.get_by_role("button", name=re.compile("Kilnfield Embankment 33")).first.click()
    page.get_by_label("Name of the site").fill("Boat shed")
    page.get_by_role("button", name="Keep site").click()
    expect(page.get_by_label("Boat shed")).to_be_checked()


def test_a_promise_that_cannot_be_read_is_said_and_nothing_typed_is_lost(page):
    choose_ferries(page)
    page.get_by_label("What is wrong").fill("Gate 2 hums")
    page.get_by_label("Promised from").fill("8")
    request_form(page).get_by_role("button", name="Make work order").click()
    expect(page.get_by_role("alert")).to_contain_text("A day and two times")
    page.get_by_role("button", name="Today 14–17").click()
    expect(page.get_by_label("What is wrong")).to_have_value("Gate 2 hums")
    request_form(page).get_by_role("button", name="Make work order").click()
    toast(page, "is in the backlog")
    expect(page.get_by_label("Find the caller")).to_have_value("")


def test_a_promise_in_the_past_is_refused_by_the_server_and_nothing_typed_is_lost(page):
    choose_ferries(page)
    page.get_by_label("What is wrong").fill("Gate 3 hums")
    page.get_by_label("Promised day").fill("2026-01-05")
    page.get_by_label("Promised from").fill("8")
    page.get_by_label("Promised until").fill("+120")
    request_form(page).get_by_role("button", name="Make work order").click()
    expect(page.get_by_role("alert")).to_contain_text("The promise lies in the past.")
    expect(page.get_by_label("What is wrong")).to_have_value("Gate 3 hums")


def test_skills_from_the_job_type_may_be_changed_for_this_order(page):
    choose_ferries(page)
    page.get_by_label("Job type").select_option(label="Lift stopped")
    expect(page.get_by_label("Level of Traction lifts")).to_have_value("2")
    page.get_by_role("button", name="Remove Traction lifts").click()
    page.get_by_label("Add a skill").select_option(label="Escalators")
    page.get_by_label("Level of Escalators").select_option("3")
    page.get_by_label("What is wrong").fill("Stairs stand still")
    request_form(page).get_by_role("button", name="Make work order").click()
    toast(page, "is in the backlog")
    page.get_by_role("button", name="Show on the board").click()
    details = page.get_by_test_id("details")
    expect(details).to_contain_text("Stairs stand still")


def test_a_request_that_needs_no_order_is_closed_with_a_reason(page):
    choose_ferries(page)
    page.get_by_label("What is wrong").fill("Only wanted to ask")
    page.get_by_role("button", name="Keep as request").click()
    row = page.get_by_label("Waiting requests").get_by_role("listitem").filter(has_text="Only wanted to ask")
    row.get_by_role("button", name="No order needed").click()
    expect(row.get_by_role("button", name="Close it")).to_be_disabled()
    row.get_by_label("Why no order").fill("answered on the phone")
    row.get_by_role("button", name="Close it").click()
    expect(row).to_have_count(0)


def test_two_people_cannot_order_the_same_request_twice(page, sign_in):
    choose_ferries(page)
    page.get_by_label("What is wrong").fill("Ordered twice?")
    page.get_by_role("button", name="Keep as request").click()
    other = sign_in(INTAKE)
    rows = [
        view.get_by_label("Waiting requests").get_by_role("listitem").filter(has_text="Ordered twice?")
        for view in (page, other)
    ]
    for row in rows:
        expect(row).to_be_visible()
    rows[0].get_by_role("button", name="Make work order").click()
    toast(page, "is in the backlog")
    # Gone from the other screen too, without a reload.
    expect(rows[1]).to_have_count(0)
