"""Taking a call: finding, not duplicating, promising, losing nothing."""

import re

import pytest
from playwright.sync_api import Locator, Page, expect

from tests.journeys.board import toast
from tests.journeys.conftest import INTAKE, settled


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


def test_nothing_typed_is_lost_by_a_reload_another_page_or_a_waiting_request(sign_in):
    page = sign_in(INTAKE)
    page.get_by_label("Find the caller").fill("becon")
    page.get_by_label("Find the caller").press("ArrowDown")
    words = page.get_by_label("What is wrong, in the caller's words")
    words.fill("The gate hums and stops")
    page.get_by_text("Payer, notes and more").click()
    page.get_by_label("Text on the invoice").fill("Gate, back yard")
    page.reload()
    expect(words).to_have_value("The gate hums and stops")
    page.get_by_role("link", name="Customers", exact=True).click()
    page.get_by_role("link", name="Intake", exact=True).click()
    expect(words).to_have_value("The gate hums and stops")
    page.get_by_label("Waiting requests").get_by_role("listitem").first.click()
    expect(page.get_by_role("heading", name=re.compile(r"R-\d+: who and where"))).to_be_visible()
    unfinished = page.get_by_role("region", name="Unfinished")
    unfinished.get_by_role("button", name=re.compile("^The gate hums")).click()
    expect(words).to_have_value("The gate hums and stops")
    page.get_by_text("Payer, notes and more").click()
    expect(page.get_by_label("Text on the invoice")).to_have_value("Gate, back yard")
    page.get_by_role("button", name="Throw away", exact=True).click()
    expect(words).to_have_value("")
    page.get_by_role("button", name="Undo").click()
    expect(unfinished).to_contain_text("The gate hums and stops")
    unfinished.get_by_role("button", name=re.compile("^Throw away: The gate")).click()
    expect(unfinished).to_have_count(0)


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
    twins = page.get_by_role("status", name="Perhaps we know them already")
    expect(twins).to_contain_text("has nearly the same name")
    twins.get_by_role("button", name="It is them").first.click()
    expect(page.get_by_label("Ferry Terminal")).to_be_visible()


def test_without_a_place_no_site_is_kept(page):
    find(page, "Zzyx Laundry")
    page.get_by_role("button", name="New customer").click()
    page.get_by_role("combobox", name="Address").fill("qqqq 12")
    expect(page.get_by_text("No such street.")).to_be_visible()
    expect(page.get_by_role("button", name="Save customer and site")).to_be_disabled()


def test_another_site_of_a_known_customer_is_made_in_the_call(page):
    choose_ferries(page)
    page.get_by_role("button", name="Another site").click()
    page.get_by_role("combobox", name="Address").fill("kilnfield embankment 33")
    page.get_by_role("option", name=re.compile("Kilnfield Embankment 33")).first.click()
    page.get_by_label("Name of the site").fill("Boat shed")
    page.get_by_role("button", name="Save site").click()
    expect(page.get_by_label("Boat shed")).to_be_checked()


def test_a_promise_that_cannot_be_read_is_said_and_nothing_typed_is_lost(page):
    choose_ferries(page)
    page.get_by_label("What is wrong").fill("Gate 2 hums")
    page.get_by_text("Another time, typed").click()
    page.get_by_label("Promised from").fill("8")
    request_form(page).get_by_role("button", name="Make work order").click()
    expect(page.get_by_role("alert")).to_contain_text("A day and two times")
    page.get_by_label("Promised from").fill("")
    expect(page.get_by_label("What is wrong")).to_have_value("Gate 2 hums")
    request_form(page).get_by_role("button", name="Make work order").click()
    toast(page, "is in the backlog")
    expect(page.get_by_label("Find the caller")).to_have_value("")


def test_a_promise_in_the_past_is_refused_by_the_server_and_nothing_typed_is_lost(page):
    choose_ferries(page)
    page.get_by_label("What is wrong").fill("Gate 3 hums")
    page.get_by_label("Length").fill("30")
    expect(offers(page).first).to_be_visible()
    page.get_by_text("Another time, typed").click()
    page.get_by_label("Promised day").fill("2026-01-05")
    page.get_by_label("Promised from").fill("8")
    page.get_by_label("Promised until").fill("+120")
    request_form(page).get_by_role("button", name="Make work order").click()
    expect(page.get_by_role("alert")).to_contain_text("The promise lies in the past.")
    expect(page.get_by_label("What is wrong")).to_have_value("Gate 3 hums")


def test_skills_from_the_job_type_may_be_changed_for_this_order(page):
    choose_ferries(page)
    page.get_by_label("Job type").select_option(label="Lift stopped")
    page.get_by_text("Skills: Traction lifts 2").click()
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


def waiting(page: Page, words: str) -> Locator:
    return page.get_by_label("Waiting requests").get_by_role("listitem").filter(has_text=words)


def kept_as_request(page: Page, words: str) -> None:
    choose_ferries(page)
    page.get_by_label("What is wrong").fill(words)
    page.get_by_role("button", name="Save as request").click()
    toast(page, "is among the waiting requests")


def test_a_request_that_needs_no_order_is_closed_with_a_reason(page):
    kept_as_request(page, "Only wanted to ask")
    page.get_by_role("link", name="Requests", exact=True).click()
    row = page.get_by_label("Requests", exact=True).get_by_role("listitem").filter(has_text="Only wanted to ask")
    row.click()
    page.get_by_role("button", name="No order needed").click()
    expect(page.get_by_role("button", name="Close it")).to_be_disabled()
    page.get_by_label("Why no order").fill("answered on the phone")
    page.get_by_role("button", name="Close it").click()
    expect(row).to_have_count(0)


def test_two_people_cannot_order_the_same_request_twice(page, sign_in):
    kept_as_request(page, "Ordered twice?")
    other = sign_in(INTAKE)
    for view in (page, other):
        waiting(view, "Ordered twice?").click()
        expect(view.get_by_label("What is wrong")).to_have_value("Ordered twice?")
        expect(view.get_by_label("Ferry Terminal")).to_be_checked()
    request_form(page).get_by_role("button", name="Make work order").click()
    toast(page, "is in the backlog")
    request_form(other).get_by_role("button", name="Make work order").click()
    expect(other.get_by_role("alert")).to_contain_text("was already made into a work order")
    expect(other.get_by_label("What is wrong")).to_have_value("Ordered twice?")


# --- the measures: with the keyboard alone ----------------------------------------------------------


def tab_to(page: Page, target: Locator, most: int = 60) -> None:
    """Press Tab until the element has the focus, as somebody without a mouse does."""
    for _ in range(most):
        if target.evaluate("element => element === document.activeElement"):
            return
        page.keyboard.press("Tab")
    raise AssertionError("not reached with Tab")


def offers(page: Page) -> Locator:
    return page.get_by_label("Windows that can be kept").locator("label")


def take_second(page: Page) -> None:
    """The second window; taken once more if the list came anew, for what was typed, as the key was pressed."""
    expect(offers(page).nth(1)).to_be_visible()
    for _ in range(5):
        page.keyboard.press("Alt+Digit2")
        settled(page)
        if offers(page).nth(1).get_by_role("radio").is_checked():
            return
    expect(offers(page).nth(1).get_by_role("radio")).to_be_checked()


def test_a_known_customers_call_comes_to_a_promise_by_keyboard_alone(page):
    page.keyboard.type("beacon lodge")
    expect(page.get_by_label("Customers found").get_by_role("option").first).to_be_visible()
    page.keyboard.press("Enter")
    expect(page.get_by_label("What is wrong")).to_be_focused()
    page.keyboard.type("Car light flickers")
    page.keyboard.press("Tab")
    page.keyboard.type("Car light")
    take_second(page)
    expect(page.get_by_text("Tell them in writing:")).to_be_visible()
    page.keyboard.press("Control+Enter")
    toast(page, "promised")
    expect(page.get_by_label("Find the caller")).to_be_focused()


def test_a_new_customers_call_comes_to_a_promise_by_keyboard_alone(page):
    page.keyboard.type("Zephyr Laundry")
    expect(page.get_by_text("Enter begins a new customer.")).to_be_visible()
    page.keyboard.press("Enter")
    expect(page.get_by_label("Customer's name")).to_be_focused()
    page.keyboard.press("Tab")
    page.keyboard.type("296 777 001")
    tab_to(page, page.get_by_role("combobox", name="Address"))
    page.keyboard.type("millrace raod 30")
    expect(page.get_by_label("Addresses found").get_by_role("option").first).to_be_visible()
    page.keyboard.press("Enter")
    expect(page.get_by_text(re.compile(r"^In \w+"))).to_be_visible()
    page.keyboard.press("Enter")
    expect(page.get_by_label("What is wrong")).to_be_focused()
    page.keyboard.type("Door scrapes")
    page.keyboard.press("Tab")
    page.keyboard.type("Noisy")
    expect(offers(page).first).to_be_visible()
    page.keyboard.press("Alt+Digit1")
    page.keyboard.press("Control+Enter")
    toast(page, "promised")


def test_a_wish_narrows_the_windows_at_once(page):
    choose_ferries(page)
    page.get_by_label("Job type").select_option(label="Noisy door")
    expect(offers(page).first).to_be_visible()
    with page.expect_response(lambda answer: answer.url.endswith("/appointments/offers")):
        page.get_by_role("button", name="Mornings").click()
    page.get_by_role("button", name="Earliest first").click()
    settled(page)
    expect(page.get_by_label("When we come")).to_contain_text("windows can be kept")
    for row in offers(page).all():
        assert re.search(r"(08:00–10:00|10:00–12:00)", row.inner_text())
