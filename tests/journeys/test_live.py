"""Live changes over the wire: a real server, a real stream."""

import http.client
import json
import time
from urllib.parse import urlsplit

import psycopg
import pytest
from playwright.sync_api import expect

from demo.accounts import PASSWORD
from foundation.api import LOOK_AGAIN_SECONDS
from tests.journeys.board import lane
from tests.journeys.conftest import DISPATCHER, TECHNICIAN

AUTH = "/api/auth/browser/v1"


class Session:
    """Just enough of a browser: cookies, the CSRF token, JSON."""

    def __init__(self, url, email):
        self.host = urlsplit(url).netloc
        self.cookies = {}
        self.token = self.call("GET", "/api/v1/session")["csrf_token"]
        self.call("POST", f"{AUTH}/auth/login", {"email": email, "password": PASSWORD})
        self.token = self.call("GET", "/api/v1/session")["csrf_token"]

    def request(self, method, path, body=None, *, timeout=30):
        connection = http.client.HTTPConnection(self.host, timeout=timeout)
        headers = {
            "Content-Type": "application/json",
            "X-CSRFToken": getattr(self, "token", ""),
            "Cookie": "; ".join(f"{name}={value}" for name, value in self.cookies.items()),
        }
        connection.request(method, path, json.dumps(body) if body is not None else None, headers)
        return connection, connection.getresponse()

    def call(self, method, path, body=None):
        connection, answer = self.request(method, path, body)
        for cookie in answer.headers.get_all("Set-Cookie") or []:
            name, value = cookie.split(";")[0].split("=", 1)
            self.cookies[name] = value
        data = json.loads(answer.read())
        connection.close()
        return data


def next_event(stream, wanted):
    """Seconds until an event of that name comes, and its data."""
    began = time.monotonic()
    name = ""
    while True:
        line = stream.readline().decode().strip()
        if line.startswith("event:"):
            name = line[6:].strip()
        if line.startswith("data:") and name == wanted:
            return time.monotonic() - began, json.loads(line[5:])


@pytest.fixture
def dispatcher(running):
    return Session(running.url, DISPATCHER)


def open_visit(session):
    return session.call("POST", "/api/v1/board/backlog", {"text": "light"})["visits"][0]


def change_priority(session, visit):
    body = {
        name: visit[name]
        for name in ("version", "duration_seconds", "needs", "promise", "earliest", "due", "pinned", "worth")
    }
    priority = 3 if visit["priority"] == 5 else 5
    return session.call("PUT", f"/api/v1/visits/{visit['id']}/fields", body | {"notes": "", "priority": priority})


def test_a_change_reaches_an_open_stream_within_a_second(running, dispatcher):
    connection, stream = Session(running.url, DISPATCHER).request("GET", "/api/v1/live")
    next_event(stream, "hello")
    time.sleep(0.3)  # the stream's own listener has to be there first
    visit = open_visit(dispatcher)
    change_priority(dispatcher, visit)
    seconds, change = 0.0, {"topic": ""}
    while change["topic"] != "visit":  # a run of the journey before may still be told
        took, change = next_event(stream, "change")
        seconds += took
    connection.close()
    assert change["ids"] == [visit["id"]]
    assert seconds < 1


def test_a_technician_hears_only_of_own_visits(running, dispatcher):
    connection, stream = Session(running.url, TECHNICIAN).request("GET", "/api/v1/live", timeout=2)
    next_event(stream, "hello")
    change_priority(dispatcher, open_visit(dispatcher))
    with pytest.raises(TimeoutError):
        next_event(stream, "change")
    connection.close()


def test_a_stream_ends_with_its_session_and_tells_nothing_after(running, dispatcher):
    """Signed out on another tab: what happens from then on is not heard any more."""
    leaving = Session(running.url, DISPATCHER)
    connection, stream = leaving.request("GET", "/api/v1/live", timeout=40)
    next_event(stream, "hello")
    other, answer = leaving.request("DELETE", f"{AUTH}/auth/session")
    assert answer.status == 401  # nobody is signed in any more
    other.close()
    time.sleep(LOOK_AGAIN_SECONDS)
    change_priority(dispatcher, open_visit(dispatcher))
    rest = stream.read().decode()  # to its end: the server closes it
    connection.close()
    assert "event: ended" in rest
    assert "event: change" not in rest


def test_nobody_listens_without_signing_in(running):
    connection = http.client.HTTPConnection(urlsplit(running.url).netloc, timeout=10)
    connection.request("GET", "/api/v1/live")
    assert connection.getresponse().status == 401
    connection.close()


def test_after_the_database_dropped_the_listener_streams_are_told_to_look_again(running):
    connection, stream = Session(running.url, DISPATCHER).request("GET", "/api/v1/live")
    next_event(stream, "hello")
    time.sleep(0.5)
    with psycopg.connect(running.env["DATABASE_URL"], autocommit=True) as database:
        ended = database.execute(
            "SELECT pg_terminate_backend(pid) FROM pg_stat_activity"
            " WHERE query LIKE 'LISTEN relay_live%' AND datname = current_database()"
        ).fetchall()
    assert ended
    next_event(stream, "resync")
    connection.close()


def test_streams_do_not_use_up_the_connections_to_the_database(running, dispatcher):
    session = Session(running.url, DISPATCHER)
    streams = [session.request("GET", "/api/v1/live") for _ in range(24)]
    for _, stream in streams:
        next_event(stream, "hello")
    assert dispatcher.call("POST", "/api/v1/board/backlog", {})["total"] > 0
    for connection, _ in streams:
        connection.close()


def test_an_open_board_shows_a_change_made_elsewhere(running, sign_in, dispatcher):
    page = sign_in(DISPATCHER)
    expect(page.locator("[data-lane]").first).to_be_visible()
    board = dispatcher.call("GET", "/api/v1/board")
    visit = open_visit(dispatcher)
    heads = {row["technician_id"]: row for row in dispatcher.call("GET", "/api/v1/board/lanes")}
    lanes = [(heads[row["technician_id"]], row["days"][0]) for row in board["lanes"]]
    row, day = next((row, day) for row, day in lanes if day["shift"] and not day["absences"] and not row["areas"])
    start = day["shift"]["end"] - 3600
    body = {"version": visit["version"], "technician_id": row["technician_id"], "start": start, "because": "a test"}
    placed = dispatcher.call("POST", f"/api/v1/visits/{visit['id']}/place", body)
    expect(lane(page, row["name"]).locator(f"button[data-visit='{visit['id']}']")).to_be_visible()
    dispatcher.call("POST", f"/api/v1/visits/{visit['id']}/unplace", {"version": placed["visit"]["version"]})
    expect(page.locator(f"[data-lane] button[data-visit='{visit['id']}']")).to_have_count(0)
