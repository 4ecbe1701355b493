"""What a dispatcher has to do in seconds: fill a gap, absorb a sick call, say how safe a promise is."""

import re
import time
from urllib.parse import urlsplit

import pytest
from playwright.sync_api import Page, expect

from tests.journeys.board import (
    command,
    command_field,
    first_easy,
    free_lane,
    open_tomorrow,
    place_by_keyboard,
    row_of,
    station_of,
    toast,
)
from tests.journeys.conftest import DISPATCHER, settled

PLACED = "[data-lane] button[data-visit]:is([aria-label*='placed, not sent'], [aria-label*='accepted'])"


def length_words(minutes: int) -> str:
    hours, rest = divmod(minutes, 60)
    return f"{rest} min" if not hours else f"{hours} h" + (f" {rest:02d}" if rest else "")


@pytest.fixture
def page(sign_in) -> Page:
    opened: Page = sign_in(DISPATCHER)
    expect(opened.locator("[data-lane] button[data-visit]").first).to_be_visible()
    return opened


def test_a_gap_after_a_cancellation_is_filled_in_under_twenty_seconds(page):
    open_tomorrow(page)
    page.locator(PLACED).first.click()
    began = time.monotonic()
    details = page.get_by_test_id("details")
    details.get_by_role("button", name="Cancel the visit").click()
    details.get_by_label("Why, for us").fill("They are ill")
    # Nothing is told that was not there to be read.
    expect(details.get_by_role("button", name="Cancel it and tell the customer")).to_be_enabled()
    page.keyboard.press("Enter")
    gap = page.get_by_role("region", name="Fill the gap")
    first = gap.get_by_role("list", name="What fits").get_by_role("listitem").first
    expect(first).to_contain_text("min to drive there")
    first.get_by_role("button", name=re.compile(r"^\d\d:\d\d$")).click()
    toast(page, "placed")
    assert time.monotonic() - began < 20
    page.keyboard.press("Control+z")
    toast(page, "Undone")
    page.keyboard.press("Control+z")
    toast(page, "cancelled")


def test_a_sick_call_is_absorbed_in_under_a_minute(page):
    open_tomorrow(page)
    lanes = page.get_by_role("listitem").filter(has=page.locator(PLACED))
    name = lanes.first.get_attribute("aria-label")
    head = page.get_by_role("listitem", name=name, exact=True)
    ours = head.locator("[data-lane] button[data-visit]")
    count = ours.count()
    box = head.locator("[data-lane]").bounding_box()
    assert box is not None
    began = time.monotonic()
    page.mouse.move(box["x"] + 2, box["y"] + 4)
    page.mouse.down()
    page.mouse.move(box["x"] + box["width"] - 4, box["y"] + box["height"] - 4, steps=6)
    page.mouse.up()
    panel = page.get_by_role("region", name="Several visits")
    expect(panel.get_by_role("heading")).to_have_text(re.compile(rf"^{count} visits? chosen"))
    panel.get_by_label("What with them").select_option("unplace")
    expect(panel.get_by_role("list", name="What becomes of them").get_by_role("listitem")).to_have_count(count)
    panel.get_by_role("button", name=re.compile("^Do it to")).click()
    toast(page, "changed")
    expect(ours).to_have_count(0)
    assert time.monotonic() - began < 60
    page.keyboard.press("Control+z")
    expect(ours).to_have_count(count)
    page.keyboard.press("Control+Shift+z")
    expect(ours).to_have_count(0)
    page.keyboard.press("Control+z")
    expect(ours).to_have_count(count)


def test_any_visit_says_how_safe_its_promise_is_and_what_could_come_after_it(page):
    open_tomorrow(page)
    page.locator(f"{PLACED}[aria-label*='promised']").first.click()
    details = page.get_by_test_id("details")
    expect(details).to_contain_text(re.compile(r"promised .*% likely to be kept"))
    details.get_by_role("button", name="What next after it?").click()
    expect(page.get_by_role("region", name="Fill the gap")).to_be_visible()


def test_a_week_is_opened_linked_to_and_left_as_it_was(page):
    page.get_by_label("Days shown").select_option("7")
    expect(page.locator("button[data-day]")).to_have_count(7)
    page.get_by_role("button", name="Drawing").click()
    page.get_by_label("Technicians", exact=True).last.select_option("depot")
    page.keyboard.press("Escape")
    expect(page.get_by_role("heading", name=re.compile(r"^Airfield · \d+"))).to_be_visible()
    assert "span=7" in page.url
    assert "group=depot" in page.url
    page.get_by_role("link", name="Board", exact=True).click()
    expect(page).to_have_url(re.compile("span=7"))
    page.get_by_role("link", name="Orders", exact=True).click()
    expect(page.get_by_role("heading", name="Orders", exact=True)).to_be_visible()
    page.get_by_role("link", name="Board", exact=True).click()
    expect(page.locator("button[data-day]")).to_have_count(7)
    page.locator("button[data-day]").nth(2).click()
    expect(page.locator("button[data-day]")).to_have_count(0)


def test_dropped_on_a_technician_it_takes_the_first_time_that_fits(page):
    open_tomorrow(page)
    visit, _ = first_easy(page)
    who = free_lane(page)
    head = page.get_by_role("listitem", name=who, exact=True).locator("[data-head]")
    head.scroll_into_view_if_needed()
    source, target = row_of(page, visit).bounding_box(), head.bounding_box()
    assert source is not None
    assert target is not None
    page.mouse.move(source["x"] + 10, source["y"] + 10)
    page.mouse.down()
    page.mouse.move(target["x"] + 40, target["y"] + 20, steps=8)
    expect(page.get_by_test_id("verdict")).to_contain_text("first time that fits")
    page.mouse.up()
    toast(page, f"placed: {who}")
    expect(station_of(page, visit)).to_be_visible()
    page.keyboard.press("Control+z")
    expect(station_of(page, visit)).to_have_count(0)


def test_everything_is_found_and_done_from_one_field(page):
    command(page, "show a week")
    expect(page.locator("button[data-day]")).to_have_count(7)
    command_field(page, "ferry terminal")
    expect(page.get_by_role("option").filter(has_text="Varn Ferries").first).to_be_visible()
    page.keyboard.press("Escape")
    page.keyboard.press("?")
    expect(page.get_by_role("dialog", name="Legend")).to_contain_text("find or do anything")


def test_a_length_is_stretched_by_keyboard_and_a_backlog_view_is_kept(page):
    open_tomorrow(page)
    visit, _ = first_easy(page)
    place_by_keyboard(page, visit)
    settled(page)  # the board has looked again: the sign keeps its focus from here on
    station_of(page, visit).press("l")
    slip = page.get_by_role("status").filter(has_text="5 min · Enter saves")
    before = int(slip.locator("b").inner_text())
    page.keyboard.press("ArrowRight")
    page.keyboard.press("ArrowRight")
    expect(slip.locator("b")).to_have_text(str(before + 10))
    page.keyboard.press("Enter")
    toast(page, f"now takes {length_words(before + 10)}")
    page.keyboard.press("Control+z")
    toast(page, "Undone")
    page.keyboard.press("Control+z")
    expect(station_of(page, visit)).to_have_count(0)
    page.get_by_role("button", name="Filter").click()
    page.get_by_label("Priority", exact=True).select_option("2")
    page.get_by_role("button", name="save this view").click()
    page.get_by_label("Name of the view").fill("Pressing ones")
    page.keyboard.press("Enter")
    page.get_by_role("button", name="Remove all filters").click()
    expect(page.get_by_role("button", name="Filter", exact=True)).to_be_visible()
    page.get_by_role("button", name="Pressing ones", exact=True).click()
    expect(page.get_by_role("button", name="Filter · 1")).to_be_visible()
    page.get_by_role("button", name="Remove the view Pressing ones").click()


def test_lanes_and_map_show_the_same_and_a_waiting_visit_is_dropped_on_a_route(page):
    open_tomorrow(page)
    layers = []
    page.on("response", lambda answer: layers.append(answer) if "/roads/map/" in answer.url else None)
    page.get_by_label("Shown as").select_option("both")
    drawing = page.get_by_role("region", name="Map of the board")
    expect(drawing).to_have_attribute("aria-busy", "false")
    settled(page)
    # Land, streets and areas are there: a map of the sea shows signs too.
    assert {(urlsplit(answer.url).path.rsplit("/", 1)[1], answer.status) for answer in layers} == {
        ("land", 200), ("roads", 200), ("areas", 200)
    }  # fmt: skip
    page.locator(PLACED).first.click()
    expect(drawing.locator("..")).to_contain_text(re.compile(r"\d+ min of driving in \d+ drives"))
    number = page.get_by_test_id("details").locator("header .figures").first.inner_text()
    expect(drawing.get_by_role("button", name=re.compile(rf"\b{number}\b"))).to_be_visible()
    page.keyboard.press("Escape")
    page.get_by_label("Shown as").select_option("list")
    expect(page.get_by_role("table", name="Visits").get_by_role("row").nth(3)).to_be_visible()
    page.get_by_role("table", name="Visits").get_by_role("checkbox").nth(1).check()
    expect(page.get_by_role("region", name="Several visits")).to_contain_text("1 visit chosen")
    page.keyboard.press("Escape")
    page.get_by_label("Shown as").select_option("month")
    weeks = page.get_by_role("table", name="How full the weeks are")
    expect(weeks.get_by_role("row").nth(10)).to_be_visible()
    weeks.get_by_role("button", name=re.compile("^Open ")).nth(2).click()
    expect(page.locator("[data-lane]").first).to_be_visible()


def test_what_waits_near_a_visit_is_listed_the_nearest_first(page):
    page.locator("[data-lane] button[data-visit]").first.click()
    page.get_by_test_id("details").get_by_role("button", name="What waits near it?").click()
    expect(page.get_by_role("button", name="Filter · 1")).to_be_visible()
    expect(page.get_by_label("Backlog", exact=True)).to_contain_text(re.compile(r"\d+ of \d+ open"))
