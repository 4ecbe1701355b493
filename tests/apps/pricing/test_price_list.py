"""The price list, tax codes, and lists of prices that hold from a day on."""

from datetime import date, timedelta
from decimal import Decimal

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from apps.customers.models import Customer, Merge
from apps.pricing import queries
from apps.pricing.commands import raise_list, set_price
from apps.pricing.inputs import PriceHolder
from apps.pricing.models import Item, Price, PriceList, TaxCode
from core.pricing import Raise
from foundation import clock
from tests.apps.conftest import MONDAY

NEXT_YEAR = date(2027, 1, 1)
FULL = {"name": "Full rate", "category": "standard", "rates": [{"percent": "23", "valid_from": "2026-01-01"}]}
HOUR = {"kind": "labour", "wording": "Hour of a fitter", "unit": "HUR", "price": 5800, "cost": 3200, "tax": "full-rate"}


@pytest.fixture
def manager(as_role):
    return as_role("manager")


@pytest.fixture
def hour(manager):
    assert manager.post("/pricing/tax-codes", FULL).status_code == 201
    made = manager.post("/pricing/items", HOUR)
    assert made.status_code == 201, made.json()
    return made.json()


def price(api, item, **asked):
    return api.get(f"/pricing/items/{item['id']}/price", **asked).json()


def test_an_item_is_made_changed_and_told_who_was_first(manager, hour):
    assert (hour["key"], hour["version"], hour["tax"]) == ("hour-of-a-fitter", 1, "full-rate")
    changed = {**HOUR, "price": 6000, "effort": 1000, "version": 1}
    assert manager.put(f"/pricing/items/{hour['id']}", changed).json()["price"] == 6000
    assert manager.put(f"/pricing/items/{hour['id']}", changed).status_code == 409
    [row] = manager.get("/pricing/items").json()
    assert (row["price"], row["effort"], row["version"]) == (6000, 1000, 2)


@pytest.mark.parametrize(
    ("fields", "field"),
    [
        ({"wording": "hour of a FITTER"}, "wording"), ({"wording": " "}, "wording"),
        ({"wording": "X", "tax": "none"}, "tax"),
        ({"wording": "X", "unit": "???"}, "wording"), ({"wording": "X", "price": -1}, "wording"),
    ],
)  # fmt: skip
def test_what_cannot_be_an_item_is_refused_at_its_field(manager, hour, fields, field):
    answer = manager.post("/pricing/items", {**HOUR, **fields})
    assert (answer.status_code, answer.json()["field"]) == (422, field)
    assert Item.objects.count() == 1


def test_a_retired_item_is_offered_no_more(manager, hour):
    manager.put(f"/pricing/items/{hour['id']}", {**HOUR, "retired": True, "version": 1})
    assert manager.get("/pricing/items").json() == []
    assert len(manager.get("/pricing/items", retired=True).json()) == 1


def test_a_rate_changes_on_its_day(manager, hour):
    [code] = manager.get("/pricing/tax-codes").json()
    rates = [*FULL["rates"], {"percent": "24.5", "valid_from": "2026-11-24"}]
    changed = manager.put(f"/pricing/tax-codes/{code['id']}", {**FULL, "rates": rates, "version": 1})
    assert changed.json()["percent"] == "23"
    with clock.frozen(clock.now() + timedelta(days=1)):
        assert manager.get("/pricing/tax-codes").json()[0]["percent"] == "24.5"


@pytest.mark.parametrize(
    ("fields", "field"),
    [
        ({"rates": []}, "rates"), ({"name": "full RATE"}, "name"), ({"category": "exempt", "rates": []}, "rates"),
        ({"rates": [*FULL["rates"], *FULL["rates"]]}, "rates"),
    ],
)  # fmt: skip
def test_what_cannot_be_a_tax_code_is_refused(manager, hour, fields, field):
    answer = manager.post("/pricing/tax-codes", {**FULL, "name": "Other", **fields})
    assert (answer.status_code, answer.json()["field"]) == (422, field)
    assert TaxCode.objects.count() == 1


def test_a_customer_pays_its_own_price_before_its_list_s_and_is_told_where_it_comes_from(world, manager, hour):
    harbour = manager.post("/pricing/lists", {"name": "Harbour"}).json()
    day = MONDAY.isoformat()
    base = {"item_id": hour["id"], "valid_from": day}
    manager.post("/pricing/prices", {**base, "price": 5400, "list_id": harbour["id"]})
    manager.post("/pricing/prices", {**base, "price": 5000, "list_id": harbour["id"], "least": "10"})
    who = {"customer_id": world.customer.pk}
    assert price(manager, hour, **who) == {"price": 5800, "source": "standard price"}
    assert manager.put(f"/pricing/terms/{world.customer.pk}", {"list_id": harbour["id"]}).status_code == 200
    assert price(manager, hour, **who) == {"price": 5400, "source": "Harbour list, from 23 Nov 2026"}
    assert price(manager, hour, quantity="10", **who)["source"] == "Harbour list, from 23 Nov 2026, from 10 on"
    manager.post("/pricing/prices", {**base, "price": 4900, **who})
    assert price(manager, hour, **who)["source"] == "own price of Seagate Stores, from 23 Nov 2026"
    [row] = manager.get("/pricing/lists").json()
    assert (row["price_count"], row["customer_count"]) == (2, 1)


@pytest.fixture
def twin(world, manager, hour):
    """The same customer a second time, on a list, without tax, with a price of its own."""
    made = Customer.objects.create(name="Seagate Stores Ltd")
    harbour = manager.post("/pricing/lists", {"name": "Harbour"}).json()
    terms = {"list_id": harbour["id"], "exempt_reason": "Mission"}
    assert manager.put(f"/pricing/terms/{made.pk}", terms).status_code == 200
    own = {"item_id": hour["id"], "valid_from": MONDAY.isoformat(), "price": 4_900, "customer_id": made.pk}
    assert manager.post("/pricing/prices", own).status_code == 201
    return made


def paid_by(api, hour, customer):
    """Where its price comes from, and whether it is on a list."""
    terms = api.get(f"/pricing/terms/{customer.pk}").json()
    return price(api, hour, customer_id=customer.pk)["price"], terms["list_id"] is not None, terms["exempt_reason"]


def test_a_merge_takes_terms_and_own_prices_along_where_there_are_none_and_gives_them_back(world, manager, hour, twin):
    assert paid_by(manager, hour, world.customer) == (5_800, False, "")
    merge = manager.post("/customers/merges", {"kept_id": world.customer.pk, "gone_id": twin.pk})
    assert merge.status_code == 201, merge.json()
    assert paid_by(manager, hour, world.customer) == (4_900, True, "Mission")
    assert manager.post(f"/customers/merges/{Merge.objects.get().pk}/undo").status_code == 200
    assert paid_by(manager, hour, world.customer) == (5_800, False, "")
    assert paid_by(manager, hour, twin) == (4_900, True, "Mission")


def test_a_customer_keeps_terms_of_its_own_in_a_merge(world, manager, hour, twin):
    manager.put(f"/pricing/terms/{world.customer.pk}", {"reads_with_tax": True})
    manager.post("/customers/merges", {"kept_id": world.customer.pk, "gone_id": twin.pk})
    assert paid_by(manager, hour, world.customer) == (4_900, False, "")
    manager.post(f"/customers/merges/{Merge.objects.get().pk}/undo")
    assert manager.get(f"/pricing/terms/{world.customer.pk}").json()["reads_with_tax"] is True
    assert paid_by(manager, hour, twin) == (4_900, True, "Mission")


def test_a_price_begins_today_or_later_and_belongs_to_one(world, manager, hour):
    base = {"item_id": hour["id"], "price": 1, "valid_from": (MONDAY - timedelta(days=1)).isoformat()}
    assert manager.post("/pricing/prices", base).json()["field"] == "valid_from"
    both = {**base, "valid_from": MONDAY.isoformat(), "list_id": 10**9, "customer_id": world.customer.pk}
    assert manager.post("/pricing/prices", both).status_code == 422
    assert manager.post("/pricing/prices", {**both, "customer_id": None}).status_code == 404
    assert not Price.objects.exists()


def test_a_list_is_raised_as_it_was_told(manager, hour):
    harbour = manager.post("/pricing/lists", {"name": "Harbour"}).json()["id"]
    manager.post(
        "/pricing/prices",
        {"item_id": hour["id"], "valid_from": MONDAY.isoformat(), "price": 5432, "list_id": harbour},
    )
    change = {"list_id": harbour, "percent": "3.5", "step": 50, "valid_from": NEXT_YEAR.isoformat()}
    told = manager.post("/pricing/raise", change).json()
    assert [(row["before"], row["after"]) for row in told] == [(5432, 5600)]
    assert Price.objects.count() == 1
    assert manager.post("/pricing/raise", {**change, "sure": True}).json() == told
    rows = manager.get("/pricing/prices", list_id=harbour).json()
    assert [(row["price"], row["valid_from"], row["valid_until"]) for row in rows] == [
        (5432, "2026-11-23", "2027-01-01"), (5600, "2027-01-01", None),
    ]  # fmt: skip


def test_everybody_s_prices_are_raised_with_those_the_items_have_themselves(manager, hour):
    change = {"amount": 200, "valid_from": NEXT_YEAR.isoformat(), "sure": True}
    assert manager.post("/pricing/raise", change).json()[0]["after"] == 6000
    assert price(manager, hour)["price"] == 5800
    assert price(manager, hour, day="2027-01-01") == {"price": 6000, "source": "standard price, from 1 Jan 2027"}
    assert manager.get("/pricing/items").json()[0]["price"] == 5800


def test_a_raise_of_nothing_or_of_an_empty_list_is_refused(manager, hour):
    harbour = manager.post("/pricing/lists", {"name": "Harbour"}).json()["id"]
    day = NEXT_YEAR.isoformat()
    assert manager.post("/pricing/raise", {"valid_from": day}).json()["field"] == "percent"
    assert manager.post("/pricing/raise", {"valid_from": day, "percent": 5, "list_id": harbour}).status_code == 422


changes = st.tuples(st.integers(0, 20), st.sampled_from(["set", "raise"]), st.integers(1, 30))


@settings(max_examples=25, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(deeds=st.lists(changes, min_size=1, max_size=5))
def test_whatever_is_changed_from_a_day_on_no_day_before_has_another_price(world, hour, deeds):
    Price.objects.all().delete()
    listed, item = PriceList.objects.get_or_create(name="Harbour")[0], Item.objects.get()
    holder, how = PriceHolder(list_id=listed.pk), {"actor": world.accounts["manager"], "now": clock.now()}
    set_price(**how, item_id=item.pk, holder=holder, price=5_000, valid_from=MONDAY)
    days = [MONDAY + timedelta(days=by) for by in range(30)]

    def prices():
        book = queries.values.book(Price.objects.select_related("item"))
        value = queries.values.item(item)
        return {day: book.price(value, Decimal(1), day, list_=listed.pk).price for day in days}

    for by, kind, number in deeds:
        since, before = MONDAY + timedelta(days=by), prices()
        if kind == "set":
            set_price(**how, item_id=item.pk, holder=holder, price=number * 100, valid_from=since)
            expected = {day: number * 100 if day >= since else was for day, was in before.items()}
        else:
            change = Raise(percent=Decimal(number))
            raise_list(**how, holder=holder, change=change, valid_from=since, sure=True)
            expected = {day: change.of(was) if day >= since else was for day, was in before.items()}
        assert prices() == expected


def test_prices_of_many_items_cost_no_more_questions(world, hour, django_assert_max_num_queries):
    code = TaxCode.objects.get()
    made = Item.objects.bulk_create(
        Item(key=f"i{at}", kind="part", wording=f"Part {at}", unit="C62", price=at, tax=code) for at in range(300)
    )
    with django_assert_max_num_queries(3):
        found = queries.prices_for([(row, Decimal(1)) for row in made], day=MONDAY, customer_id=world.customer.pk)
    assert [row.price for row in found] == list(range(300))


def test_who_plans_reads_prices_and_does_not_set_them(dispatcher, hour):
    assert len(dispatcher.get("/pricing/items").json()) == 1
    assert dispatcher.post("/pricing/items", HOUR).status_code == 403
    assert dispatcher.post("/pricing/raise", {"percent": 5, "valid_from": NEXT_YEAR.isoformat()}).status_code == 403


def test_why_no_tax_is_due_is_said_with_its_number(world, manager):
    path = f"/pricing/terms/{world.customer.pk}"
    assert manager.put(path, {"exempt_number": "D-7"}).json()["field"] == "exempt_reason"
    terms = {"list_id": None, "reads_with_tax": True, "exempt_reason": "Mission", "exempt_number": "D-7",
             "exempt_until": "2026-12-31"}  # fmt: skip
    assert manager.put(path, terms).status_code == 200
    assert manager.get(path).json() == terms
