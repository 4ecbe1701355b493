"""Lists that grow come in pages, and say whether there is more."""

from datetime import timedelta

import pytest

from apps.intake.models import Request
from apps.messages.models import Message
from foundation import clock, pages

pytestmark = pytest.mark.django_db


@pytest.fixture(autouse=True)
def _small_pages(monkeypatch):
    monkeypatch.setattr(pages.newest_first, "__kwdefaults__", {"size": 2})
    monkeypatch.setattr(pages.in_order, "__kwdefaults__", {"size": 2})


def write(number):
    row = Message(
        kind="customer", channel="text", name=f"To {number}", address="+351", text="x", written_at=clock.now()
    )
    row.save()
    return row.pk


def through(api, path, **asked):
    """The ids of each page, until there is no more."""
    found, cursor = [], ""
    while cursor is not None:
        page = api.get(path, cursor=cursor, **asked).json()
        found.append([row["id"] for row in page["rows"]])
        cursor = page["next"]
    return found


def test_the_outbox_is_read_to_its_end_the_newest_first(world, dispatcher):
    ids = [write(number) for number in range(5)]
    assert through(dispatcher, "/messages") == [[ids[4], ids[3]], [ids[2], ids[1]], [ids[0]]]


def test_what_comes_in_meanwhile_moves_nothing(world, dispatcher):
    ids = [write(number) for number in range(3)]
    first = dispatcher.get("/messages").json()
    write(4)
    rest = dispatcher.get("/messages", cursor=first["next"]).json()
    assert [row["id"] for row in first["rows"] + rest["rows"]] == ids[::-1]
    assert rest["next"] is None


def test_a_page_that_is_just_full_is_the_last_one(world, dispatcher):
    ids = [write(number) for number in range(2)]
    assert through(dispatcher, "/messages") == [ids[::-1]]


def test_what_failed_is_counted_on_all_pages(world, dispatcher):
    ids = [write(number) for number in range(5)]
    Message.objects.filter(pk=ids[0]).update(state="failed")
    assert dispatcher.get("/messages").json()["failed"] == 1
    assert through(dispatcher, "/messages", state="failed") == [[ids[0]]]


def test_requests_that_wait_are_read_in_the_order_of_their_urgency(world, dispatcher):
    body = {"site_id": world.site.pk, "what_is_wrong": "Squeaks", "channel": "phone"}
    made = [dispatcher.post("/intake/requests", {**body, "priority": priority}).json()["id"] for priority in (3, 1, 2)]
    assert through(dispatcher, "/intake/requests", state="new") == [[made[1], made[2]], [made[0]]]
    Request.objects.update(state="closed", taken_at=clock.now() - timedelta(days=1))
    assert through(dispatcher, "/intake/requests", state="closed") == [[made[2], made[1]], [made[0]]]


@pytest.mark.parametrize("cursor", ["x", "-1", "1e3", "9" * 30, "١"])
def test_a_cursor_that_is_none_is_refused(world, dispatcher, cursor):
    answer = dispatcher.get("/messages", cursor=cursor)
    assert (answer.status_code, answer.json()["code"]) == (422, "bad_cursor")
