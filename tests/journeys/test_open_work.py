"""Bringing in a file of open work, bad rows and all."""

from pathlib import Path

from playwright.sync_api import expect

from tests.journeys.board import backlog_row, go_to, search_backlog, toast
from tests.journeys.conftest import DISPATCHER

EXAMPLE = Path(__file__).parents[2] / "demo" / "open-work.csv"


def test_the_example_file_is_previewed_and_its_good_rows_brought_in(sign_in):
    page = sign_in(DISPATCHER)
    go_to(page, "Open work")
    page.get_by_label("Choose a file").set_input_files(EXAMPLE)
    preview = page.get_by_label("Preview")
    expect(preview.get_by_role("button", name="Refused 2")).to_be_visible()
    expect(preview.get_by_role("row")).to_have_count(3)
    expect(preview).to_contain_text("address “Nowhere Street 12” is not on the map")
    expect(preview).to_contain_text("unknown job type “Lift stoped”; did you mean Lift stopped?")
    preview.get_by_role("button", name="Accepted 6").click()
    expect(preview).to_contain_text("known customer Varn Ferries, known site Ferry Terminal")
    expect(preview).to_contain_text("new customer Tinder Row Bakery")
    preview.get_by_role("button", name="Bring in 6 visits").click()
    toast(page, "6 visits are in the backlog")
    search_backlog(page, "Tinder Row")
    expect(backlog_row(page, "Bakehouse")).to_be_visible()
    expect(backlog_row(page, "Shop")).to_be_visible()


def test_a_file_that_is_no_table_is_refused_in_words(sign_in, tmp_path):
    page = sign_in(DISPATCHER)
    page.goto("/open-work")
    wrong = tmp_path / "letter.csv"
    wrong.write_text("Dear office,\nplease come.\n")
    page.get_by_label("Choose a file").set_input_files(wrong)
    expect(page.get_by_role("alert")).to_contain_text("missing: customer, description")
