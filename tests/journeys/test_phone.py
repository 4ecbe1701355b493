"""The technician's phone on its own: one hand, one action, clear words when something is in the way."""

import re

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


def given_to_ines(desk: Session, visit: dict) -> dict:
    """At the end of her day, and sent."""
    board, ines = desk.call("GET", "/api/v1/board"), ines_of(desk)
    lane = next(row for row in board["lanes"] if row["technician_id"] == ines)
    start = lane["days"][0]["shift"]["end"] - 3600
    body = {"version": visit["version"], "technician_id": lane["technician_id"], "start": start, "because": "a test"}
    placed = desk.call("POST", f"/api/v1/visits/{visit['id']}/place", body)["visit"]
    return desk.call("POST", f"/api/v1/visits/{visit['id']}/send", {"version": placed["version"]})


def take_back(desk: Session, visit_id: int) -> None:
    version = desk.call("GET", f"/api/v1/visits/{visit_id}")["version"]
    desk.call("POST", f"/api/v1/visits/{visit_id}/unplace", {"version": version})


def opened(sign_in, visit_id: int) -> Page:
    page: Page = sign_in(TECHNICIAN, viewport=PHONE)
    page.goto(f"/field/{visit_id}")
    expect(page.get_by_role("button", name="Accept")).to_be_visible()
    return page


def test_every_target_is_large_enough_for_a_glove(sign_in, desk):
    visit = placed_and_sent(desk)
    page = opened(sign_in, visit["id"])
    small = [
        (target.inner_text(), box["height"])
        for target in page.locator("button:visible, a:visible").all()
        if (box := target.bounding_box()) and box["height"] < 48
    ]
    assert small == []
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


def test_without_a_connection_the_step_is_not_lost_in_silence(sign_in, desk):
    visit = placed_and_sent(desk)
    page = opened(sign_in, visit["id"])
    page.route(re.compile("/step$"), lambda route: route.abort())
    page.get_by_role("button", name="Accept").click()
    expect(page.get_by_role("alert")).to_contain_text("No connection to the server. Look whether it was done")
    page.unroute(re.compile("/step$"))
    page.get_by_role("button", name="Accept").click()
    expect(page.get_by_role("button", name="Set out")).to_be_visible()
    take_back(desk, visit["id"])


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
    expect(page.get_by_text("Declined. The office knows.")).to_be_visible()
