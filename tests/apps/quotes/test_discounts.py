"""How far each may go down with a price, and who says yes to more."""

import pytest

from apps.pricing.models import NamedDiscount
from tests.apps.quotes.conftest import REPAIR, address, approval, change, line, send


def off(percent, **more):
    return [{"name": "For you", "percent": percent, **more}]


def with_discount(api, quote, percent, **more):
    return change(api, quote, content={"options": [{**REPAIR, "discounts": off(percent, **more)}]}).json()


def test_within_the_limit_nobody_is_asked(desk, quote):
    quote = with_discount(desk, quote, 10)
    assert (quote["given"], quote["discount_problem"]) == (10, "")
    assert send(desk, quote).status_code == 200


def test_above_it_somebody_who_may_agrees_first(desk, as_role, quote):
    quote = with_discount(desk, quote, 25)
    refused = send(desk, quote)
    assert (refused.status_code, refused.json()["code"]) == (422, "discount_limit")
    assert "25 % off, and you give 10 %" in refused.json()["title"]
    assert quote["may_agree"] is False
    assert desk.post(f"/quotes/{quote['id']}/agree", {"version": quote["version"]}).status_code == 403
    manager = as_role("manager")
    assert manager.get(f"/quotes/{quote['id']}").json()["may_agree"] is True
    agreed = manager.post(f"/quotes/{quote['id']}/agree", {"version": quote["version"]}).json()
    assert (agreed["agreed"], agreed["agreed_by"]) == (25, "The manager")
    assert send(desk, agreed).status_code == 200


def test_whoever_goes_further_down_after_the_yes_asks_again(desk, as_role, quote):
    quote = with_discount(desk, quote, 25)
    agreed = as_role("manager").post(f"/quotes/{quote['id']}/agree", {"version": quote["version"]}).json()
    further = with_discount(desk, agreed, 30)
    assert (further["agreed"], further["agreed_by"]) == (0, "")
    assert send(desk, further).status_code == 422
    # And back within it, nothing has to be agreed to.
    assert send(desk, with_discount(desk, further, 10)).status_code == 200


def test_nobody_agrees_to_more_than_they_may_give(as_role, desk, quote):
    company = as_role("administrator").get("/company/settings").json()
    body = {"version": company["version"], "changes": {"discount_manager": 20}}
    changed = as_role("administrator").post("/company/settings", body)
    assert changed.status_code == 200, changed.json()
    quote = with_discount(desk, quote, 25)
    answer = as_role("manager").post(f"/quotes/{quote['id']}/agree", {"version": quote["version"]})
    assert (answer.status_code, answer.json()["code"]) == (422, "discount_limit")
    administrator = as_role("administrator")
    assert administrator.post(f"/quotes/{quote['id']}/agree", {"version": quote["version"]}).status_code == 200


def test_a_price_typed_down_is_no_discount_but_one_on_a_line_is(desk, quote):
    lower = {**REPAIR, "lines": [line("l1", "hour-of-a-fitter", unit_price=100)]}
    assert change(desk, quote, content={"options": [lower]}).json()["given"] == 0
    quote = desk.get(f"/quotes/{quote['id']}").json()
    on_line = {**REPAIR, "lines": [line("l1", "hour-of-a-fitter", discount=off(50)[0])]}
    assert change(desk, quote, content={"options": [on_line]}).json()["given"] == 50


def test_on_an_order_the_same_limit_holds(desk, as_role, world):
    order = world.visit().order
    lines = {"version": 1, "lines": [line("l1", "hour-of-a-fitter", 2)], "discounts": off(25)}
    refused = desk.put(f"/orders/{order.pk}/lines", lines)
    assert (refused.status_code, refused.json()["code"]) == (422, "discount_limit")
    kept = as_role("manager").put(f"/orders/{order.pk}/lines", lines)
    assert kept.json()["sums"]["totals"]["net"] == 7_500


@pytest.fixture
def spring(prices):
    body = {"name": "Spring check", "percent": 10, "valid_until": "2026-12-31", "times": 1}
    return prices.post("/pricing/discounts", body).json()


def test_a_named_discount_is_counted_and_runs_out(desk, prices, spring, quote, client):
    quote = with_discount(desk, quote, 10, key=spring["key"])
    sent = send(desk, quote).json()
    shown = client.get(f"/api/v1{address(sent)}", HTTP_HOST="127.0.0.1").json()
    signed = client.post(
        f"/api/v1{address(sent)}/approve", {**approval(shown), "gross": 8_100}, content_type="application/json",
        HTTP_HOST="127.0.0.1",
    )  # fmt: skip
    assert signed.status_code == 200, signed.json()
    assert NamedDiscount.objects.get().given == 1
    [row] = prices.get("/pricing/discounts").json()
    assert row["problem"] == "The discount “Spring check” was given 1 times already: that is all there were."
    other = desk.post("/quotes", {"customer_id": sent["customer_id"], "site_id": sent["site_whole"]["id"]}).json()
    refused = send(desk, with_discount(desk, other, 10, key=spring["key"]))
    assert (refused.status_code, refused.json()["code"]) == (422, "discount_over")


def test_a_discount_that_has_ended_takes_nothing_off_and_says_so(desk, quote):
    quote = with_discount(desk, quote, 10, valid_until="2026-11-22")
    sums = quote["content"]["options"][0]["sums"]
    assert (sums["ended"], sums["totals"]["off"]) == (["For you"], 0)
