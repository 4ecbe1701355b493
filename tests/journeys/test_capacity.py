"""The capacity outlook: each figure leads to the work behind it."""

import re

from playwright.sync_api import expect

from tests.journeys.board import go_to
from tests.journeys.conftest import DISPATCHER


def test_each_figure_opens_the_work_behind_it(sign_in):
    page = sign_in(DISPATCHER)
    go_to(page, "Capacity")
    table = page.get_by_role("table", name="Hours by area and day")
    whole = table.get_by_role("row", name=re.compile("^Whole company"))
    expect(whole).to_be_visible()
    # The company's day is the sum of what its areas have, give or take what rounding does.
    tomorrow = [
        float(re.search(r"-?\d+\.\d", row.get_by_role("cell").nth(1).inner_text()).group(0))
        for row in table.get_by_role("row").all()[1:]
    ]
    assert abs(tomorrow[0] - sum(tomorrow[1:])) < 0.1 * len(tomorrow)
    whole.get_by_role("button", name=re.compile("Thu 26 Nov")).click()
    sheet = page.get_by_role("dialog", name="Whole company, Thu 26 Nov")
    promised = sheet.get_by_role("region", name=re.compile("^Promised without a technician"))
    figure = float(re.search(r": (\d+\.\d) h", promised.get_attribute("aria-label") or "").group(1))
    rows = promised.get_by_role("listitem").all_inner_texts()
    assert rows
    assert abs(sum(float(row.split()[-1]) for row in rows) - figure) < 0.1 * len(rows)
    promised.get_by_role("link").first.click()
    expect(page.get_by_test_id("details")).to_be_visible()
    page.go_back()
    table.get_by_role("row", name=re.compile("^Old Quay")).get_by_role("link").click()
    expect(page.get_by_role("list", name="Only what is")).to_contain_text("nothing promised")
    expect(page.get_by_label("Backlog", exact=True)).to_contain_text(re.compile(r"\d+ of \d+ open"))
