"""A job that is agreed already: one form, one order, and what it becomes is what was shown."""

import re

from playwright.sync_api import expect

from tests.journeys.board import toast
from tests.journeys.conftest import ADMINISTRATOR
from tests.journeys.test_quotes import add_line, total


def test_a_job_over_two_days_by_two_is_made_as_it_was_shown(sign_in):
    page = sign_in(ADMINISTRATOR)
    page.goto("/orders")
    page.get_by_role("link", name="One-off job").click()
    field = page.get_by_label("Find the caller")
    field.fill("Varn Ferries")
    page.get_by_role("option").first.wait_for()
    field.press("Enter")
    site = page.get_by_label("Site", exact=True)
    form = page.get_by_role("form", name="One-off job")
    expect(form.or_(site).first).to_be_visible()
    if site.count() and not form.count():
        site.select_option(index=1)
    form.get_by_label("Title").fill("New lights on the quay")
    form.get_by_label("What is to be done").fill("Twelve posts, wired and tested.")
    form.get_by_label("Note to the technician").fill("Tide tables in the office.")
    form.get_by_label("Text on the invoice").fill("Quay lighting as agreed")
    form.get_by_label("People").fill("2")
    form.get_by_label("Over days").fill("2")
    form.get_by_role("button", name="As such work usually costs").or_(form.get_by_label("Add a line")).first.wait_for()
    add_line(page, "hour of a helper", "16")
    form.get_by_role("button", name=re.compile("^Set the length to 8:00")).click()
    visits = form.get_by_role("list", name="Visits it becomes").get_by_role("listitem")
    expect(visits).to_have_text([re.compile(f"day {day} · 4 h · 2 people") for day in (1, 2)])
    amount = total(page).text_content()
    assert amount
    form.get_by_role("button", name="Make the order").click()
    toast(page, "is in the backlog")

    expect(page.get_by_role("heading", name="New lights on the quay")).to_be_visible()
    expect(total(page)).to_have_text(amount)
    rows = page.get_by_role("region", name="Visits").get_by_role("listitem")
    expect(rows.filter(has_text="day 1").first).to_be_visible()
    expect(rows.filter(has_text="day 2").first).to_be_visible()
    for words in ("Twelve posts, wired and tested.", "Tide tables in the office.", "Quay lighting as agreed"):
        expect(page.get_by_text(words).first).to_be_visible()
