"""What does not hold is counted once: bar, list and proposal say the same, and what comes is what was said."""

import re

from playwright.sync_api import Page, expect

from tests.journeys.board import toast
from tests.journeys.conftest import DISPATCHER


def broken_in_the_bar(page: Page) -> int:
    found = re.search(r"(\d+)\s+broken", page.get_by_role("status").filter(has_text="visits").first.inner_text())
    assert found is not None
    return int(found[1])


def test_bar_list_and_proposal_count_the_same_and_the_proposal_keeps_its_word(sign_in):
    page = sign_in(DISPATCHER)
    expect(page.locator("[data-lane]").first).to_be_visible()
    expect(page.get_by_text("fetching…")).to_have_count(0)
    count = broken_in_the_bar(page)
    assert count > 0
    page.get_by_role("button", name=re.compile(rf"{count} broken")).click()
    rows = page.get_by_role("dialog", name=f"{count} broken").get_by_role("listitem")
    places = rows.count()
    page.keyboard.press("Escape")
    page.get_by_label("Shown as").select_option("list")
    only = page.get_by_label(re.compile("^Only broken"))
    told = page.get_by_text(re.compile(r"^Only broken \(")).inner_text()
    assert sum(int(number) for number in re.findall(r"(\d+) (?:at|on)", told)) == count
    only.check()
    visits = page.get_by_role("table", name="Visits").get_by_role("row").count() - 1
    whole_days = re.search(r"(\d+) on a day", told)
    assert visits <= places <= visits + (int(whole_days[1]) if whole_days else 0)

    page.get_by_role("button", name="Planner").click()
    planner = page.get_by_test_id("planner")
    planner.get_by_label("Repair").check()
    planner.get_by_label("Think for").select_option("2")
    planner.get_by_role("button", name="Make a proposal").click()
    effect = planner.get_by_label("Effect")
    expect(effect).to_contain_text("Broken on these days")
    said = re.search(r"Broken on these days: (\d+) now, (\d+) then", effect.inner_text())
    assert said is not None
    assert int(said[1]) == count
    planner.get_by_role("button", name=re.compile("^Accept all")).click()
    toast(page, "taken over")
    expect(page.get_by_role("status").filter(has_text="visits").first).to_contain_text(
        re.compile(rf"\b{said[2]}\s*broken")
    )
    page.keyboard.press("Control+z")
    toast(page, "Undone")
