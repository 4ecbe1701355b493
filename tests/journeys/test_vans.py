"""Parts on vans, and what visits are worth: seen on the board, put right beside it, taken back by a key."""

import re

import pytest
from playwright.sync_api import Page, expect

from tests.journeys.board import (
    first_easy,
    lane,
    open_tomorrow,
    row_of,
    search_backlog,
    toast,
)
from tests.journeys.conftest import ADMINISTRATOR, DISPATCHER, settled
from tests.journeys.test_absences_and_reminders import person

MISSING = "[data-lane] button[data-visit][aria-label*='parts missing']"


@pytest.fixture
def page(sign_in) -> Page:
    opened: Page = sign_in(DISPATCHER)
    expect(opened.locator("[data-lane] button[data-visit]").first).to_be_visible()
    open_tomorrow(opened)
    return opened


def test_a_missing_part_is_seen_counted_and_the_mark_goes(page):
    marked = page.locator(MISSING).first
    expect(marked).to_be_visible()
    number = marked.get_attribute("data-visit")
    words = marked.get_attribute("aria-label") or ""
    found = re.search(
        r"(\d+) × ([^.]+?) needed, \d+ on the van of ([^.,]+?)(?: and \d+ free at [^.,]+)?(?=[.,]|$)", words
    )
    assert found is not None, words
    part, who = found[2], found[3]
    marked.click()
    details = page.get_by_test_id("details")
    expect(details).to_contain_text(found[0])
    expect(details.get_by_role("region", name="Parts")).to_contain_text(part)
    panel = person(page, who)
    van = panel.get_by_role("region", name="On the van")
    there = van.get_by_label(f"{part} on the van", exact=True)
    before = there.input_value()
    own = page.get_by_label(f"{part} on the van", exact=True)
    expect(van.get_by_role("listitem").filter(has=own)).to_contain_text("takes")
    there.fill("40")
    there.press("Enter")
    toast(page, f"40 × {part} on the van")
    station = page.locator(f"[data-lane] button[data-visit='{number}']")
    expect(station).not_to_have_attribute("aria-label", re.compile("parts missing"))
    expect(there).to_be_focused()  # the next one is a Tab away
    there.evaluate("field => field.blur()")
    page.locator("body").press("Control+z")
    expect(station).to_have_attribute("aria-label", re.compile("parts missing"))
    expect(there).to_have_value(before)


def test_a_part_that_was_not_on_the_list_is_counted_and_taken_off_again(page):
    who = page.locator("[data-lane]").first.locator("xpath=ancestor::*[@role='listitem']").get_attribute("aria-label")
    panel = person(page, who or "")
    van = panel.get_by_role("region", name="On the van")
    form = van.get_by_role("form", name="Count a part")
    form.get_by_label("Part").fill("Brake lining")
    form.get_by_label("How many").fill("x")
    expect(form.get_by_role("button", name="Count")).to_be_disabled()
    form.get_by_label("How many").fill("6")
    form.get_by_role("button", name="Count").click()
    expect(van.get_by_label("Brake lining on the van")).to_have_value("6")
    # Nonsense is said to be, and stays until it is put right; Escape puts back what was there.
    there = van.get_by_label("Brake lining on the van")
    there.fill("many")
    there.press("Enter")
    expect(van.get_by_role("alert")).to_have_text("a whole number")
    expect(there).to_have_value("many")
    there.press("Escape")
    expect(there).to_have_value("6")
    expect(panel).to_be_visible()
    van.get_by_role("button", name="Take Brake lining off the list").click()
    toast(page, "Brake lining taken off the list")
    expect(van.get_by_label("Brake lining on the van")).to_have_count(0)


def test_what_a_visit_takes_and_brings_is_said_beside_the_board(page):
    # Of work that has lines, what it brings follows from them.
    visit, _ = first_easy(page)
    row_of(page, visit).click()
    details = page.get_by_test_id("details")
    form = details.get_by_role("form", name="Edit visit")
    expect(form.get_by_label("Worth")).not_to_be_editable()
    page.keyboard.press("Escape")
    search_backlog(page, "Look and report")
    page.get_by_label("Backlog", exact=True).locator("button[data-visit]").first.click()
    form.get_by_label("Worth").fill("lots")
    form.get_by_role("button", name="Save changes").click()
    expect(form).to_contain_text("Whole money")
    form.get_by_label("Worth").fill("1250")
    form.get_by_label("Parts to take, like: 2 Door roller").fill("2 car lamp\nBrake lining")
    form.get_by_role("button", name="Save changes").click()
    expect(details).to_contain_text("worth €1,250")
    parts = details.get_by_role("region", name="Parts")
    # It goes by the name it has on the vans.
    expect(parts).to_contain_text(re.compile(r"2 ×\s*Car lamp"))
    expect(parts).to_contain_text(re.compile(r"1 ×\s*Brake lining"))
    page.locator("body").press("Control+z")
    expect(details).not_to_contain_text("worth €1,250")


def test_the_hue_tells_what_visits_are_worth(page):
    page.goto(f"{page.url.split('?')[0]}?{page.url.split('?')[1]}&hue=worth")
    expect(page.locator("[data-lane] button[data-visit]").first).to_be_visible()
    settled(page)
    page.locator("body").press("?")
    key = page.get_by_role("dialog", name="Legend")
    expect(key).to_contain_text(re.compile(r"worth 100–249.*worth 250–499", re.DOTALL))
    expect(key).to_contain_text("a part is not on the van")


def test_the_wrong_person_noted_as_ill_is_there_again_after_one_key(page):
    who = page.locator("[data-lane]").nth(2).locator("xpath=ancestor::*[@role='listitem']").get_attribute("aria-label")
    work = lane(page, who or "").locator("button[data-visit]").count()
    panel = person(page, who or "")
    panel.get_by_label("Why").fill("ill")
    panel.get_by_role("button", name="Note as absent").click()
    toast(page, "Noted as absent")
    if work:  # it leads to a plan for what somebody else must do
        expect(page.get_by_test_id("planner")).to_be_visible()
    page.locator("body").press("Control+z")
    panel = person(page, who or "")
    expect(panel.get_by_role("region", name="Absences").get_by_role("listitem")).to_have_count(0)
    assert lane(page, who or "").count() == 1


def test_a_job_type_says_what_it_usually_brings_and_refuses_words(sign_in):
    page = sign_in(ADMINISTRATOR)
    page.goto(f"{page.url.split('/board')[0]}/set-up/job-types")
    page.get_by_text("Noisy door").click()
    form = page.get_by_role("form", name="Job type")
    brings, length = form.get_by_label("Usually brings"), form.get_by_label("Usual length")
    brings.fill("a lot")
    length.fill("soon")
    form.get_by_role("button", name=re.compile("^Save as edition")).click()
    expect(form).to_contain_text("A whole number")
    expect(form).to_contain_text("Minutes, or 1:30")
    expect(brings).to_have_value("a lot")
    brings.fill("130")
    length.fill("45")
    form.get_by_role("button", name=re.compile("^Save as edition")).click()
    toast(page, "Noisy door is at edition")
    page.reload()
    page.get_by_text("Noisy door").click()
    expect(form.get_by_label("Usually brings")).to_have_value("130")
