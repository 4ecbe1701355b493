"""Quotes: from the call to an order that was signed, on the customer's own phone and on ours."""

import re

import psycopg
import pytest
from playwright.sync_api import Locator, Page, expect

from tests.journeys.board import toast
from tests.journeys.conftest import ADMINISTRATOR, DISPATCHER, INTAKE, PHONE, TECHNICIAN, RunningWorld, settled
from tests.journeys.test_live import Session
from tests.journeys.test_phone import finish_what_is_under_way, given_to_ines


@pytest.fixture
def customer(browser, running):
    """Somebody outside with a phone and no account."""
    context = browser.new_context(base_url=running.url, viewport=PHONE)
    yield context.new_page()
    context.close()


def begin(page: Page, customer: str, title: str) -> None:
    page.goto("/quotes/new")
    field = page.get_by_label("Find the caller")
    field.fill(customer)
    page.get_by_role("option").first.wait_for()
    field.press("Enter")
    form = page.get_by_role("form", name="New quote")
    site = form.get_by_label("Site", exact=True)
    form.get_by_label("Title").fill(title)
    if site.count():
        site.select_option(index=1)
    form.get_by_role("button", name="Begin the quote").click()
    expect(page.get_by_role("heading", name=title)).to_be_visible()


def add_line(page: Page, letters: str, many: str) -> None:
    """By keyboard: three letters, Enter, how many, Enter."""
    field = page.get_by_label("Add a line")
    field.fill(letters)
    page.get_by_role("listbox", name="Items found").get_by_role("option").first.wait_for()
    field.press("Enter")
    quantity = page.locator("[data-line]").last.locator("[data-quantity]")
    expect(quantity).to_be_focused()
    page.keyboard.type(many)
    page.keyboard.press("Enter")
    expect(field).to_be_focused()


def total(page: Page):
    return page.get_by_role("table", name="Totals").get_by_role("row", name=re.compile("^With tax"))


def save(page: Page) -> None:
    page.keyboard.press("Control+s")
    toast(page, "is saved")


def send(page: Page, email: str = "house@seagate.example") -> str:
    """By e-mail; the address that the customer gets."""
    page.get_by_role("button", name="Show to the customer…").click()
    sheet = page.get_by_role("dialog", name=re.compile("to the customer"))
    sheet.get_by_label(re.compile("^By e-mail")).fill(email)
    sheet.get_by_role("button", name="Send it").click()
    toast(page, f"goes to {email}")
    link = page.get_by_role("region", name="Versions").get_by_role("link", name="as the customer reads it").first
    path = link.get_attribute("href")
    assert path
    return path


def sign(page: Page) -> None:
    form = page.get_by_role("form", name="Approve")
    form.get_by_label("Your name").fill("Marta Vale")
    box = form.get_by_label("Signature").bounding_box()
    assert box
    page.mouse.move(box["x"] + 20, box["y"] + 40)
    page.mouse.down()
    page.mouse.move(box["x"] + 120, box["y"] + 80, steps=6)
    page.mouse.up()
    form.get_by_label("I accept the terms above.").check()
    form.get_by_role("button", name="Approve it").click()
    expect(page.get_by_text(re.compile("Approved by Marta Vale"))).to_be_visible()


def look_at_the_place(phone: Page, survey: Locator, running: RunningWorld) -> None:
    """The survey is placed and sent by the office, and done by whoever goes."""
    visit_id = (survey.get_attribute("href") or "").rsplit("=", 1)[-1]
    office = Session(running.url, DISPATCHER)
    given_to_ines(office, office.call("GET", f"/api/v1/visits/{visit_id}"))
    finish_what_is_under_way(office)
    phone.goto(f"/field/{visit_id}")
    for action in ("Accept", "Set out", "Arrived"):
        phone.get_by_role("button", name=action, exact=True).click()
    phone.get_by_role("button", name="Finish").click()
    phone.get_by_label("What was done?").fill("Opening is 2.40 m wide")
    phone.get_by_role("button", name="Finish").click()
    expect(phone.get_by_text("Done: Opening is 2.40 m wide")).to_be_visible()


def test_from_the_call_to_an_order_that_the_customer_signed(sign_in, customer, running):
    desk = sign_in(INTAKE)
    begin(desk, "Harbourside", "Drive of the loading door")
    add_line(desk, "hour of a lift", "3")
    add_line(desk, "drive belt, 2.5", "1")
    desk.get_by_label("Name, where there are several ways").fill("Repair")
    desk.get_by_role("button", name="Another way").click()
    desk.get_by_label("Name of this way to do it").fill("Replace the drive")
    add_line(desk, "door drive, type m", "1")
    desk.locator("[data-line]").last.get_by_role("checkbox").check()
    ways = desk.get_by_role("list", name="Ways to do it").get_by_role("listitem")
    expect(ways).to_have_count(2)
    save(desk)
    desk.get_by_label("What is to be found out there").fill("Measure the opening")
    desk.get_by_role("button", name="Ask for a visit").click()
    toast(desk, "The survey waits in the backlog")
    surveys = desk.get_by_role("region", name="Surveys")
    expect(surveys).to_contain_text("waits in the backlog")
    look_at_the_place(sign_in(TECHNICIAN, viewport=PHONE), surveys.get_by_role("link").first, running)
    expect(surveys).to_contain_text("Opening is 2.40 m wide")
    expect(surveys).to_contain_text("done")

    path = send(desk)
    customer.goto(path)
    expect(customer.get_by_role("heading", name="Drive of the loading door")).to_be_visible()
    expect(customer.get_by_text("hour cost")).to_have_count(0)
    customer.get_by_role("radio", name="Replace the drive").check()
    before = customer.get_by_role("form", name="Approve").get_by_role("status").inner_text()
    customer.get_by_label(re.compile("Door drive, type M")).check()
    status = customer.get_by_role("form", name="Approve").get_by_role("status")
    expect(status).not_to_have_text(before)
    expect(status).to_have_text(re.compile(r"€[\d,.]+"))
    agreed = status.inner_text()
    sign(customer)
    expect(customer.get_by_text(agreed).first).to_be_visible()

    # Nothing is typed again: it is an order, with all lines at the prices that were signed.
    expect(desk.get_by_text("It is work order")).to_be_visible()
    desk.get_by_text("It is work order").get_by_role("link").click()
    expect(desk.get_by_role("heading", name="Drive of the loading door: Replace the drive")).to_be_visible()
    lines = desk.get_by_role("region", name="Price").get_by_role("list", name="Lines").get_by_role("listitem")
    expect(lines).to_have_count(3)
    expect(total(desk)).to_contain_text(agreed)


def test_by_keyboard_alone_and_its_price_is_made_right_both_ways(sign_in):
    page = sign_in(ADMINISTRATOR)
    begin(page, "Varn Ferries", "Light on the quay")
    add_line(page, "hour of a helper", "4")
    helper = page.get_by_role("region", name="Is the price right?")
    expect(helper).to_contain_text("less than the €72.00 wanted")
    helper.get_by_role("button", name="Raise the prices").press("Enter")
    expect(helper).to_contain_text("at least the €72.00 wanted")
    price = page.locator("[data-line]").last.get_by_label(re.compile("^Price each"))
    expect(price).to_have_value("72.00")
    price.fill("")
    expect(helper).to_contain_text("less than the €72.00 wanted")
    helper.get_by_role("button", name="Plan less labour").press("Enter")
    expect(helper).to_contain_text("at least the €72.00 wanted")
    amount = total(page).text_content()
    assert amount
    save(page)
    page.reload()
    expect(total(page)).to_have_text(amount)
    expect(helper).to_contain_text("at least the €72.00 wanted")


def test_more_work_is_agreed_on_the_phone_at_the_visit(sign_in):
    phone = sign_in(TECHNICIAN, viewport=PHONE)
    phone.locator("ol").get_by_role("link").first.click()
    phone.get_by_role("button", name="Say what it would cost").click()
    phone.get_by_label("What it is called").fill("Two more rollers")
    add_line(phone, "door roller, 40", "2")
    expect(phone.get_by_role("region", name="Is the price right?")).to_have_count(0)
    expect(total(phone)).to_contain_text("€42.92")
    phone.get_by_role("button", name="Show it to the customer").click()
    expect(phone.get_by_role("heading", name="Two more rollers")).to_be_visible()
    sign(phone)
    expect(phone.get_by_text(re.compile("€42.92 with tax")).first).to_be_visible()
    phone.goto("/field")
    phone.locator("ol").get_by_role("link").first.click()
    expect(phone.get_by_role("region", name="Quotes")).to_contain_text("approved")


def test_a_discount_beyond_the_limit_waits_for_a_yes_and_a_refusal_says_why(sign_in, customer):
    desk = sign_in(DISPATCHER)
    begin(desk, "Varn Ferries", "Seals of the ramp")
    add_line(desk, "seal kit, large", "2")
    desk.get_by_role("button", name="Discount on the whole").click()
    desk.get_by_label("Off", exact=True).last.fill("30")
    save(desk)
    expect(desk.get_by_text("It takes 30 % off, and you give 10 %")).to_be_visible()
    desk.get_by_role("button", name="Show to the customer…").click()
    sheet = desk.get_by_role("dialog", name=re.compile("to the customer"))
    sheet.get_by_role("button", name="On paper").click()
    expect(sheet.get_by_text("Somebody who may agree to more has to do so first.")).to_be_visible()
    sheet.get_by_role("button", name="Close").click()

    boss = sign_in(ADMINISTRATOR)
    boss.goto(desk.url)
    boss.get_by_role("button", name="Agree to it").click()
    toast(boss, "You agreed to 30 % off")
    expect(desk.get_by_text("Ada Reyne agreed to 30 % off.")).to_be_visible()
    settled(desk)
    customer.goto(send(desk))
    customer.get_by_role("button", name="No, thank you…").click()
    customer.get_by_label("Your name").first.fill("Piet Ferry")
    customer.get_by_label("Why not?").select_option("too late")
    customer.get_by_role("button", name="Refuse it").click()
    expect(customer.get_by_text(re.compile("Refused by Piet Ferry"))).to_be_visible()
    expect(desk.get_by_text("refused: too late").first).to_be_visible()


def test_what_has_expired_or_was_taken_back_is_no_order(sign_in, customer, running):
    desk = sign_in(DISPATCHER)
    begin(desk, "Varn Ferries", "Lamp on the mole")
    add_line(desk, "car lamp, 8", "3")
    path = send(desk)
    customer.goto(path)
    expect(customer.get_by_role("form", name="Approve")).to_be_visible()
    with psycopg.connect(running.env["DATABASE_URL"], autocommit=True) as connection:
        nonce = path.rsplit("/", 1)[1]
        connection.execute("UPDATE quotes_quoteversion SET valid_until = '2026-11-01' WHERE nonce = %s", [nonce])
    form = customer.get_by_role("form", name="Approve")
    form.get_by_label("Your name").fill("Marta Vale")
    form.get_by_label("I accept the terms above.").check()
    form.get_by_role("button", name="Approve it").click()
    expect(customer.get_by_text("This quote has expired.").first).to_be_visible()

    with psycopg.connect(running.env["DATABASE_URL"], autocommit=True) as connection:
        connection.execute("UPDATE quotes_quoteversion SET valid_until = '2027-11-01' WHERE nonce = %s", [nonce])
    desk.reload()
    desk.get_by_role("button", name="take the address back").click()
    toast(desk, "The address leads nowhere any more")
    customer.reload()
    expect(customer.get_by_text("There is no quote at this address")).to_be_visible()
