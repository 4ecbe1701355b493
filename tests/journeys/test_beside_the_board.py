"""What stands beside the board: why a visit is where it is, urgent work, messages, the map, the planner's scope."""

import re

import pytest
from playwright.sync_api import Page, expect

from tests.journeys.board import (
    command,
    first_easy,
    free_lane,
    open_tomorrow,
    place_by_keyboard,
    row_of,
    say_why_if_asked,
    search_backlog,
    station_of,
    toast,
)
from tests.journeys.conftest import DISPATCHER, PHONE, TECHNICIAN, settled

PROMISED = (
    "[data-lane] button[data-visit][aria-label*='promised']:is([aria-label*='not sent'], [aria-label*='accepted'])"
)


@pytest.fixture
def page(sign_in) -> Page:
    opened: Page = sign_in(DISPATCHER)
    expect(opened.locator("[data-lane] button[data-visit]").first).to_be_visible()
    return opened


def test_any_visit_says_why_it_stands_there_and_how_far_it_could_go(page):
    open_tomorrow(page)
    page.locator(PROMISED).first.click()
    why = page.get_by_test_id("why")
    expect(why).to_contain_text(re.compile(r"(more|less) driving"))
    expect(why).to_contain_text(re.compile(r"Not sooner: |Could begin .* sooner; then "))
    expect(why).to_contain_text(re.compile(r"Not later: |Could begin .* later"))
    expect(why).to_contain_text(re.compile(r"Begins (at|between) \d\d:\d\d"))
    page.get_by_role("navigation", name="Parts of the details").get_by_role("button", name="Change").click()
    expect(page.get_by_role("form", name="Edit visit").get_by_label("Length")).to_be_in_viewport()


def test_a_hand_s_decision_is_told_with_its_visit(page):
    open_tomorrow(page)
    visit, _ = first_easy(page)
    place_by_keyboard(page, visit)
    station_of(page, visit).click()
    expect(page.get_by_test_id("why")).to_contain_text(re.compile(r"Dora Quill placed it to .*, \d\d:\d\d"))
    page.keyboard.press("Control+z")
    toast(page, "Undone")
    expect(page.get_by_test_id("why")).to_have_count(0)


def test_urgent_work_is_given_at_once_and_the_phone_says_so(page, sign_in):
    visit, site = first_easy(page)
    row_of(page, visit).click()
    details = page.get_by_test_id("details")
    number = details.locator("p.figures, p .figures").first.inner_text()
    details.get_by_role("button", name="Who can be there first?").click()
    people = details.get_by_role("list", name="Who can be there first")
    expect(people.get_by_role("listitem").first).to_contain_text("min to drive")
    more = details.get_by_role("button", name=re.compile(r"^\d+ more$")).first
    more.click()
    ines = people.get_by_role("listitem").filter(has_text="Ines Falk")
    ines.get_by_role("button", name=re.compile("^Give")).click()
    told = details.get_by_text("Given and told to the phone.")
    decide = ines.get_by_role("form", name="What gives way").get_by_role("button", name=re.compile("^Give it"))
    because = ines.get_by_label("Why all the same")
    expect(decide.or_(told)).to_be_visible()
    if decide.is_visible() and not because.is_visible():
        decide.click()
    expect(because.or_(told)).to_be_visible()
    if because.is_visible():
        because.fill("They are stuck")
        page.keyboard.press("Enter")
    expect(told).to_be_visible()
    expect(page.get_by_test_id("why")).to_be_visible()  # the visit has a place now, and what was said stays
    expect(told).to_be_visible()
    phone = sign_in(TECHNICIAN, viewport=PHONE)
    phone.goto("/field")
    expect(phone.get_by_role("link").filter(has_text=site).filter(has_text="sent")).to_be_visible()
    page.goto("/outbox")
    expect(page.get_by_role("row").filter(has_text=number).filter(has_text="Ines Falk").first).to_be_visible()
    page.goto("/board")
    page.locator("[data-lane] button[data-visit]").first.wait_for()
    command(page, "undo")
    toast(page, "Undone")


def test_a_few_words_reach_the_customer_from_the_details(page):
    open_tomorrow(page)
    page.locator(PROMISED).first.click()
    details = page.get_by_test_id("details")
    details.get_by_role("button", name="Write to the customer").click()
    details.get_by_role("textbox", name=re.compile("^To ")).fill("We bring the long ladder.")
    details.get_by_role("button", name="Send these words").click()
    toast(page, "Written to")
    expect(details).to_contain_text(re.compile(r"wrote to .* “We bring the long ladder\.”"))
    page.goto("/outbox")
    expect(page.get_by_text("We bring the long ladder.")).to_be_visible()


def test_what_fits_a_gap_wears_the_same_numbers_on_the_map(page):
    open_tomorrow(page)
    page.get_by_label("Shown as").select_option("both")
    page.keyboard.press("g")
    fits = page.get_by_role("region", name="Fill the gap").get_by_role("list", name="What fits")
    first = fits.get_by_role("listitem").first
    title = first.locator("span.font-semibold").first.inner_text()
    drawing = page.get_by_role("region", name="Map of the board")
    expect(drawing.get_by_role("button", name=re.compile(rf"^1\. {re.escape(title)}.*fits the gap"))).to_be_visible(
        timeout=25_000
    )
    expect(page.get_by_text(re.compile(r"min of driving in \d+ drives"))).to_be_visible()
    command(page, "show lanes")
    expect(drawing).to_have_count(0)


def test_a_site_on_the_map_says_whose_it_is_and_what_waits_near(page):
    page.get_by_label("Shown as").select_option("map")
    drawing = page.locator("[data-map][aria-busy=false]")
    expect(drawing).to_be_visible(timeout=25_000)
    with page.expect_response(lambda answer: answer.url.endswith("/sites/on-map")):
        page.get_by_label("sites", exact=True).check()
    canvas = drawing.locator("canvas").bounding_box()
    assert canvas is not None
    card = page.get_by_role("region", name=re.compile("^Site "))
    # Hundreds of sites: somewhere in the middle there is one under the pointer.
    for step in range(200):
        right, down = step % 20, step // 20
        page.mouse.click(canvas["x"] + 260 + 17 * right, canvas["y"] + 330 + 23 * down)
        if card.count():
            break
    expect(card).to_be_visible()
    expect(card.get_by_role("link")).to_be_visible()
    card.get_by_role("button", name="What waits near it?").click()
    expect(page.get_by_role("button", name="take the circle away")).to_be_visible()
    expect(page.get_by_role("button", name="Filter · 1")).to_be_visible()
    page.get_by_role("button", name="take the circle away").click()


def test_the_open_work_of_one_area_is_planned(page):
    open_tomorrow(page)
    search_backlog(page, "")
    page.get_by_role("button", name="Planner", exact=True).click()
    planner = page.get_by_test_id("planner")
    planner.get_by_label("Plan the open work").check()
    planner.get_by_label("What waits in").select_option("Millrace")
    planner.get_by_label("Think for").select_option("2")
    planner.get_by_role("button", name="Make a proposal").click()
    effect = planner.get_by_role("table", name="What it comes to")
    expect(effect).to_contain_text("Visits without a place")
    expect(planner.get_by_role("region", name="Changes").get_by_role("listitem").first).to_be_visible()
    page.keyboard.press("Escape")


def test_the_best_opening_is_one_key_away(page):
    open_tomorrow(page)
    visit, _ = first_easy(page)
    row_of(page, visit).focus()
    page.keyboard.press("Enter")
    place = page.get_by_test_id("openings").get_by_role("button", name=re.compile("^Place: ")).first
    expect(place).to_be_visible()
    page.keyboard.press("o")
    expect(place).to_be_focused()
    page.keyboard.press("Enter")
    say_why_if_asked(page)
    toast(page, "placed")
    page.keyboard.press("Control+z")
    toast(page, "Undone")


def test_the_visit_one_looks_at_is_locked_from_the_command_field(page):
    open_tomorrow(page)
    page.locator(PROMISED).first.click()
    details = page.get_by_test_id("details")
    expect(details.get_by_role("button", name="Lock", exact=True)).to_be_visible()
    command(page, "lock it where")
    expect(details.get_by_role("button", name="Unlock", exact=True)).to_be_visible()
    command(page, "unlock it")
    expect(details.get_by_role("button", name="Lock", exact=True)).to_be_visible()


def test_heads_say_skills_and_areas_where_one_wants_them(page):
    who = free_lane(page)
    head = page.get_by_role("listitem", name=who, exact=True).locator("[data-head]")
    expect(head).to_contain_text(re.compile(r"free|over|absent"))
    before = head.bounding_box()
    command(page, "skills and areas")
    assert "heads=wide" in page.url
    settled(page)
    after = head.bounding_box()
    assert before is not None
    assert after is not None
    assert after["width"] > before["width"] + 100
    page.reload()
    expect(page.get_by_role("listitem", name=who, exact=True)).to_be_visible()
    assert "heads=wide" in page.url


def test_five_weeks_count_driving_and_open_a_day(page):
    page.get_by_label("Shown as").select_option("month")
    weeks = page.get_by_role("table", name="How full the weeks are")
    first = weeks.get_by_role("row").filter(has_text="Greta Oakes").get_by_role("cell").first
    expect(first).to_have_attribute("title", re.compile(r"of work and .* of driving in"))
    weeks.get_by_role("button", name=re.compile("^Open ")).nth(3).click()
    expect(page.get_by_label("Shown as")).to_have_value("lanes")
    expect(page.locator("[data-lane]").first).to_be_visible()
