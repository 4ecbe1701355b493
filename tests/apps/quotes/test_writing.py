"""Writing a quote: from nothing, from a request, for more work; what it costs as it is typed."""

import pytest

from apps.orders.models import WorkOrder
from apps.quotes.models import Quote
from tests.apps.quotes.conftest import REPAIR, REPLACE, change, line, send


def test_a_quote_has_numbers_words_of_the_company_and_prices_of_today(desk, quote):
    assert (quote["number"], quote["state"], quote["author"]) == ("Q-1001", "draft", "The dispatcher")
    repair, replace = quote["content"]["options"]
    assert (repair["sums"]["totals"]["gross"], replace["sums"]["totals"]["gross"]) == (9_000, 66_000)
    assert [row["source"] for row in replace["lines"]] == ["standard price"] * 2
    assert (quote["net"], quote["gross"]) == (7_500, 9_000)
    assert repair["sums"]["margin"] == {"cost": 4500, "unknown": 0, "margin": 3000, "percent": 40.0, "at_80": None}


def test_a_request_is_carried_over_and_nothing_is_typed_again(desk, world, dispatcher):
    taken = dispatcher.post(
        "/requests",
        {
            "site_id": world.site.pk, "what_is_wrong": "The door jams in the wind", "job_type_id": world.door_job.pk,
            "asset_id": world.asset.pk, "contact_name": "Marta Vale", "contact_phone": "+351 296 555 777",
        },
    )  # fmt: skip
    assert taken.status_code == 201, taken.json()
    made = desk.post("/quotes", {"request_id": taken.json()["id"]}).json()
    assert (made["site_whole"]["id"], made["asset"]["id"]) == (world.site.pk, world.asset.pk)
    assert (made["job_type"], made["contact_name"]) == ("Noisy door", "Marta Vale")
    assert (made["contact_phone"], made["contact_email"]) == ("+351 296 555 777", "office@seagate.example")
    assert made["content"]["scope"] == "The door jams in the wind"
    assert made["content"]["options"][0]["duration_seconds"] == 2700


def test_a_job_type_brings_its_lines_and_terms(desk, world, prices):
    [job] = prices.get("/catalogue/job-types").json()
    lines = [line("l1", "hour-of-a-fitter", 2), line("l2", "door-roller", 2, optional=True)]
    body = {name: job[name] for name in ("name", "version", "duration_seconds", "needs")}
    answer = prices.put(f"/catalogue/job-types/{job['id']}", {**body, "lines": lines, "terms": "Doors only."})
    assert answer.status_code == 200, answer.json()
    made = desk.post("/quotes", {"site_id": world.site.pk, "job_type_id": job["id"]}).json()
    assert made["content"]["terms"] == "Doors only."
    assert [(row["wording"], row["optional"]) for row in made["content"]["options"][0]["lines"]] == [
        ("Hour of a fitter", False), ("Door roller", True),
    ]  # fmt: skip


def test_a_price_that_was_typed_stays_and_one_that_was_not_follows_the_list(desk, prices, quote):
    [hour] = [row for row in prices.get("/pricing/items").json() if row["key"] == "hour-of-a-fitter"]
    typed = {**REPAIR, "lines": [line("l1", "hour-of-a-fitter", 1, unit_price=4_500), line("l2", "hour-of-a-fitter")]}
    quote = change(desk, quote, content={"options": [typed]}).json()
    prices.put(f"/pricing/items/{hour['id']}", {**hour, "price": 6_000})
    quote = change(desk, quote, content={"options": [typed]}).json()
    assert [row["price"] for row in quote["content"]["options"][0]["lines"]] == [4_500, 6_000]


def test_the_customers_list_and_exemption_count(desk, prices, world, quote):
    harbour = prices.post("/pricing/lists", {"name": "Harbour"}).json()
    [drive] = [row for row in prices.get("/pricing/items").json() if row["key"] == "door-drive"]
    day = {"item_id": drive["id"], "list_id": harbour["id"], "price": 35_000, "valid_from": "2026-11-23"}
    assert prices.post("/pricing/prices", day).status_code == 201
    terms = {"list_id": harbour["id"], "exempt_reason": "Works for ships", "exempt_number": "S-1"}
    assert prices.put(f"/pricing/terms/{world.customer.pk}", terms).status_code == 200
    quote = change(desk, quote).json()
    replace = quote["content"]["options"][1]
    assert replace["lines"][1]["source"] == "Harbour list, from 23 Nov 2026"
    assert replace["sums"]["totals"]["gross"] == replace["sums"]["totals"]["net"] == 50_000
    assert replace["sums"]["totals"]["taxes"][0]["reason"] == "Works for ships (S-1)"


def test_whoever_was_faster_is_named_and_nothing_is_lost(desk, quote):
    assert change(desk, quote, title="Theirs").status_code == 200
    late = change(desk, quote, title="Mine")
    assert late.status_code == 409
    assert "The dispatcher was faster" in late.json()["title"]
    assert Quote.objects.get().title == "Theirs"


@pytest.mark.parametrize(
    ("changes", "field"),
    [
        ({"title": " "}, "title"), ({"contact_email": "nobody"}, "contact_email"),
        ({"content": {"options": [{**REPAIR, "lines": [line("l1", "gone")]}]}}, "lines"),
        ({"content": {"options": [REPAIR, {**REPLACE, "key": "a"}]}}, "options"),
        ({"content": {"options": [{**REPAIR, "lines": [line("l1", ""), line("l1", "door-drive")]}]}}, "lines"),
        ({"content": {"deposit_percent": 10, "deposit_amount": 5}}, "deposit"),
        ({"content": {"pictures": [987654]}}, "pictures"), ({"site_id": 10**9}, ""),
    ],
)  # fmt: skip
def test_what_cannot_be_is_refused_at_its_field_and_the_draft_stays(desk, quote, changes, field):
    answer = change(desk, quote, **changes)
    assert answer.status_code in (404, 422), answer.json()
    assert answer.json().get("field", "") == field
    assert desk.get(f"/quotes/{quote['id']}").json()["content"] == quote["content"]


def test_costs_and_margins_are_for_whoever_may_see_them_and_are_not_lost_by_others(as_role, desk, quote):
    free = {**REPAIR, "lines": [{"key": "f1", "wording": "Crane", "unit_price": 30_000, "cost": 21_000}]}
    quote = change(desk, quote, content={"options": [free]}).json()
    intake = as_role("intake")
    seen = intake.get(f"/quotes/{quote['id']}").json()
    option = seen["content"]["options"][0]
    assert (option["sums"]["margin"], option["lines"][0]["cost"]) == (None, None)
    assert (
        change(intake, seen, content={"options": [{**free, "lines": [{**free["lines"][0], "cost": 1}]}]}).status_code
        == 200
    )
    assert desk.get(f"/quotes/{quote['id']}").json()["content"]["options"][0]["lines"][0]["cost"] == 21_000


def test_the_items_cost_is_hidden_too(as_role, prices):
    assert {row["cost"] for row in as_role("intake").get("/pricing/items").json()} == {None}
    assert {row["cost"] for row in prices.get("/pricing/items").json()} == {3000, 26000, 900}


def test_figures_while_typing_are_those_that_are_kept(desk, quote):
    typed = [{"lines": option["lines"], "discounts": []} for option in (REPAIR, REPLACE)]
    found = desk.post("/figures", {"customer_id": quote["customer_id"], "sets": typed}).json()
    kept = [option["sums"] for option in quote["content"]["options"]]
    assert found["sets"] == kept


def test_a_quote_for_more_work_becomes_part_of_its_order(desk, world, quote):
    order = world.visit().order
    made = desk.post("/quotes", {"order_id": order.pk, "title": "Also the drive"}).json()
    assert (made["extra_work_on"], made["customer_id"]) == (order.number, world.customer.pk)
    made = change(desk, made, content={"options": [REPLACE]}).json()
    sent = send(desk, made, how="on paper").json()
    done = desk.post(
        f"/quotes/{sent['id']}/approve", {"version": sent["version"], "option": "b", "name": "Marta Vale"}
    ).json()
    assert (done["state"], done["order"]) == ("approved", order.number)
    order = WorkOrder.objects.get(pk=order.pk)
    assert [row["wording"] for row in order.lines] == ["Hour of a fitter", "Door drive"]
    assert order.visits.count() == 2
    assert sum(visit.worth for visit in order.visits.all()) == 550


def test_nobody_writes_a_quote_for_nobody(desk):
    answer = desk.post("/quotes", {"title": "X"})
    assert (answer.status_code, answer.json()["field"]) == (422, "customer_id")


@pytest.mark.parametrize("role", ["reviewer", "technician"])
def test_who_may_not_write_quotes_cannot(as_role, world, prices, role):
    assert as_role(role).post("/quotes", {"site_id": world.site.pk}).status_code == 403
