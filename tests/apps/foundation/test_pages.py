"""Lists that grow come in pages, and say whether there is more."""

from datetime import timedelta

import pytest

from apps.intake.models import Request
from apps.messages.models import Message
from apps.orders import listing
from apps.orders.models import WorkOrder
from apps.scheduling import queries as scheduling
from foundation import audit, clock, pages
from tests.apps.conftest import MONDAY

pytestmark = pytest.mark.django_db


@pytest.fixture(autouse=True)
def _small_pages(monkeypatch):
    monkeypatch.setattr(pages.newest_first, "__kwdefaults__", {"size": 2, "order": "-pk"})
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
    made = [dispatcher.post("/requests", {**body, "priority": priority}).json()["id"] for priority in (3, 1, 2)]
    assert through(dispatcher, "/requests", state="new") == [[made[1], made[2]], [made[0]]]
    Request.objects.update(state="closed", taken_at=clock.now() - timedelta(days=1))
    assert through(dispatcher, "/requests", state="closed") == [[made[2], made[1]], [made[0]]]


def notes(path, records, dispatcher, count):
    for number in range(count):
        assert dispatcher.post(f"{path}/{records}/notes", {"text": f"note {number}"}).status_code == 201


def texts(api, path):
    found, cursor = [], ""
    while cursor is not None:
        page = api.get(path, cursor=cursor).json()
        assert len(page["rows"]) <= 2
        found += [row["note"] for row in page["rows"] if row["action"] == "note"]
        cursor = page["next"]
    return found


def test_a_customer_s_history_is_read_to_its_end_with_that_of_every_site_and_asset(world, dispatcher):
    notes("/customers", world.customer.pk, dispatcher, 3)
    path = f"/customers/{world.customer.pk}/history"
    assert texts(dispatcher, path) == ["note 2", "note 1", "note 0"]
    audit.note(
        actor=world.accounts["dispatcher"], now=clock.now(), entity="site", entity_id=world.site.pk, text="of the site"
    )
    audit.note(
        actor=world.accounts["dispatcher"],
        now=clock.now(),
        entity="site",
        entity_id=world.site.pk + 999,
        text="of another one",
    )
    assert texts(dispatcher, path) == ["of the site", "note 2", "note 1", "note 0"]


def test_the_history_of_an_order_and_of_a_request_is_read_to_its_end(world, dispatcher):
    request = dispatcher.post(
        "/requests", {"site_id": world.site.pk, "what_is_wrong": "Squeaks", "channel": "phone"}
    ).json()
    notes("/requests", request["id"], dispatcher, 3)
    assert texts(dispatcher, f"/requests/{request['id']}/history") == ["note 2", "note 1", "note 0"]
    order = dispatcher.post("/orders", {"request_id": request["id"], "version": request["version"]}).json()
    notes("/orders", order["id"], dispatcher, 2)
    told = ["note 1", "note 0", "note 2", "note 1", "note 0"]
    assert texts(dispatcher, f"/orders/{order['id']}/timeline") == told


def test_planning_runs_are_read_to_their_end(world, dispatcher, monkeypatch):
    monkeypatch.setattr(scheduling, "RUNS_SHOWN", 2)
    body = {"kind": "fill", "day": MONDAY.isoformat()}
    ids = [dispatcher.post("/runs", body).json()["id"] for _ in range(5)]
    assert through(dispatcher, "/runs") == [[ids[4], ids[3]], [ids[2], ids[1]], [ids[0]]]


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
