"""The board by pointer and by keyboard, alone and with others."""

import re

import pytest
from playwright.sync_api import expect

from tests.journeys.board import (
    backlog_row,
    drag_onto,
    drag_to,
    first_easy,
    free_lane,
    lane,
    open_tomorrow,
    row_of,
    say_why_if_asked,
    search_backlog,
    send_everything,
    station_of,
    toast,
)
from tests.journeys.conftest import DISPATCHER, INTAKE, PHONE, SECOND, TECHNICIAN, settled


def test_drag_in_move_undo_and_drag_back(sign_in):
    page = sign_in(DISPATCHER)
    open_tomorrow(page)
    visit, _ = first_easy(page)
    who = free_lane(page)
    drag_to(page, row_of(page, visit), who, 9)
    say_why_if_asked(page)
    toast(page, "placed")
    expect(station_of(page, visit)).to_be_visible()
    expect(row_of(page, visit)).to_have_count(0)
    expect(station_of(page, visit)).to_have_attribute("aria-label", re.compile("placed, not sent"))

    settled(page)  # as it was kept: with the length that whoever does it takes
    before = station_of(page, visit).bounding_box()
    hours = re.search(r"\d\d:\d\d to \d\d:\d\d", station_of(page, visit).get_attribute("aria-label") or "")
    assert hours is not None
    drag_to(page, station_of(page, visit), who, 11)
    say_why_if_asked(page)
    expect(page.locator("[data-sonner-toast]", has_text=re.compile(r" 1[01]:\d\d"))).to_be_visible()
    expect(station_of(page, visit)).to_have_attribute("aria-label", re.compile(r"\. 1[012]:"))
    assert station_of(page, visit).bounding_box()["x"] > before["x"] + 50

    page.keyboard.press("Control+z")
    toast(page, "Undone")
    # To the minute: it had been moved to 10:55, and a looser look would be content before it is back.
    expect(station_of(page, visit)).to_have_attribute("aria-label", re.compile(hours[0]))

    drag_onto(page, station_of(page, visit), page.get_by_label("Backlog", exact=True))
    toast(page, "back in the backlog")
    expect(row_of(page, visit)).to_be_visible()
    expect(station_of(page, visit)).to_have_count(0)


def test_everything_a_drag_does_the_keyboard_does(sign_in):
    page = sign_in(DISPATCHER)
    open_tomorrow(page)
    visit, _ = first_easy(page)
    row_of(page, visit).focus()
    page.keyboard.press("m")
    verdict = page.get_by_test_id("verdict")
    expect(verdict).to_contain_text("Enter places")
    expect(verdict).to_contain_text("allowed place 1 of")
    first = verdict.locator("div").first.inner_text()
    page.keyboard.press("ArrowDown")
    page.keyboard.press("ArrowRight")
    page.keyboard.press("ArrowRight")
    expect(verdict.locator("div").first).not_to_have_text(first)
    expect(verdict).to_contain_text("driving")
    who = verdict.locator("span").first.inner_text()
    page.keyboard.press("Enter")
    say_why_if_asked(page)
    toast(page, f"placed: {who}")
    here = station_of(page, visit)
    expect(lane(page, who).locator(f"button[data-visit='{visit}']")).to_be_visible()
    here.focus()
    page.keyboard.press("Enter")
    expect(page.get_by_test_id("details")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.get_by_test_id("details")).to_have_count(0)
    here.focus()
    page.keyboard.press("Delete")
    toast(page, "back in the backlog")
    expect(here).to_have_count(0)


def test_the_keys_begin_at_an_allowed_place_inside_the_promise_and_jump_between_them(sign_in):
    """What is called allowed is placed without a question, and starts inside what was promised."""
    page = sign_in(DISPATCHER)
    open_tomorrow(page)
    window = re.compile(r"(\d\d:\d\d)–(\d\d:\d\d)")
    rows = page.get_by_label("Backlog", exact=True).locator("button[data-visit]", has_text=window)
    # What is promised for the day shown is said without it.
    rows = rows.filter(has_not_text=re.compile(r"(Mon|Tue|Wed|Thu|Fri) \d"))
    verdict = page.get_by_test_id("verdict")
    for row in rows.all():
        promised = window.search(row.inner_text())
        visit = int(row.get_attribute("data-visit") or 0)
        row.focus()
        page.keyboard.press("m")
        expect(verdict).to_contain_text(re.compile(r"allowed place 1 of|no place is allowed"))
        if re.search(r"allowed place 1 of ([2-9]|\d\d)", verdict.inner_text()):
            break
        page.keyboard.press("Escape")
    expect(verdict).to_contain_text("allowed place 1 of")
    assert promised is not None
    seen = set()
    for number in (2, 3):
        seen.add(verdict.locator("div").first.inner_text())
        assert promised[1] <= verdict.locator("time").inner_text() <= promised[2]
        page.keyboard.press("Tab")
        expect(verdict).to_contain_text(re.compile(rf"allowed place ({number}|1) of"))
    page.keyboard.press("Shift+Tab")
    assert len(seen) == 2
    expect(verdict.get_by_label("refused")).to_have_count(0)
    expect(verdict.get_by_label("asks for a reason")).to_have_count(0)
    who = verdict.locator("span").first.inner_text().split(" + ")[0]
    page.keyboard.press("Enter")
    toast(page, f"placed: {who}")
    expect(lane(page, who).locator(f"button[data-visit='{visit}']")).to_be_in_viewport()
    page.keyboard.press("Control+z")
    toast(page, "Undone")


def test_a_visit_without_a_length_is_given_one_where_it_is_dropped(sign_in):
    page = sign_in(DISPATCHER)
    open_tomorrow(page)
    page.get_by_role("button", name=re.compile("^No duration")).click()
    row = page.get_by_label("Backlog", exact=True).locator("button[data-visit]").first
    who = free_lane(page)
    drag_to(page, row, who, 13, drop=False)
    expect(page.get_by_test_id("verdict")).to_contain_text("you are asked for it when you let go")
    page.mouse.up()
    asked = page.get_by_role("dialog", name="How long will it take?")
    asked.get_by_role("button", name="45 min").click()
    say_why_if_asked(page)
    expect(asked).to_have_count(0)
    expect(page.get_by_text("now takes 45 min")).to_be_visible()


def test_a_drop_that_is_refused_says_why_and_changes_nothing(sign_in):
    page = sign_in(DISPATCHER)
    open_tomorrow(page)
    search_backlog(page, "inspection")
    row = backlog_row(page, "Yearly statutory inspection")
    visit = int(row.get_attribute("data-visit") or 0)
    # Somebody who goes everywhere and has no inspector's skill: the responders do rigging.
    row.focus()
    page.keyboard.press("m")
    verdict = page.get_by_test_id("verdict")
    expect(verdict).to_contain_text("allowed place 1 of")
    for _ in range(24):
        page.keyboard.press("ArrowUp")
    for _ in range(24):
        expect(verdict.locator("li").first).to_be_visible()
        if "Statutory inspection" in verdict.inner_text():
            break
        page.keyboard.press("ArrowDown")
        settled(page)
    expect(verdict).to_contain_text("Statutory inspection 2 needed")
    page.keyboard.press("Enter")
    toast(page, "Statutory inspection 2 needed")
    expect(row_of(page, visit)).to_be_visible()


def test_two_dispatchers_see_each_other_and_nobody_overwrites(sign_in):
    first, second = sign_in(DISPATCHER), sign_in(SECOND)
    for page in (first, second):
        open_tomorrow(page)
    visit, _ = first_easy(first)
    search_backlog(second, "light")
    expect(row_of(second, visit)).to_be_visible()
    who = free_lane(first)
    # The second is dragging while the first drops.
    drag_to(second, row_of(second, visit), who, 14, drop=False)
    drag_to(first, row_of(first, visit), who, 10)
    # Another journey may have left something there; what counts here is who is first.
    say_why_if_asked(first)
    toast(first, "placed")
    second.mouse.up()
    toast(second, "Dora Quill was faster")
    expect(station_of(second, visit)).to_have_attribute("aria-label", re.compile(r"\. 1[01]:"))
    station_of(first, visit).focus()
    first.keyboard.press("Delete")
    expect(station_of(second, visit)).to_have_count(0)


def test_a_declined_visit_is_back_in_the_backlog_at_once(sign_in):
    desk, phone = sign_in(DISPATCHER), sign_in(TECHNICIAN, viewport=PHONE)
    visit, _ = first_easy(desk)
    drag_to(desk, row_of(desk, visit), "Ines Falk", 16)
    say_why_if_asked(desk)
    toast(desk, "placed")
    send_everything(desk)
    toast(desk, "sent")
    link = phone.locator(f"a[href='/field/{visit}']")
    expect(link).to_be_visible()
    link.click()
    phone.get_by_role("button", name="Decline").click()
    expect(phone.get_by_role("button", name="Decline")).to_be_disabled()
    phone.get_by_label("Why can you not do it?").fill("Van broke down")
    phone.get_by_role("button", name="Decline").click()
    expect(phone.get_by_text("Declined. The office is told as soon as there is a signal.")).to_be_visible()
    expect(row_of(desk, visit)).to_be_visible()
    row_of(desk, visit).click()
    expect(desk.get_by_test_id("details")).to_contain_text("Van broke down")


def test_details_are_changed_beside_the_board_and_undone(sign_in):
    page = sign_in(DISPATCHER)
    visit, _ = first_easy(page)
    row_of(page, visit).click()
    form = page.get_by_role("form", name="Edit visit")
    expect(form.get_by_label("Length")).to_have_value("30")
    form.get_by_label("Length").fill("soon")
    form.get_by_role("button", name="Save changes").click()
    expect(form.get_by_text("Minutes, or 1:30")).to_be_visible()
    form.get_by_label("Length").fill("1:15")
    form.get_by_label("Notes for the technician").fill("Ask for Wanda")
    form.get_by_role("button", name="Save changes").click()
    toast(page, "changed")
    page.reload()
    expect(form.get_by_label("Length")).to_have_value("75")
    expect(form.get_by_label("Notes for the technician")).to_have_value("Ask for Wanda")
    page.get_by_role("button", name="Undo", exact=True).last.click()
    expect(form.get_by_label("Length")).to_have_value("30")


def test_a_visit_is_placed_by_typing_on_another_day(sign_in):
    page = sign_in(DISPATCHER)
    visit, _ = first_easy(page)
    day = open_tomorrow(page)
    technician = lane(page, free_lane(page)).locator("[data-lane]").get_attribute("data-lane")
    date = page.evaluate("new URL(location.href).searchParams.get('day').replaceAll('\"', '')")
    page.get_by_role("button", name="Today").click()
    row_of(page, visit).click()
    form = page.get_by_role("form", name="Placement")
    form.get_by_label("Technician").select_option(technician)
    form.get_by_label("Day").fill(date)
    form.get_by_label("Start").fill("25")
    expect(form).to_contain_text("Type a time, like 830")
    form.get_by_label("Start").fill("1015")
    expect(form).to_contain_text("driving")
    if form.get_by_label("Why all the same").is_visible():
        form.get_by_label("Why all the same").fill("They agreed by phone")
    form.get_by_role("button", name="Place").click()
    toast(page, "10:15")
    details = page.get_by_test_id("details")
    expect(details).to_contain_text(day)
    details.get_by_role("button", name="show that day").click()
    expect(page.locator("h1")).to_have_text(day)
    expect(station_of(page, visit)).to_be_visible()
    page.keyboard.press("Control+z")
    expect(station_of(page, visit)).to_have_count(0)


def test_the_key_explains_the_signs(sign_in):
    page = sign_in(DISPATCHER)
    expect(page.locator("[data-lane]").first).to_be_visible()
    page.keyboard.press("?")
    dialog = page.get_by_role("dialog", name="Legend")
    for words in ("driving, with its minutes", "placed, not sent", "the promise: arrive inside it"):
        expect(dialog).to_contain_text(words)
    page.keyboard.press("Escape")
    expect(dialog).to_have_count(0)


def test_day_and_selection_survive_a_reload(sign_in):
    page = sign_in(DISPATCHER)
    day = open_tomorrow(page)
    page.locator("[data-lane] button[data-visit]").first.click()
    title = page.get_by_test_id("details").locator("h2").inner_text()
    page.reload()
    expect(page.locator("h1")).to_have_text(day)
    expect(page.get_by_test_id("details").locator("h2")).to_have_text(title)


def test_who_may_only_look_cannot_drag(sign_in):
    page = sign_in(INTAKE)
    page.get_by_role("link", name="Board").click()
    expect(page.locator("[data-lane]").first).to_be_visible()
    expect(page.get_by_role("button", name="Undo")).to_have_count(0)
    visit, _ = first_easy(page)
    drag_to(page, row_of(page, visit), free_lane(page), 15)
    expect(page.get_by_test_id("verdict")).to_have_count(0)
    page.keyboard.press("Escape")  # the press opened its details
    expect(row_of(page, visit)).to_have_count(1)


def test_a_technician_only_has_the_phone_pages(sign_in):
    page = sign_in(TECHNICIAN, viewport=PHONE)
    page.goto("/board")
    page.wait_for_url("**/field")


@pytest.mark.parametrize("path", ["/nowhere", "/board/nowhere"])
def test_an_unknown_address_says_so(sign_in, path):
    page = sign_in(DISPATCHER)
    page.goto(path)
    expect(page.get_by_text("There is nothing at this address.")).to_be_visible()


def test_signing_in_fails_in_words(browser, running):
    page = browser.new_page(base_url=running.url)
    page.goto("/")
    page.get_by_label("E-mail").fill(DISPATCHER)
    page.get_by_label("Password").fill("wrong")
    page.get_by_role("button", name="Sign in").click()
    expect(page.get_by_role("alert")).to_contain_text("do not belong together")
    page.close()


def test_what_a_dispatcher_is_typing_survives_a_change_by_another(sign_in):
    first, second = sign_in(DISPATCHER), sign_in(SECOND)
    visit, _ = first_easy(first)
    for page in (first, second):
        page.goto(f"/board?visit={visit}")
    forms = [page.get_by_role("form", name="Edit visit") for page in (first, second)]
    forms[0].get_by_label("Notes for the technician").fill("Ask for Corin at the gate")
    forms[1].get_by_label("Length").fill("50")
    forms[1].get_by_role("button", name="Save changes").click()
    toast(second, "changed")
    expect(forms[0].get_by_label("Length")).to_have_value("50")
    expect(forms[0].get_by_label("Notes for the technician")).to_have_value("Ask for Corin at the gate")
    forms[0].get_by_role("button", name="Save changes").click()
    toast(first, "changed")
    expect(forms[1].get_by_label("Notes for the technician")).to_have_value("Ask for Corin at the gate")
    expect(forms[1].get_by_label("Length")).to_have_value("50")
