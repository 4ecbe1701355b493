"""Lists that grow come in pages, and say whether there is more."""

from datetime import timedelta

import pytest

from apps.intake.models import Request
from apps.messages.models import Message
from apps.orders import listing
from apps.orders.models import WorkOrder
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


def many_orders(world):
    """Seven orders: some with a deadline, two of them with the same, the rest without."""
    now = clock.now()
    due = [now, None, now + timedelta(days=1), now, None, now - timedelta(days=2), None]
    ids = [world.visit().order_id for _ in due]
    for key, (number, moment) in zip(ids, enumerate(due), strict=True):
        WorkOrder.objects.filter(pk=key).update(due=moment, priority=1 + number % 3, title=f"W {number % 2}")
    return ids


@pytest.mark.parametrize("sort", ["newest", "oldest", "promise", "due", "priority", "customer", "number"])
def test_the_list_of_orders_is_read_page_by_page_as_it_is_sorted(world, dispatcher, monkeypatch, sort):
    ids = many_orders(world)
    whole = [row["id"] for row in dispatcher.post("/orders/list", {"sort": sort}).json()["rows"]]
    assert sorted(whole) == sorted(ids)
    monkeypatch.setattr(listing, "PAGE", 2)
    found, cursor, totals = [], "", []
    while cursor is not None:
        page = dispatcher.post("/orders/list", {"sort": sort, "cursor": cursor}).json()
        found += [row["id"] for row in page["rows"]]
        totals.append(page["total"])
        cursor = page["next"]
    assert found == whole
    assert totals == [7, None, None, None]


def test_an_order_that_comes_in_between_two_pages_moves_nothing(world, dispatcher, monkeypatch):
    ids = many_orders(world)
    monkeypatch.setattr(listing, "PAGE", 4)
    first = dispatcher.post("/orders/list", {"sort": "newest"}).json()
    world.visit()
    second = dispatcher.post("/orders/list", {"sort": "newest", "cursor": first["next"]}).json()
    seen = [row["id"] for row in (*first["rows"], *second["rows"])]
    assert len(seen) == len(set(seen)) == len(ids)


@pytest.mark.parametrize(
    "cursor", ["x", "W10=", "WyJhIiwxXQ==", "eyJhIjoxfQ==", "W3siYXQiOiJ4In0sMV0=", "W251bGwsbnVsbF0=", "é" * 9]
)
def test_a_place_that_no_page_gave_is_refused(world, dispatcher, cursor):
    answer = dispatcher.post("/orders/list", {"cursor": cursor})
    assert (answer.status_code, answer.json()["code"]) == (422, "bad_cursor")
