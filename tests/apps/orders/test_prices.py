"""What orders cost: lines they are made with, what is told before, what their visits bring."""

from decimal import Decimal

import pytest

from apps.orders.models import LearnedLength
from apps.pricing.models import Charging
from tests.apps.conftest import at
from tests.apps.orders.test_orders import an_order, change_job
from tests.apps.quotes.conftest import FULL, ITEMS, line


@pytest.fixture
def prices(as_role):
    manager = as_role("manager")
    manager.post("/pricing/tax-codes", FULL)
    for item in ITEMS:
        assert manager.post("/pricing/items", {**item, "tax": "full-rate"}).status_code == 201
    return manager


@pytest.fixture
def job(world, as_role, prices):
    """An hour and a half at 50.00, and two rollers one may choose."""
    lines = [line("l1", "hour-of-a-fitter", "1.5"), line("l2", "door-roller", 2, optional=True)]
    change_job(world, as_role, lines=lines)


def book(api, world, window=None):
    body = {"site_id": world.site.pk, "job_type_id": world.door_job.pk, "what_is_wrong": "Noisy", "details": {}}
    if window:
        body["promise"] = {"start": window[0], "end": window[1]}
    taken = api.post("/requests", body)
    assert taken.status_code == 201, taken.json()
    made = api.post("/orders", {"request_id": taken.json()["id"], "version": taken.json()["version"]})
    assert made.status_code == 201, made.json()
    return api.get(f"/orders/{made.json()['id']}").json()


def told(api, world, **asked):
    return api.post("/orders/estimate", {"site_id": world.site.pk, "job_type_id": world.door_job.pk, **asked}).json()


def evening(prices, percent="50"):
    rules = prices.get("/pricing/charging").json()
    one = {"name": "Evening", "percent": percent, "week": ["18:00-22:00"] * 5 + ["", ""], "holidays": False}
    changed = prices.put("/pricing/charging", {**rules, "surcharges": [one]})
    assert changed.status_code == 200, changed.json()
    return changed.json()


def test_an_order_is_made_with_the_lines_of_its_job_type_at_the_payers_prices(job, world, dispatcher):
    order = an_order(world, dispatcher)
    assert [(row["wording"], row["price"], row["source"]) for row in order["lines"]] == [
        ("Hour of a fitter", 5_000, "standard price"), ("Door roller", 2_000, "standard price"),
    ]  # fmt: skip
    assert (order["sums"]["totals"]["net"], order["sums"]["totals"]["gross"]) == (7_500, 9_000)
    assert [visit["worth"] for visit in order["visits"]] == [75]


def test_what_is_told_on_the_phone_is_what_the_order_costs(job, prices, world, dispatcher):
    evening(prices)
    for window in (None, (at(9), at(11)), (at(18), at(20))):
        said = told(dispatcher, world, window=window)
        order = book(dispatcher, world, window)
        gross = order["sums"]["totals"]["gross"]
        assert said["exact"] == gross, window
        assert said["low"] <= gross <= said["high"]
    # In the evening half of the labour comes on top: 75.00 + 37.50, with tax.
    assert gross == 13_500


def test_a_window_that_reaches_into_the_evening_is_told_as_a_range(job, prices, world, dispatcher):
    evening(prices)
    said = told(dispatcher, world, window=(at(17), at(19)))
    assert (said["low"], said["high"]) == (9_000, 13_500)


def test_work_without_lines_is_charged_by_the_hour_and_a_journey(prices, world, dispatcher):
    rules = prices.get("/pricing/charging").json()
    travel = {"way": "flat by area", "otherwise": 3_500, "flat": {str(world.site.area_id): 2_000}}
    body = {**rules, "labour_item": "hour-of-a-fitter", "step_minutes": 30, "travel": travel}
    assert prices.put("/pricing/charging", body).status_code == 200
    order = an_order(world, dispatcher)
    # 45 minutes are billed as an hour.
    assert [(row["wording"], Decimal(row["quantity"]), row["price"]) for row in order["lines"]] == [
        ("Hour of a fitter", 1, 5_000), ("Journey", 1, 2_000),
    ]  # fmt: skip
    assert told(dispatcher, world)["exact"] == order["sums"]["totals"]["gross"] == 8_400


def test_without_prices_nothing_is_told_and_the_visit_brings_the_usual(world, as_role, dispatcher):
    change_job(world, as_role, worth=120)
    assert told(dispatcher, world)["known"] is False
    assert [visit["worth"] for visit in an_order(world, dispatcher)["visits"]] == [120]


def test_other_lines_change_what_the_visits_bring_and_can_be_set_back(job, world, dispatcher):
    order = an_order(world, dispatcher)
    body = {"version": order["version"], "lines": [line("l1", "door-drive")], "discounts": []}
    changed = dispatcher.put(f"/orders/{order['id']}/lines", body)
    assert changed.status_code == 200, changed.json()
    order = changed.json()
    assert ([visit["worth"] for visit in order["visits"]], order["sums"]["margin"]["margin"]) == ([400], 14_000)
    stale = dispatcher.put(f"/orders/{order['id']}/lines", body)
    assert (stale.status_code, "was faster" in stale.json()["title"]) == (409, True)
    order = dispatcher.post(f"/orders/{order['id']}/lines/reset", {"version": order["version"]}).json()
    assert [visit["worth"] for visit in order["visits"]] == [75]


def test_later_prices_do_not_reach_an_order_that_is_made(job, prices, world, dispatcher):
    order = an_order(world, dispatcher)
    for item in prices.get("/pricing/items").json():
        prices.put(f"/pricing/items/{item['id']}", {**item, "price": item["price"] * 2})
    assert dispatcher.get(f"/orders/{order['id']}").json()["sums"] == order["sums"]


def test_what_a_visit_brings_is_not_typed_where_the_lines_say_it(job, world, dispatcher):
    visit = an_order(world, dispatcher)["visits"][0]
    names = (
        "duration_seconds",
        "priority",
        "needs",
        "promise",
        "earliest",
        "due",
        "notes",
        "pinned",
        "worth",
        "version",
    )
    body = {name: visit[name] for name in names}
    answer = dispatcher.put(f"/visits/{visit['id']}/fields", {**body, "worth": 999})
    assert (answer.status_code, answer.json()["field"]) == (422, "worth")


@pytest.mark.parametrize(
    ("changes", "field"),
    [
        ({"labour_item": "door-drive"}, "labour_item"), ({"skill_items": {"none": "hour-of-a-fitter"}}, "skill_items"),
        ({"travel_item": "door-drive"}, "travel_item"), ({"travel": {"flat": {"999999": 1}}}, "travel"),
        ({"surcharges": [{"name": "Late", "percent": 5, "week": ["25:00-26:00"] * 7}]}, "surcharges"),
        ({"surcharges": [{"name": "Never", "percent": 5, "week": [""] * 7}]}, "surcharges"),
        ({"surcharges": [{"name": " ", "percent": 5, "week": ["08:00-09:00"] * 7}]}, "surcharges"),
    ],
)  # fmt: skip
def test_rules_that_cannot_be_are_refused_at_their_field(prices, changes, field):
    rules = prices.get("/pricing/charging").json()
    answer = prices.put("/pricing/charging", {**rules, **changes})
    assert (answer.status_code, answer.json()["field"]) == (422, field)
    assert not Charging.objects.exclude(version=0).exists()


def test_who_was_first_is_told_to_who_was_second(prices):
    first = evening(prices)
    assert first["version"] == 1
    stale = prices.put("/pricing/charging", {**first, "version": 0})
    assert stale.status_code == 409


def test_the_price_that_reaches_what_is_wanted_does_and_so_does_the_effort(prices, as_role, dispatcher):
    company = as_role("administrator").get("/company/settings").json()
    body = {"version": company["version"], "changes": {"wanted_per_hour": 80}}
    as_role("administrator").post("/company/settings", body)
    lines = {"lines": [line("l1", "hour-of-a-fitter", 3), line("l2", "door-roller", 1)], "discounts": [
        {"name": "For you", "percent": 10}]}  # fmt: skip
    before = dispatcher.post("/figures", {"sets": [lines]}).json()["sets"][0]["effort"]
    assert (before["per_hour"], before["wanted"]) == (5_100, 8_000)
    for by in ("price", "effort"):
        rows = {row["key"]: row for row in dispatcher.post("/figures/reach", {"lines": lines, "by": by}).json()}
        applied = [
            {**one, **{name: rows[one["key"]][name] for name in ("unit_price", "effort")}} for one in lines["lines"]
        ]
        after = dispatcher.post("/figures", {"sets": [{**lines, "lines": applied}]}).json()["sets"][0]
        assert after["effort"]["per_hour"] >= 8_000, by
        assert after["effort"]["per_hour"] < 8_100, by


def test_orders_by_tag_come_to_what_their_totals_say(job, world, as_role, dispatcher):
    as_role("administrator").post("/company/tags", {"name": "Goodwill"})
    first, _second = book(dispatcher, world), book(dispatcher, world)
    lines = [line("l1", "door-roller", 2, tag="goodwill"), line("l2", "hour-of-a-fitter")]
    body = {"version": first["version"], "lines": lines, "discounts": [{"name": "Regular", "percent": "5"}]}
    assert dispatcher.put(f"/orders/{first['id']}/lines", body).status_code == 200
    rows = dispatcher.post("/orders/list", {}).json()["rows"]
    nets = [dispatcher.get(f"/orders/{row['id']}").json()["sums"]["totals"]["net"] for row in rows]
    found = dispatcher.post("/orders/by-tag", {}).json()
    assert (found["net"], found["orders"], found["without"]) == (sum(nets), 2, 0)
    assert [(row["tag"], row["orders"], row["net"]) for row in found["tags"]] == [
        ("", 2, 12_500), ("Goodwill", 1, 4_000),
    ]  # fmt: skip
    assert found["off"] == 450
    nobody = dispatcher.post("/orders/by-tag", {"filters": {"text": "nothing like it"}}).json()
    assert (nobody["tags"], nobody["net"]) == ([], 0)


def test_too_many_orders_are_not_counted_by_tag(job, world, dispatcher, monkeypatch):
    monkeypatch.setattr("apps.orders.by_tag.MOST_ORDERS", 1)
    for _ in range(2):
        book(dispatcher, world)
    answer = dispatcher.post("/orders/by-tag", {})
    assert (answer.status_code, answer.json()["code"]) == (422, "too_many")


def test_the_highest_price_told_is_that_of_work_that_takes_as_long_as_four_in_five_do(job, world, dispatcher):
    # Planned are 45 minutes, it takes an hour and a half: twice the labour of its lines.
    LearnedLength.objects.create(job_type=world.door_job, mean=5_400, spread=0, count=20)
    said = told(dispatcher, world)
    order = an_order(world, dispatcher)
    assert (said["low"], said["exact"]) == (9_000, order["sums"]["totals"]["gross"])
    longer = {"version": order["version"], "lines": [line("l1", "hour-of-a-fitter", 3)], "discounts": []}
    order = dispatcher.put(f"/orders/{order['id']}/lines", longer).json()
    assert said["high"] == order["sums"]["totals"]["gross"] == 18_000
