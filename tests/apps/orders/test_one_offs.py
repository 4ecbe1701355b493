"""A job that is agreed already, made in one step: what was shown of it is what is made."""

import pytest

from apps.customers.models import Customer
from tests.apps.conftest import at
from tests.apps.orders.test_orders import change_job
from tests.apps.orders.test_prices import prices  # noqa: F401
from tests.apps.quotes.conftest import line

HOUR = 3600
DAY = 24 * HOUR


def agreed(world, **said):
    return {"site_id": world.site.pk, "title": "New door drive", **said}


def shown_and_made(api, body):
    """What was shown before, and the order that came of it."""
    shown = api.post("/orders/one-off/read", body)
    assert shown.status_code == 200, shown.json()
    made = api.post("/orders/one-off", body)
    assert made.status_code == 201, made.json()
    return shown.json(), api.get(f"/orders/{made.json()['id']}").json()


@pytest.fixture
def job(world, as_role, prices):  # noqa: F811
    change_job(world, as_role, lines=[line("l1", "hour-of-a-fitter", "1.5")])
    return world.door_job.pk


def visits_of(order):
    return [(row["title"], row["duration_seconds"], row["crew"]) for row in order["visits"]]


def foreseen(shown):
    return [(row["title"], row["seconds"], row["crew"]) for row in shown["visits"]]


def test_quantity_times_rate_people_days_and_two_texts_on_one_form(world, dispatcher, prices):  # noqa: F811
    body = agreed(
        world, description="Drive out, drive in.",
        details={"technician_note": "Side door.", "invoice_text": "Door drive replaced", "po_number": "PO 7"},
        duration_seconds=12 * HOUR, crew=2, days=3, earliest=at(8) + DAY, contact_name="Marta Vale",
        lines=[line("l1", "hour-of-a-fitter", 24), {"key": "l2", "wording": "Crane", "unit_price": 30_000}],
        discounts=[{"name": "Winter", "percent": "5", "valid_until": "2026-12-31"}],
    )  # fmt: skip
    shown, order = shown_and_made(dispatcher, body)
    assert foreseen(shown) == visits_of(order) == [(f"New door drive, day {day}", 4 * HOUR, 2) for day in (1, 2, 3)]
    assert [(row["wording"], row["price"]) for row in order["lines"]] == [
        ("Hour of a fitter", 5_000),
        ("Crane", 30_000),
    ]
    assert shown["lines"] == order["lines"]
    assert order["sums"]["totals"]["net"] == round((24 * 5_000 + 30_000) * 0.95)
    notes = (order["technician_note"], order["invoice_text"], order["po_number"])
    assert notes == ("Side door.", "Door drive replaced", "PO 7")
    assert order["discounts"][0]["valid_until"] == "2026-12-31"
    assert sum(row["worth"] for row in order["visits"]) == order["sums"]["totals"]["net"] // 100
    assert order["visits"][0]["earliest"] == at(8) + DAY
    assert {row["kind"] for row in order["links"]} == {"after", "same_technician"}


def test_without_lines_it_costs_what_such_work_costs(world, dispatcher, job):
    shown, order = shown_and_made(dispatcher, agreed(world, job_type_id=job, title="", due=at(17) + DAY))
    assert order["title"] == world.door_job.name
    assert shown["lines"] == order["lines"]
    assert [(row["wording"], row["source"]) for row in order["lines"]] == [("Hour of a fitter", "standard price")]
    assert shown["due"] == order["visits"][0]["due"] == at(17) + DAY


def test_visits_the_job_type_foresees_come_too(world, as_role, dispatcher):
    change_job(world, as_role, visits=[{"title": "Test run", "seconds": HOUR, "ties": [{"kind": "after", "to": 1}]}])
    shown, order = shown_and_made(
        dispatcher, agreed(world, job_type_id=world.door_job.pk, duration_seconds=4 * HOUR, days=2)
    )
    assert foreseen(shown) == visits_of(order)
    assert len(order["visits"]) == 3


def test_a_job_of_minutes_stays_one_visit(world, dispatcher):
    shown, order = shown_and_made(dispatcher, agreed(world, duration_seconds=300, days=4))
    assert foreseen(shown) == visits_of(order) == [("New door drive", 300, 1)]


@pytest.mark.parametrize(
    ("said", "field"),
    [
        ({"title": " "}, "title"),
        ({"needs": {"juggling": 2}}, "needs"),
        ({"lines": [line("l1", "no-such-item")]}, "lines"),
    ],
)
def test_what_cannot_be_is_refused_with_its_field_and_makes_nothing(world, dispatcher, said, field):
    answer = dispatcher.post("/orders/one-off", agreed(world, **said))
    assert (answer.status_code, answer.json().get("field")) == (422, field), answer.json()
    assert dispatcher.post("/orders/list", {"filters": {}}).json()["total"] == 0


def test_an_asset_of_another_site_is_not_there(world, dispatcher):
    assert dispatcher.post("/orders/one-off", agreed(world, asset_id=10**6)).status_code == 404


def test_nobody_gives_more_off_than_they_may(world, dispatcher, prices):  # noqa: F811
    body = agreed(
        world, lines=[line("l1", "door-drive")], discounts=[{"name": "A friend", "percent": "60"}],
    )  # fmt: skip
    answer = dispatcher.post("/orders/one-off", body)
    assert (answer.status_code, answer.json()["code"]) == (422, "discount_limit")
    assert dispatcher.post("/orders/one-off/read", body).status_code == 200


def test_whoever_pays_for_the_customer_pays_for_it(world, dispatcher, prices):  # noqa: F811
    payer = Customer.objects.create(name="Vale Holding")
    Customer.objects.filter(pk=world.site.customer_id).update(payer=payer)
    shown, order = shown_and_made(dispatcher, agreed(world, lines=[line("l1", "door-drive")]))
    assert shown["buyer_id"] == order["payer"]["id"] == payer.pk


def test_who_makes_no_orders_makes_none_here(world, as_role):
    intake = as_role("technician")
    for path in ("/orders/one-off", "/orders/one-off/read"):
        assert intake.post(path, agreed(world)).status_code == 403


def test_days_without_a_length_are_said_before_and_refused_in_the_same_words(world, dispatcher):
    body = agreed(world, days=3)
    shown = dispatcher.post("/orders/one-off/read", body).json()
    refused = dispatcher.post("/orders/one-off", body)
    assert refused.status_code == 422
    assert (refused.json()["field"], refused.json()["title"]) == ("duration_seconds", shown["problem"])
    assert len(shown["visits"]) == 1
