"""A call comes in, a technician finishes the work, the board shows it."""

import re

from playwright.sync_api import expect

from tests.journeys.board import backlog_row, drag_to, lane, search_backlog, station, toast
from tests.journeys.conftest import DISPATCHER, INTAKE, PHONE, TECHNICIAN

TECHNICIAN_NAME = "Ines Falk"


def test_from_the_call_to_done(sign_in):
    intake = sign_in(INTAKE)
    intake.get_by_label("Find the caller").fill("Pebble Yard Bakery")
    intake.get_by_role("button", name="New customer").click()
    intake.get_by_label("Phone", exact=True).fill("+351 296 700 700")
    intake.get_by_label("Who to ask for").first.fill("Nell Rusk")
    intake.get_by_role("combobox", name="Address").fill("millrace raod 22")
    intake.get_by_role("option", name="Millrace Road 22").first.click()
    expect(intake.get_by_text(re.compile(r"^In \w+"))).to_be_visible()
    intake.get_by_role("button", name="Save customer and site").click()
    expect(intake.get_by_text("Contacts: Nell Rusk")).to_be_visible()

    intake.get_by_label("What is wrong").fill("Back door slams")
    intake.get_by_label("Job type").select_option(label="Car light replacement")
    expect(intake.get_by_label("Length")).to_have_value("30")
    expect(intake.get_by_label("Priority")).to_have_value("5")
    intake.get_by_role("button", name="Save as request").click()
    toast(intake, "is among the waiting requests")
    waiting = intake.get_by_label("Waiting requests").get_by_role("listitem").filter(has_text="Back door slams")
    waiting.click()
    expect(intake.get_by_label("What is wrong")).to_have_value("Back door slams")
    expect(intake.get_by_text("Contacts: Nell Rusk")).to_be_visible()
    intake.get_by_role("form", name="Request").get_by_role("button", name="Make work order").click()
    toast(intake, "is in the backlog")

    desk = sign_in(DISPATCHER)
    search_backlog(desk, "Pebble Yard")
    row = backlog_row(desk, "Car light replacement")
    expect(row).to_be_visible()
    drag_to(desk, row, TECHNICIAN_NAME, 15, drop=False)
    verdict = desk.get_by_test_id("verdict")
    expect(verdict).to_contain_text(TECHNICIAN_NAME)
    expect(verdict).to_contain_text(re.compile(r"min more driving"))
    desk.mouse.up()
    toast(desk, "placed: Ines Falk")
    placed = station(desk, TECHNICIAN_NAME, "Millrace Road 22")
    expect(placed).to_be_visible()
    placed.click()
    details = desk.get_by_test_id("details")
    expect(details).to_contain_text("placed, not sent")

    phone = sign_in(TECHNICIAN, viewport=PHONE)
    expect(phone.get_by_role("link", name=re.compile("Millrace Road 22"))).to_have_count(0)
    details.get_by_role("button", name="Send", exact=True).click()
    desk.get_by_role("dialog", name="What is sent").get_by_role("button", name="Send it").click()
    toast(desk, "technician and customer are told")
    # Told at once, without a reload.
    phone.get_by_role("link", name=re.compile("Millrace Road 22")).click()
    _finish_what_is_under_way(desk, phone)

    for action, state in (("Accept", "accepted"), ("Set out", "en route"), ("Arrived", "on site")):
        phone.get_by_role("button", name=action, exact=True).click()
        expect(details).to_contain_text(state)
    phone.get_by_role("button", name="Put on hold").click()
    phone.get_by_label("What are you waiting for?").fill("The baker has the key")
    phone.get_by_role("button", name="Put on hold").click()
    expect(details).to_contain_text("on hold")
    phone.get_by_role("button", name="Go on").click()
    expect(details).to_contain_text("on site")
    phone.get_by_role("button", name="Finish").click()
    phone.get_by_label("What was done?").fill("New closer fitted")
    phone.get_by_role("button", name="Finish").click()
    expect(details).to_contain_text("Done: New closer fitted")
    expect(station(desk, TECHNICIAN_NAME, "Millrace Road 22")).to_have_attribute("aria-label", re.compile("done"))

    desk.get_by_role("link", name="Outbox").click()
    expect(
        desk.get_by_text("New visit Mon").or_(desk.get_by_text(re.compile("New visit .* Car light"))).first
    ).to_be_visible()
    told = (
        desk.get_by_role("row").filter(has_text="Nell Rusk").or_(desk.get_by_role("row").filter(has_text="Pebble Yard"))
    )
    expect(told.filter(has_text="will be with you").first).to_contain_text("delivered")


def _finish_what_is_under_way(desk, phone):
    """The demo's morning may have left the technician on another visit: it is stamped as finished by phone call."""
    busy = lane(desk, TECHNICIAN_NAME).locator("button[data-visit]").filter(visible=True)
    for index in range(busy.count()):
        words = busy.nth(index).get_attribute("aria-label") or ""
        if "en route" not in words and "on site" not in words:
            continue
        here = desk.url
        busy.nth(index).click()
        stamps = desk.get_by_label("Stamp for the technician")
        if "en route" in words:
            stamps.get_by_role("button", name="Arrived").click()
        stamps.get_by_role("button", name="Finished").click()
        stamps.get_by_label("Finished: in a few words").fill("done by phone")
        stamps.get_by_role("button", name="Stamp", exact=True).click()
        expect(desk.get_by_test_id("details")).to_contain_text("Done: done by phone")
        desk.goto(here)
        expect(desk.get_by_test_id("details")).to_contain_text("sent")
