"""Openings, proposals and playbooks, as a dispatcher uses them."""

import re
from collections.abc import Callable

from playwright.sync_api import Page, expect

from tests.journeys.board import (
    go_to,
    open_tomorrow,
    toast,
)
from tests.journeys.conftest import DISPATCHER, INTAKE


def count_of(page: Page, pattern: str) -> int:
    found = re.search(pattern, page.get_by_test_id("planner").inner_text())
    assert found is not None
    return int(found[1])


def until(page: Page, holds: Callable[[], bool], *, seconds: int = 15) -> None:
    """Wait for what the board shows once it has looked again; a busy machine takes its time."""
    for _ in range(seconds * 5):
        if holds():
            return
        page.wait_for_timeout(200)
    assert holds()


def backlog_total(page: Page) -> int:
    text = page.get_by_text(re.compile(r"^\d+ open$|Backlog · \d+ open")).first.inner_text()
    found = re.search(r"(\d+) open", text)
    assert found is not None
    return int(found[1])


def test_a_visit_is_placed_from_its_best_opening_with_its_reasons_read(sign_in):
    page = sign_in(DISPATCHER)
    page.get_by_label("Backlog", exact=True).locator("button[data-visit]").first.click()
    openings = page.get_by_test_id("openings")
    first = openings.get_by_role("listitem").first
    expect(first).to_contain_text("driving")
    expect(first).to_contain_text("Costs")
    openings.get_by_text("technicians cannot take it").click()
    expect(openings.locator("details li").first).to_contain_text(re.compile(r"needed|area|shift|after|Overlaps|break"))
    name = first.locator("b").inner_text()
    first.hover()
    expect(page.get_by_role("listitem", name=name, exact=True)).to_be_visible()
    first.get_by_role("button", name=re.compile("^Place")).click()
    toast(page, "placed")
    expect(page.get_by_test_id("details")).to_contain_text(name)
    page.keyboard.press("Control+z")
    toast(page, "Undone")


def test_gaps_are_filled_in_part_and_taken_back_in_one_step(sign_in):
    page = sign_in(DISPATCHER)
    open_tomorrow(page)
    page.get_by_role("button", name="Planner").click()
    planner = page.get_by_test_id("planner")
    planner.get_by_label("Fill gaps from the backlog").check()
    planner.get_by_label("Think for").select_option("2")
    planner.get_by_role("button", name="Make a proposal").click()
    expect(planner.get_by_role("button", name=re.compile("^Accept all"))).to_be_visible()
    changes = planner.get_by_label("Changes").get_by_role("listitem")
    everything = count_of(page, r"(\d+) changes")
    assert everything == changes.count() > 5
    expect(planner.get_by_label("Effect")).to_contain_text("Visits without a place")
    planner.get_by_role("button", name="Tick none").click()
    for number in range(3):
        changes.nth(number).get_by_role("checkbox").check()
    before = backlog_total(page)
    planner.get_by_role("button", name="Accept 3 ticked").click()
    toast(page, "taken over")
    expect(planner).to_contain_text("Accepted in part")
    until(page, lambda: backlog_total(page) <= before - 1)
    page.keyboard.press("Control+z")
    toast(page, "Undone")
    until(page, lambda: backlog_total(page) == before)


def test_a_run_is_stopped_and_keeps_its_best(sign_in):
    page = sign_in(DISPATCHER)
    open_tomorrow(page)
    page.get_by_role("button", name="Planner").click()
    planner = page.get_by_test_id("planner")
    planner.get_by_label("Plan the open work").check()
    planner.get_by_label("Think for").select_option("60")
    planner.get_by_role("button", name="Make a proposal").click()
    expect(planner.get_by_text("tries so far")).to_be_visible()
    planner.get_by_role("button", name="Stop, keep the best").click()
    expect(planner.get_by_text("Stopped after")).to_be_visible()
    expect(planner.get_by_label("Changes").get_by_role("listitem").first).to_be_visible()


def test_one_technician_s_day_from_the_head_of_the_line(sign_in):
    page = sign_in(DISPATCHER)
    open_tomorrow(page)
    page.get_by_role("button", name="Plan the day of Ines Falk").click()
    planner = page.get_by_test_id("planner")
    expect(planner.get_by_label("Put one day in order")).to_be_checked()
    expect(planner.get_by_label("Whose day").locator("option:checked")).to_have_text("Ines Falk")
    planner.get_by_label("Think for").select_option("2")
    planner.get_by_role("button", name="Make a proposal").click()
    expect(planner.get_by_text(re.compile("Done after"))).to_be_visible()
    page.keyboard.press("Escape")
    expect(planner).to_have_count(0)


def test_a_playbook_is_copied_changed_and_tried_without_changing_anything(sign_in):
    page = sign_in(DISPATCHER)
    expect(page.get_by_label("Backlog", exact=True).locator("button[data-visit]").first).to_be_visible()
    before = backlog_total(page)
    go_to(page, "Playbooks")
    page.get_by_role("button", name="Least driving").click()
    page.get_by_role("button", name="Save as a copy").click()
    toast(page, "made")
    expect(page.get_by_label("Name")).to_have_value("Least driving 2")
    page.get_by_label("Weight of Overtime").fill("7")
    page.get_by_role("checkbox", name=re.compile("^Area")).uncheck()
    page.get_by_role("button", name="Save", exact=True).click()
    toast(page, "saved")
    page.get_by_label("Weight of Overtime").fill("500")
    page.get_by_role("button", name="Save", exact=True).click()
    expect(page.get_by_label("Weight of Overtime")).to_have_js_property("validity.valid", False)
    page.get_by_role("button", name="Discard").click()
    page.get_by_role("button", name="Try it on the board").click()
    expect(page.get_by_test_id("planner")).to_contain_text("Least driving 2")
    expect(page.get_by_role("button", name=re.compile("^Accept all"))).to_be_visible()
    assert backlog_total(page) == before


def test_intake_reads_playbooks_and_cannot_plan(sign_in):
    page = sign_in(INTAKE)
    page.get_by_role("link", name="Board").click()
    expect(page.get_by_test_id("board")).to_be_visible()
    expect(page.get_by_role("button", name="Planner")).to_have_count(0)
    go_to(page, "Playbooks")
    expect(page.get_by_label("Weight of Overtime")).to_be_disabled()
    expect(page.get_by_role("button", name="Save", exact=True)).to_have_count(0)
