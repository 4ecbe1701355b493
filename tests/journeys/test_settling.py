"""A visit that stands on another day than promised: the promise is settled before anybody is told."""

import re

from playwright.sync_api import expect

from tests.journeys.board import row_of, say_why_if_asked, station_of, toast
from tests.journeys.conftest import DISPATCHER


def test_another_day_than_promised_is_settled_before_it_is_sent(sign_in):
    page = sign_in(DISPATCHER)
    # Promised for tomorrow: its row says the day.
    row = page.get_by_label("Backlog", exact=True).locator("button[data-visit]", has_text=re.compile(r"Thu 26 Nov \d"))
    visit = int(row.first.get_attribute("data-visit") or 0)
    details = page.get_by_test_id("details")
    row_of(page, visit).click()
    place = details.get_by_role("form", name="Placement")
    place.get_by_label("Technician").select_option(label="Tomas Ferrow")
    place.get_by_label("Day").fill("25.11")
    place.get_by_label("Start").fill("1500")
    place.get_by_label("Why all the same").fill("They asked for somebody sooner")
    place.get_by_role("button", name="Place", exact=True).click()
    say_why_if_asked(page)
    toast(page, "placed")
    expect(station_of(page, visit)).to_be_visible()
    details.get_by_role("button", name="Send", exact=True).click()
    sheet = page.get_by_role("dialog", name="What is sent")
    settle = sheet.get_by_role("group", name=re.compile("^Promise of"))
    expect(settle).to_contain_text(re.compile(r"Promised Thu 26 Nov .*, placed Wed 25 Nov 15:00"))
    expect(sheet.get_by_role("button", name="Settle the promise")).to_be_disabled()
    settle.get_by_label(re.compile("^The customer agreed: promise Wed 25 Nov")).check()
    text = sheet.get_by_role("list", name="Messages").inner_text()
    assert "Wed 25 Nov" in text.split("text to")[-1]
    sheet.get_by_role("button", name="Send it").click()
    toast(page, "sent: technician and customer are told")
    expect(details).to_contain_text("sent")
    expect(station_of(page, visit)).to_have_attribute("aria-label", re.compile(r"promised 14:00–17:00"))
