"""The technician's phone on its own: one hand, one action, clear words when something is in the way."""

import re
import time

import pytest
from playwright.sync_api import Page, expect

from tests.journeys.conftest import DISPATCHER, PHONE, TECHNICIAN, RunningWorld
from tests.journeys.test_live import Session


@pytest.fixture
def desk(running: RunningWorld) -> Session:
    return Session(running.url, DISPATCHER)


def placed_and_sent(desk: Session) -> dict:
    """A visit anybody can do, at the end of the technician's day, sent."""
    return given_to_ines(desk, desk.call("POST", "/api/v1/board/backlog", {"text": "light"})["visits"][-1])


def ines_of(desk: Session) -> int:
    heads = desk.call("GET", "/api/v1/board/lanes")
    return int(next(row["technician_id"] for row in heads if row["name"] == "Ines Falk"))


def given_to_ines(desk: Session, visit: dict, *, before_the_end: int = 3600) -> dict:
    """So many seconds before the end of her day, and sent."""
    board, ines = desk.call("GET", "/api/v1/board"), ines_of(desk)
    lane = next(row for row in board["lanes"] if row["technician_id"] == ines)
    start = lane["days"][0]["shift"]["end"] - before_the_end
    body = {"version": visit["version"], "technician_id": lane["technician_id"], "start": start, "because": "a test"}
    placed = desk.call("POST", f"/api/v1/visits/{visit['id']}/place", body)["visit"]
    sent: dict = desk.call("POST", f"/api/v1/visits/{visit['id']}/send", {"version": placed["version"]})
    assert sent.get("state") == "sent", sent
    return sent


def finish_what_is_under_way(office: Session) -> None:
    """The demo's morning leaves her on another visit: it is stamped by phone call."""
    for visit in office.call("GET", "/api/v1/board")["visits"]:
        if visit["technician_id"] != ines_of(office):
            continue
        steps = {"en_route": ("arrive", "finish"), "on_site": ("finish",)}.get(visit["state"], ())
        for step in steps:
            version = office.call("GET", f"/api/v1/visits/{visit['id']}")["version"]
            body = {"version": version, "step": step, "note": "by phone"}
            office.call("POST", f"/api/v1/visits/{visit['id']}/step", body)


def take_back(desk: Session, visit_id: int) -> None:
    version = desk.call("GET", f"/api/v1/visits/{visit_id}")["version"]
    desk.call("POST", f"/api/v1/visits/{visit_id}/unplace", {"version": version})


def opened(sign_in, visit_id: int) -> Page:
    page: Page = sign_in(TECHNICIAN, viewport=PHONE)
    page.goto(f"/field/{visit_id}")
    expect(page.get_by_role("button", name="Accept")).to_be_visible()
    return page


def small_targets(page: Page) -> list[tuple[str, float]]:
    return [
        (target.inner_text(), box["height"])
        for target in page.locator("button:visible, a:visible").all()
        if (box := target.bounding_box()) and box["height"] < 56
    ]


def test_every_target_is_large_enough_for_a_glove(sign_in, desk):
    visit = placed_and_sent(desk)
    page = opened(sign_in, visit["id"])
    assert small_targets(page) == []
    for path in (
        "/field",
        "/field/this-phone",
        f"/field/{visit['id']}/work/photos",
        f"/field/{visit['id']}/work/parts",
        f"/field/{visit['id']}/work/time",
        f"/field/{visit['id']}/work/charges",
        "/field/log",
        f"/field/{visit['id']}/work/notes",
    ):
        page.goto(path)
        page.get_by_role("heading", level=1).wait_for()
        assert small_targets(page) == [], path
    take_back(desk, visit["id"])


def test_nothing_is_wider_than_the_phone(sign_in, desk):
    visit = placed_and_sent(desk)
    page = opened(sign_in, visit["id"])
    assert page.evaluate("document.documentElement.scrollWidth") <= PHONE["width"]
    page.goto("/field")
    expect(page.locator("ol a").first).to_be_visible()
    assert page.evaluate("document.documentElement.scrollWidth") <= PHONE["width"]
    take_back(desk, visit["id"])


def test_what_the_office_stamped_shows_on_the_phone_at_once(sign_in, desk):
    visit = placed_and_sent(desk)
    page = opened(sign_in, visit["id"])
    path = f"/api/v1/visits/{visit['id']}/step"
    desk.call("POST", path, {"version": visit["version"], "step": "accept", "note": ""})
    expect(page.get_by_role("button", name="Set out")).to_be_visible()
    take_back(desk, visit["id"])


def test_a_visit_taken_away_says_so(sign_in, desk):
    visit = placed_and_sent(desk)
    page = opened(sign_in, visit["id"])
    take_back(desk, visit["id"])
    expect(page.get_by_role("alert")).to_contain_text("not yours (any more)")
    page.get_by_role("link", name="My day").click()
    expect(page.locator(f"a[href='/field/{visit['id']}']")).to_have_count(0)


def test_a_change_of_mind_before_the_reason_changes_nothing(sign_in, desk):
    visit = placed_and_sent(desk)
    page = opened(sign_in, visit["id"])
    page.get_by_role("button", name="Decline").click()
    page.get_by_label("Why can you not do it?").fill("Perhaps")
    page.get_by_role("button", name="Back").click()
    expect(page.get_by_role("button", name="Accept")).to_be_visible()
    assert desk.call("GET", f"/api/v1/visits/{visit['id']}")["state"] == "sent"
    take_back(desk, visit["id"])


NO_SIGNAL = re.compile("/field/deeds$")


def comes_to(desk: Session, visit_id: int, state: str) -> dict:
    """The visit as the office has it, once it is in a state."""
    for _ in range(300):
        visit = desk.call("GET", f"/api/v1/visits/{visit_id}")
        if visit["state"] == state:
            return visit
        time.sleep(0.2)
    raise AssertionError(f"it is {visit['state']}, not {state}")


def press(page: Page, *steps: str) -> None:
    for step in steps:
        page.get_by_role("button", name=step, exact=True).click()


def finish(page: Page, words: str) -> None:
    press(page, "Finish")
    page.get_by_label("What was done?").fill(words)
    press(page, "Finish")
    expect(page.get_by_text(f"Done: {words}")).to_be_visible()


def test_what_is_done_without_a_signal_is_there_once_and_with_its_time(sign_in, desk):
    finish_what_is_under_way(desk)
    visit = placed_and_sent(desk)
    page = opened(sign_in, visit["id"])
    page.context.route(NO_SIGNAL, lambda route: route.abort())
    began = desk.call("GET", "/api/v1/session")["now"]
    press(page, "Accept", "Set out", "Arrived")
    expect(page.get_by_text("3 things are still on this phone")).to_be_visible()
    assert desk.call("GET", f"/api/v1/visits/{visit['id']}")["state"] == "sent"
    # The tab is killed, and somebody opens the phone again.
    context = page.context
    page.close()
    page = context.new_page()
    page.goto(f"/field/{visit['id']}")
    expect(page.get_by_text("3 things are still on this phone")).to_be_visible()
    finish(page, "Two lamps changed")
    ended = desk.call("GET", "/api/v1/session")["now"]
    context.unroute(NO_SIGNAL)
    page.evaluate("window.dispatchEvent(new Event('online'))")
    done = comes_to(desk, visit["id"], "done")
    expect(page.get_by_text("still on this phone")).to_have_count(0)
    assert [row["step"] for row in done["events"]][-4:] == ["accept", "depart", "arrive", "finish"]
    times = [row["at"] for row in done["events"]][-4:]
    assert times == sorted(times)
    assert began - 2 <= times[0] <= times[-1] <= ended + 2


def test_what_the_office_changed_meanwhile_is_decided_by_a_person_and_nothing_is_dropped(sign_in, desk):
    finish_what_is_under_way(desk)
    visit = placed_and_sent(desk)
    page = opened(sign_in, visit["id"])
    page.context.route(NO_SIGNAL, lambda route: route.abort())
    press(page, "Accept", "Set out")
    expect(page.get_by_text("2 things are still on this phone")).to_be_visible()
    take_back(desk, visit["id"])
    page.context.unroute(NO_SIGNAL)
    page.evaluate("window.dispatchEvent(new Event('online'))")
    office = sign_in(DISPATCHER)
    office.goto("/told")
    told = office.get_by_role("region", name=re.compile("Ines Falk"))
    expect(told).to_contain_text("open")
    expect(told).to_contain_text("nobody is assigned")
    expect(told.get_by_role("listitem")).to_have_text([re.compile("^accepted"), re.compile("^set out")])
    told.get_by_role("button", name="Let it count").click()
    expect(told.get_by_role("alert")).to_contain_text("Give it to Ines Falk on the board first")
    # She was there: it is hers again, and what she did counts as she did it.
    given_to_ines(desk, desk.call("GET", f"/api/v1/visits/{visit['id']}"))
    told.get_by_role("button", name="Let it count").click()
    expect(told).to_have_count(0)
    assert desk.call("GET", f"/api/v1/visits/{visit['id']}")["state"] == "en_route"
    press(page, "Arrived")
    finish(page, "Nothing was wrong")
    comes_to(desk, visit["id"], "done")


def test_what_is_being_typed_survives_a_change_by_the_office(sign_in, desk):
    visit = placed_and_sent(desk)
    page = opened(sign_in, visit["id"])
    page.get_by_role("button", name="Decline").click()
    page.get_by_label("Why can you not do it?").fill("The gate is too heavy for one")
    now = desk.call("GET", f"/api/v1/visits/{visit['id']}")
    fields = ("version", "duration_seconds", "needs", "promise", "earliest", "due", "pinned", "priority", "worth")
    body = {name: now[name] for name in fields} | {"notes": "Bring the long ladder"}
    desk.call("PUT", f"/api/v1/visits/{visit['id']}/fields", body)
    expect(page.get_by_text("Bring the long ladder")).to_be_visible()
    expect(page.get_by_label("Why can you not do it?")).to_have_value("The gate is too heavy for one")
    page.get_by_role("button", name="Decline").click()
    expect(page.get_by_text("Declined. The office is told as soon as there is a signal.")).to_be_visible()
    comes_to(desk, visit["id"], "open")
