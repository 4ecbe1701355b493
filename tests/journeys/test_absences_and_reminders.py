"""What a dispatcher does with a day besides placing visits: absences, crews, reminders, locks, sending, proposals."""

import re

import pytest
from playwright.sync_api import Locator, Page, expect

from tests.journeys.board import (
    backlog_row,
    command,
    drag_to,
    first_easy,
    free_lane,
    into_the_middle,
    lane,
    open_tomorrow,
    row_of,
    say_why_if_asked,
    search_backlog,
    station_of,
    toast,
)
from tests.journeys.conftest import ADMINISTRATOR, DISPATCHER, SECOND, settled


@pytest.fixture
def page(sign_in) -> Page:
    opened: Page = sign_in(DISPATCHER)
    expect(opened.locator("[data-lane] button[data-visit]").first).to_be_visible()
    open_tomorrow(opened)
    return opened


def person(page: Page, name: str) -> Locator:
    """All about a technician, beside the board."""
    lane(page, name).locator("[data-head]").get_by_role("button").first.click()
    panel = page.get_by_test_id("person")
    expect(panel.get_by_role("heading", level=2)).to_have_text(name)
    return panel


def busiest(page: Page) -> str:
    """Whoever has most that nobody has set out for."""
    expect(page.locator("[data-lane] button[data-visit]").first).to_be_visible()
    page.wait_for_timeout(1000)  # lanes are drawn one after the other
    rows = page.get_by_role("listitem").filter(has=page.locator("[data-lane] button[data-visit]"))
    counts = {
        row.get_attribute("aria-label") or "": row.locator("button[data-visit]:not([aria-label*='crew of'])").count()
        for row in rows.all()
    }
    return max(counts, key=lambda name: counts[name])


def test_somebody_is_ill_and_their_visits_find_others(page):
    who = busiest(page)
    ours = lane(page, who).locator("[data-lane] button[data-visit]")
    count = ours.count()
    panel = person(page, who)
    panel.get_by_label("Why").fill("ill")
    panel.get_by_role("button", name="Note as absent").click()
    toast(page, "Noted as absent")
    # Straight to a plan for exactly these, with what it costs and who is to be called.
    planner = page.get_by_test_id("planner")
    accept = planner.get_by_role("button", name=re.compile("^Accept"))
    expect(accept).to_be_visible()
    expect(planner.get_by_label("What it comes to").first).to_be_visible()
    accept.click()
    toast(page, "taken over")
    expect(ours).not_to_have_count(count)
    page.keyboard.press("Control+z")
    expect(ours).to_have_count(count)
    panel = person(page, who)
    expect(panel.get_by_role("region", name="Absences")).to_contain_text("all day: ill")
    panel.get_by_role("button", name="There after all").click()
    toast(page, "There after all")
    expect(panel.get_by_role("region", name="Absences").get_by_role("listitem")).to_have_count(0)


def test_a_reminder_hangs_on_the_line_until_it_is_done_with(page):
    who = free_lane(page)
    panel = person(page, who)
    form = panel.get_by_role("form", name="Remind")
    form.get_by_label("At").fill("11:20")
    form.get_by_label("Think of").fill("Loan van from the garage")
    form.get_by_role("button", name="Remind").click()
    flag = lane(page, who).get_by_role("button", name="Reminder 11:20: Loan van from the garage")
    expect(flag).to_be_visible()
    panel.get_by_label("Done: Loan van from the garage").check()
    expect(lane(page, who).get_by_role("button", name="Done: 11:20: Loan van from the garage")).to_be_visible()
    panel.get_by_role("button", name="Remove the reminder: Loan van from the garage").click()
    expect(lane(page, who).locator("[data-reminder]")).to_have_count(0)


def test_directions_and_papers_of_a_technicians_day(page):
    panel = person(page, busiest(page))
    panel.get_by_text("Directions", exact=True).click()
    drives = panel.get_by_role("list", name="Drives of the day")
    expect(drives.get_by_role("listitem").first).to_contain_text(re.compile(r"Head \S+ on \w+"))
    expect(drives).to_contain_text("depot")
    for words in ("Route sheet (PDF)", "Work orders (PDF)"):
        address = panel.get_by_role("link", name=words).get_attribute("href")
        answer = page.request.get(address)
        assert (answer.status, answer.headers["content-type"]) == (200, "application/pdf")


def test_what_is_dropped_on_a_crews_line_is_placed_with_all_of_them(page):
    visit, _ = first_easy(page)
    page.goto(page.url + "&group=crew")
    crew = page.get_by_role("listitem", name="Crew Riggers")
    expect(crew).to_be_visible()
    search_backlog(page, "light")
    drag_to(page, row_of(page, visit), "Crew Riggers", 16, drop=False)
    expect(page.get_by_test_id("verdict")).to_contain_text("Edda Tarn + Tilda Ferrow")
    page.mouse.up()
    say_why_if_asked(page)
    toast(page, "placed")
    expect(crew.locator(f"button[data-visit='{visit}']")).to_have_attribute("aria-label", re.compile("crew of 2"))
    for name in ("Edda Tarn", "Tilda Ferrow"):
        expect(lane(page, name).locator(f"button[data-visit='{visit}']").first).to_be_visible()
    page.keyboard.press("Control+z")
    expect(station_of(page, visit)).to_have_count(0)
    expect(row_of(page, visit)).to_be_visible()


def test_who_often_goes_together_is_made_a_crew_and_dissolved_again(page):
    command(page, "crews")
    dialog = page.get_by_role("dialog", name="Crews")
    suggested = dialog.get_by_role("list", name="Often together").get_by_role("listitem").first
    expect(suggested).to_contain_text("7 visits")
    suggested.get_by_role("button", name="Make it a crew").click()
    dialog.get_by_label("Name").fill("Night pair")
    dialog.get_by_role("button", name="Let lead").click()
    dialog.get_by_role("button", name="Save the crew").click()
    kept = dialog.get_by_role("list", name="Standing crews")
    expect(kept).to_contain_text("Night pair")
    dialog.get_by_role("button", name="Dissolve Night pair").click()
    toast(page, "dissolved")
    expect(kept).not_to_contain_text("Night pair")


def test_messages_are_read_before_they_are_sent(page):
    visit, _ = first_easy(page)
    drag_to(page, row_of(page, visit), free_lane(page), 10)
    say_why_if_asked(page)
    toast(page, "placed")
    station_of(page, visit).click()
    page.get_by_test_id("details").get_by_role("button", name="Send", exact=True).click()
    sheet = page.get_by_role("dialog", name="What is sent")
    expect(sheet.get_by_role("list", name="Messages")).to_contain_text(re.compile(r"push to .*New visit"))
    expect(sheet.get_by_role("list", name="Messages")).to_contain_text(re.compile(r"text to .*will be with you"))
    page.keyboard.press("Escape")
    expect(station_of(page, visit)).to_have_attribute("aria-label", re.compile("placed, not sent"))
    page.get_by_test_id("details").get_by_role("button", name="Send", exact=True).click()
    sheet.get_by_role("button", name="Send it").click()
    toast(page, "technician and customer are told")
    expect(station_of(page, visit)).to_have_attribute("aria-label", re.compile(r"\. sent\."))


def test_a_whole_day_is_locked_in_one_press_and_unlocked_by_undo(page):
    page.get_by_role("button", name="The whole day").click()
    page.get_by_role("menuitem", name="Lock everything that is placed").click()
    toast(page, "locked")
    stations = page.locator("[data-lane] button[data-visit]")
    expect(stations.and_(page.locator("[aria-label*='locked']"))).to_have_count(stations.count())
    page.keyboard.press("Control+z")
    toast(page, "Undone")  # seventy visits go back one by one
    expect(stations.and_(page.locator("[aria-label*='locked']"))).to_have_count(0)


def test_several_are_dragged_at_once_and_what_becomes_of_each_is_read_first(page):
    who = busiest(page)
    ours = lane(page, who).locator("[data-lane] button[data-visit]")
    into_the_middle(ours.first)
    first, second = ours.nth(0), ours.nth(1)
    before = [one.get_attribute("aria-label") for one in (first, second)]
    for one in (first, second):
        one.click(modifiers=["Shift"], position={"x": 4, "y": 8})
    many = page.get_by_role("region", name="Several visits")
    expect(many.get_by_role("heading")).to_have_text("2 visits chosen")
    target = next(name for name in names_of(page) if name != who)
    drag_to(page, first, target, 14, drop=False)
    expect(page.get_by_test_id("verdict")).to_contain_text("2 visits at once")
    page.mouse.up()
    expect(many.get_by_label("What with them")).to_have_value("shift")
    outcomes = many.get_by_role("list", name="What becomes of them").get_by_role("listitem")
    expect(outcomes).to_have_count(2)
    expect(outcomes.first).to_contain_text(re.compile(f"goes to {target}|needs a reason|stays as it is"))
    page.keyboard.press("Escape")
    expect(many).to_have_count(0)
    assert [one.get_attribute("aria-label") for one in (ours.nth(0), ours.nth(1))] == before


def names_of(page: Page) -> list[str]:
    rows = page.get_by_role("listitem").filter(has=page.locator("[data-lane]"))
    return [row.get_attribute("aria-label") or "" for row in rows.all()]


def test_places_that_fit_are_marked_while_a_visit_is_held(page):
    search_backlog(page, "light")
    row = backlog_row(page, "Millrace Building 2")  # nothing was promised: it fits in many places
    drag_to(page, row, free_lane(page), 10, drop=False)
    expect(page.locator("[data-mark]").first).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.locator("[data-mark]")).to_have_count(0)
    page.mouse.up()
    expect(row).to_be_visible()


def test_a_proposal_stands_on_the_lines_until_it_is_accepted(page):
    page.get_by_label("Shown as").select_option("both")
    page.get_by_role("button", name="Planner").click()
    planner = page.get_by_test_id("planner")
    planner.get_by_label("Think for").select_option("2")
    planner.get_by_role("button", name="Make a proposal").click()
    expect(planner.get_by_role("button", name=re.compile("^Accept all"))).to_be_visible()
    ghosts = page.locator("[data-ghost]")
    expect(ghosts.first).to_be_visible()
    expect(page.get_by_text("as proposed")).to_be_visible()
    planner.get_by_role("button", name="Tick none").click()
    expect(ghosts).to_have_count(0)
    planner.get_by_label("Changes").get_by_role("checkbox").first.check()
    expect(ghosts).to_have_count(1)
    visit = ghosts.get_attribute("data-ghost")
    planner.get_by_role("button", name="Accept 1 ticked").click()
    toast(page, "taken over")
    expect(ghosts).to_have_count(0)
    expect(page.locator(f"[data-lane] button[data-visit='{visit}']")).to_be_visible()
    page.keyboard.press("Control+z")
    expect(page.locator(f"[data-lane] button[data-visit='{visit}']")).to_have_count(0)


def test_an_undo_that_another_dispatcher_overtook_says_who_and_what(sign_in, page):
    visit, _ = first_easy(page)
    drag_to(page, row_of(page, visit), free_lane(page), 10)
    say_why_if_asked(page)
    toast(page, "placed")
    other = sign_in(SECOND)
    open_tomorrow(other)
    station_of(other, visit).focus()
    other.keyboard.press("Delete")
    expect(station_of(page, visit)).to_have_count(0)
    page.keyboard.press("Control+z")
    toast(page, "has gone on since: Milo Tarn put it back in the backlog")


def test_a_day_from_morning_to_evening_without_the_pointer(page):
    """Find, place, lengthen, look what comes next, lock, send, undo, look ahead: nothing is clicked."""
    page.keyboard.press("/")
    page.keyboard.type("light")
    row = page.get_by_label("Backlog", exact=True).locator("button[data-visit]", has_text="Car light replacement").first
    expect(row).to_be_visible()
    settled(page)
    visit = int(row.get_attribute("data-visit"))
    while page.evaluate("document.activeElement?.dataset?.visit ?? ''") != str(visit):
        page.keyboard.press("Tab")
    page.keyboard.press("m")
    page.get_by_test_id("verdict").locator("li").first.wait_for()
    for _ in range(4):
        page.keyboard.press("ArrowRight")
    page.keyboard.press("ArrowDown")
    page.get_by_test_id("verdict").locator("li").first.wait_for()
    page.keyboard.press("Enter")
    say_why_if_asked(page)
    toast(page, "placed")
    command(page, "by depot")
    expect(page.get_by_role("heading", name=re.compile(r"^Airfield · \d+"))).to_be_visible()
    command(page, "technicians: together")
    placed = station_of(page, visit)
    expect(placed).to_be_visible()
    settled(page)
    placed.focus()
    page.keyboard.press("Enter")
    expect(page.get_by_test_id("details")).to_be_visible()
    page.keyboard.press("n")
    expect(page.get_by_role("region", name="Fill the gap")).to_be_visible()
    page.keyboard.press("Escape")
    page.keyboard.press("Escape")
    page.keyboard.press("g")
    expect(page.get_by_role("region", name="Fill the gap")).to_be_visible()
    page.keyboard.press("Escape")
    command(page, "send everything")
    toast(page, "visits sent")
    expect(placed).to_have_attribute("aria-label", re.compile(r"\. sent\."))
    command(page, "show a week")
    expect(page.locator("button[data-day]")).to_have_count(7)
    page.keyboard.press("]")
    expect(page.locator("button[data-day]").first).not_to_contain_text("24 Nov")
    page.keyboard.press("t")
    expect(page.locator("button[data-day]").first).to_be_visible()


def test_a_holiday_is_set_up_and_seen_on_the_board(sign_in):
    admin = sign_in(ADMINISTRATOR)
    admin.goto("/set-up/holidays")
    kept = admin.get_by_role("list", name="Holidays")
    expect(kept).to_contain_text("Harbour day")
    form = admin.get_by_role("form", name="Add a holiday")
    form.get_by_label("Day").fill("2027-04-01")
    form.get_by_label("Name").fill("Lantern day")
    form.get_by_role("button", name="Add").click()
    expect(kept).to_contain_text("Lantern day")
    admin.goto("/board?day=2027-04-01")
    expect(admin.get_by_text("Lantern day: nobody has a shift")).to_be_visible()
    admin.goto("/set-up/holidays")
    admin.get_by_role("button", name="Remove Lantern day").click()
    expect(kept).not_to_contain_text("Lantern day")
