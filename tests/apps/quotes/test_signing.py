"""The customer's side: read, choose, sign, refuse, ask; and what becomes of it."""

from base64 import b64decode
from datetime import timedelta

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client

from apps.messages.models import Message
from apps.orders.models import Visit, WorkOrder
from apps.quotes import commands, presenting
from apps.quotes.models import Answer, Quote, QuoteVersion
from foundation import clock
from foundation.models import StoredFile
from tests.apps.conftest import Api
from tests.apps.quotes.conftest import PNG, REPAIR, address, approval, change, send


@pytest.fixture
def customer():
    """Somebody with a browser and no account."""
    return Api(Client(HTTP_HOST="127.0.0.1"))


def test_what_is_read_has_no_costs_in_it(customer, sent):
    shown = customer.get(address(sent))
    assert shown.status_code == 200
    assert not {"cost", "effort", "margin", "technician_note", "note"} & set(_names(shown.json()))
    assert "Key at the porter's" not in shown.content.decode()
    first, second = shown.json()["options"]
    assert (first["totals"]["gross"], second["totals"]["gross"]) == (9_000, 66_000)
    # Prices are read with tax: what each line says adds up to what is paid.
    assert sum(line["amount"] for line in second["lines"]) == 66_000


def _names(value):
    if isinstance(value, dict):
        return [*value, *(name for one in value.values() for name in _names(one))]
    return [name for one in value for name in _names(one)] if isinstance(value, list) else []


def test_each_choice_costs_what_signing_it_will(customer, sent):
    at = address(sent)
    shown = customer.get(at).json()
    for option, ticked in (("a", []), ("a", ["l2"]), ("b", [])):
        told = customer.post(f"{at}/total", {"option": option, "ticked": ticked}).json()
        assert told["totals"]["gross"] == approval(shown, option, ticked)["gross"]
    assert customer.post(f"{at}/total", {"option": "b", "ticked": ["l1"]}).status_code == 422


def test_signed_it_is_an_order_in_the_backlog_with_all_that_was_agreed(customer, desk, world, sent):
    at = address(sent)
    shown = customer.get(at).json()
    done = customer.post(f"{at}/approve", approval(shown, "a", ["l2"], drawing=PNG))
    assert done.status_code == 200, done.json()
    order = WorkOrder.objects.get()
    assert (order.origin, order.site, order.customer) == ("quote", world.site, world.customer)
    assert (order.title, order.technician_note) == ("Door drive: Repair", "Key at the porter's.")
    assert [(row["wording"], row["quantity"], row["price"], row["optional"]) for row in order.lines] == [
        ("Hour of a fitter", "1.5", 5_000, False), ("Door roller", "4", 2_000, False),
    ]  # fmt: skip
    [visit] = order.visits.all()
    assert (visit.state, visit.duration_seconds, visit.worth) == ("open", 5400, 155)
    quote = desk.get(f"/quotes/{sent['id']}").json()
    assert (quote["state"], quote["order_id"], quote["gross"]) == ("approved", order.pk, 18_600)
    assert quote["versions"][0]["answer"]["name"] == "Marta Vale"
    assert desk.get(f"/orders/{order.pk}").json()["sums"]["totals"]["gross"] == 18_600
    assert desk.get(f"/quotes/of/order/{order.pk}").json()[0]["number"] == quote["number"]


def test_signed_twice_it_is_one_order(customer, sent):
    at = address(sent)
    body = approval(customer.get(at).json())
    first, again = (customer.post(f"{at}/approve", body) for _ in range(2))
    assert (first.status_code, first.json()) == (again.status_code, again.json())
    other = customer.post(f"{at}/approve", {**body, "name": "Somebody else"})
    assert (other.status_code, other.json()["title"]) == (409, "This quote was approved.")
    assert (WorkOrder.objects.count(), Answer.objects.count()) == (1, 1)


@pytest.mark.parametrize(
    ("more", "status", "words"),
    [
        ({"gross": 1}, 409, "total is another"), ({"digest": "0" * 64}, 409, "has changed"),
        ({"accepts_terms": False}, 422, "Accept the terms"), ({"name": " "}, 422, "Write your name"),
        ({"option": "z"}, 422, "Choose one"), ({"ticked": ["l1"]}, 422, "nothing to tick"),
        ({"drawing": "bm8gcG5n"}, 422, "signature could not be read"),
        ({"drawing": "%%%"}, 422, "signature could not be read"),
    ],
)  # fmt: skip
def test_what_was_not_read_is_not_signed(customer, sent, more, status, words):
    at = address(sent)
    answer = customer.post(f"{at}/approve", {**approval(customer.get(at).json()), **more})
    assert answer.status_code == status
    assert words in answer.json()["title"]
    assert not Answer.objects.exists()
    assert not WorkOrder.objects.exists()


def test_a_newer_version_replaces_the_old_one_and_says_what_changed(customer, desk, sent):
    old = address(sent, 1)
    body = approval(customer.get(old).json())
    quote = desk.post(f"/quotes/{sent['id']}/revise", {"version": sent["version"]}).json()
    assert (quote["state"], quote["editable"]) == ("sent", True)
    dearer = {**REPAIR, "lines": [{**REPAIR["lines"][0], "quantity": 2}]}
    quote = send(desk, change(desk, quote, content={"options": [dearer]}).json()).json()
    new = customer.get(address(quote, 2)).json()
    assert new["changes"] == [
        "“Replace the drive” is no longer offered", "without Door roller", "Hour of a fitter: 2 instead of 1.5",
        "EUR 120.00 with tax instead of EUR 90.00",
    ]  # fmt: skip
    late = customer.post(f"{old}/approve", body)
    assert (late.status_code, "newer version" in late.json()["title"]) == (409, True)
    assert not WorkOrder.objects.exists()


def test_until_the_new_version_is_sent_the_old_one_can_be_signed(customer, desk, sent):
    desk.post(f"/quotes/{sent['id']}/revise", {"version": sent["version"]})
    at = address(sent)
    assert customer.post(f"{at}/approve", approval(customer.get(at).json())).status_code == 200
    quote = desk.get(f"/quotes/{sent['id']}").json()
    assert (quote["state"], quote["revising"], quote["editable"]) == ("approved", False, False)


def test_no_later_price_or_tax_reaches_what_was_sent(customer, prices, sent):
    at = address(sent)
    before = customer.get(at).json()
    for item in prices.get("/pricing/items").json():
        prices.put(f"/pricing/items/{item['id']}", {**item, "price": 99_900})
    [code] = prices.get("/pricing/tax-codes").json()
    prices.put(f"/pricing/tax-codes/{code['id']}", {**code, "rates": [{"percent": "5", "valid_from": "2026-01-01"}]})
    assert customer.get(at).json() == before
    assert customer.post(f"{at}/approve", approval(before)).status_code == 200
    assert WorkOrder.objects.get().lines[0]["price"] == 5_000


def test_an_expired_quote_says_so_and_is_no_order(customer, desk, sent, now):
    at = address(sent)
    body = approval(customer.get(at).json())
    with clock.frozen(now + timedelta(days=31)):
        late = customer.post(f"{at}/approve", body)
        assert (late.status_code, "has expired" in late.json()["title"]) == (409, True)
        assert commands.expire_overdue(now=clock.now()) == 1
        assert commands.expire_overdue(now=clock.now()) == 0
    quote = desk.get(f"/quotes/{sent['id']}").json()
    assert (quote["state"], quote["why"]) == ("expired", "expired")


def test_on_its_last_day_it_can_still_be_signed(customer, sent, now):
    at = address(sent)
    body = approval(customer.get(at).json())
    with clock.frozen(now + timedelta(days=30)):
        assert commands.expire_overdue(now=clock.now()) == 0
        assert customer.post(f"{at}/approve", body).status_code == 200


def test_an_address_that_was_taken_back_leads_nowhere(customer, desk, sent):
    at = address(sent)
    body = approval(customer.get(at).json())
    quote = desk.post(f"/quotes/{sent['id']}/revoke", {"version": sent["version"]}).json()
    assert quote["versions"][0]["path"] == ""
    assert customer.get(at).status_code == 404
    assert customer.post(f"{at}/approve", body).status_code == 409
    again = send(desk, quote).json()
    assert customer.get(address(again)).status_code == 200


def test_refused_it_says_why_and_can_be_made_anew(customer, desk, sent):
    at = address(sent)
    no = {"name": "Marta Vale", "why": "too dear", "note": "We found somebody."}
    first, again = (customer.post(f"{at}/refuse", no) for _ in range(2))
    assert (first.status_code, first.json()) == (200, again.json())
    quote = desk.get(f"/quotes/{sent['id']}").json()
    assert (quote["state"], quote["why"], quote["why_note"]) == ("refused", "too dear", "We found somebody.")
    assert customer.post(f"{at}/approve", approval(customer.get(at).json())).status_code == 409
    quote = desk.post(f"/quotes/{sent['id']}/revise", {"version": quote["version"]}).json()
    assert (quote["state"], quote["why"]) == ("draft", "")
    again = send(desk, quote).json()
    assert customer.get(address(again)).json()["problem"] == ""


def test_a_question_lands_with_the_author_and_its_answer_with_the_customer(customer, desk, sent):
    at = address(sent)
    assert customer.post(f"{at}/ask", {"name": "Marta", "text": "Does it need the crane?"}).status_code == 201
    [due] = desk.get("/office-reminders").json()
    assert (due["about"], due["about_id"], "crane" in due["text"]) == ("quote", sent["id"], True)
    [question] = desk.get(f"/quotes/{sent['id']}").json()["questions"]
    path = f"/quotes/{sent['id']}/questions/{question['id']}"
    assert desk.post(path, {"text": "No."}).status_code == 200
    assert desk.post(path, {"text": "Yes."}).status_code == 409
    assert customer.get(at).json()["questions"][0]["answer"] == "No."
    assert Message.objects.filter(quote=sent["id"], text__contains="No.").count() == 1
    done = {"version": due["version"], "at": due["at"], "text": due["text"], "done": True}
    assert desk.put(f"/office-reminders/{due['id']}", done).json()["done"]
    assert desk.get("/office-reminders").json() == []


def test_what_is_sent_goes_out_once_with_its_address_and_is_counted_when_it_is_opened(customer, desk, sent):
    [message] = Message.objects.filter(quote=sent["id"])
    assert (message.channel, message.address) == ("e-mail", "marta@seagate.example")
    assert sent["versions"][0]["path"] in message.text
    for _ in range(3):
        assert customer.post(f"{address(sent)}/seen").status_code == 204
    [version] = desk.get(f"/quotes/{sent['id']}").json()["versions"]
    assert (version["seen_count"], version["first_seen"] is not None) == (3, True)


def test_what_was_signed_is_kept_as_a_file_once(customer, sent):
    at = address(sent)
    customer.post(f"{at}/approve", approval(customer.get(at).json(), drawing=PNG))
    answer = Answer.objects.get()
    assert [commands.file_paper(now=clock.now(), answer_id=answer.pk) for _ in range(2)] == [True, False]
    paper = StoredFile.objects.get(record="quote", record_id=sent["id"])
    assert paper.name == "Q-1001-1-signed.pdf"
    with paper.content.open("rb") as found:
        assert found.read(5) == b"%PDF-"
    assert len(answer.digest) == 64
    assert answer.signed["version_digest"] == QuoteVersion.objects.get().digest


def test_a_company_that_needs_more_for_an_order_keeps_the_approval_all_the_same(customer, desk, world, sent):
    world.customer.needs_po_number = True
    world.customer.save()
    at = address(sent)
    assert customer.post(f"{at}/approve", approval(customer.get(at).json())).status_code == 200
    quote = desk.get(f"/quotes/{sent['id']}").json()
    assert (quote["state"], quote["order"]) == ("approved", None)
    assert "purchase-order number" in quote["why_note"]
    path = f"/quotes/{sent['id']}/order"
    assert desk.post(path, {"version": quote["version"]}).status_code == 422
    world.customer.needs_po_number = False
    world.customer.save()
    made = desk.post(path, {"version": quote["version"]})
    assert (made.status_code, made.json()["order"] is not None) == (200, True)
    assert desk.post(path, {"version": made.json()["version"]}).status_code == 422


def test_authors_are_reminded_to_ask_once(desk, sent, now):
    assert commands.follow_up(now=now) == 0
    with clock.frozen(now + timedelta(days=5)):
        assert commands.follow_up(now=clock.now()) == 1
        assert commands.follow_up(now=clock.now()) == 0
    [due] = desk.get("/office-reminders").json()
    assert due["text"] == "Ask Marta Vale about Q-1001 “Door drive”"


def test_surveys_wait_in_the_backlog_and_the_quote_waits_for_them(desk, quote):
    path = f"/quotes/{quote['id']}/surveys"
    one = desk.post(path, {"what": "Measure the shaft"}).json()
    two = desk.post(path, {"what": "And the pit", "minutes": 30}).json()
    assert [row["title"] for row in two["surveys"]][-1] == "And the pit"
    assert len({row["order_id"] for row in two["surveys"]}) == 1
    visits = Visit.objects.order_by("pk")
    assert [(visit.state, visit.duration_seconds) for visit in visits] == [("open", 3600), ("open", 1800)]
    assert WorkOrder.objects.get().billing == "not billable"
    [row] = desk.post("/quotes/list", {"filters": {"waits": "survey"}}).json()["rows"]
    assert (row["number"], row["waits"]) == (one["number"], ["2 surveys"])


def picture_of(desk, record, key, name):
    path = f"/api/v1/files/{record}/{key}"
    kept = desk.client.post(path, {"file": SimpleUploadedFile(name, b64decode(PNG), "image/png")})
    assert kept.status_code == 201, kept.content
    return kept.json()["id"]


def test_what_was_photographed_at_a_survey_can_be_shown_to_the_customer(
    customer, desk, quote, world, tmp_path, settings
):
    settings.MEDIA_ROOT = tmp_path
    asked = desk.post(f"/quotes/{quote['id']}/surveys", {"what": "Measure the shaft"}).json()
    shaft = picture_of(desk, "order", asked["surveys"][0]["order_id"], "shaft.png")
    elsewhere = picture_of(desk, "order", world.visit().order_id, "somewhere.png")
    refused = change(desk, asked, content={"pictures": [elsewhere]})
    assert (refused.status_code, refused.json()["field"]) == (422, "pictures")
    changed = change(desk, asked, content={"pictures": [shaft]})
    shown = customer.get(address(send(desk, changed.json()).json())).json()
    assert [row["name"] for row in shown["pictures"]] == ["shaft.png"]


def test_a_data_sheet_goes_with_the_quote_and_no_other_file_is_there(customer, desk, quote, tmp_path, settings):
    settings.MEDIA_ROOT = tmp_path
    sheet, own = (
        desk.client.post(
            f"/api/v1/files/quote/{quote['id']}", {"file": SimpleUploadedFile(name, b"%PDF-1.4", "application/pdf")}
        ).json()["id"]
        for name in ("drive.pdf", "our-costs.pdf")
    )
    changed = change(desk, quote, content={"pictures": [sheet]})
    at = address(send(desk, changed.json()).json())
    assert [row["name"] for row in customer.get(at).json()["attachments"]] == ["drive.pdf"]
    given = customer.get(f"{at}/files/{sheet}")
    assert (given.status_code, b"".join(given.streaming_content)) == (200, b"%PDF-1.4")
    assert customer.get(f"{at}/files/{own}").status_code == 404
    assert customer.get(f"/public/quotes/{'x' * 32}/files/{sheet}").status_code == 404


def test_a_quote_that_is_withdrawn_is_lost_for_its_reason(customer, desk, sent):
    gone = {"version": sent["version"], "why": "customer moved away"}
    assert desk.post(f"/quotes/{sent['id']}/withdraw", gone).json()["state"] == "withdrawn"
    answer = customer.get(address(sent)).json()
    assert "withdrawn" in answer["problem"]
    listed = desk.post("/quotes/list", {"filters": {}}).json()
    assert listed["lost"] == [{"why": "customer moved away", "count": 1, "net": 7_500}]


def test_sums_of_the_pipeline_follow_states_and_chances(desk, customer, sent, world):
    other = desk.post("/quotes", {"site_id": world.site.pk}).json()
    change(desk, other, chance=20)
    sums = {row["state"]: row for row in desk.post("/quotes/list", {"filters": {}}).json()["sums"]}
    assert sums["sent"] == {"state": "sent", "count": 1, "net": 7_500, "likely": 3_750}
    assert sums["draft"] == {"state": "draft", "count": 1, "net": 7_500, "likely": 1_500}
    assert sums["approved"]["count"] == 0
    assert Quote.objects.count() == 2


def test_the_list_counts_what_was_signed_and_the_order_costs_it(customer, desk, sent):
    at = address(sent)
    shown = customer.get(at).json()
    assert customer.post(f"{at}/approve", approval(shown, "a", ["l2"])).status_code == 200
    listed = desk.post("/quotes/list", {"filters": {}}).json()
    order = desk.get(f"/orders/{WorkOrder.objects.get().pk}").json()["sums"]["totals"]
    [row] = listed["rows"]
    assert (row["net"], row["gross"]) == (order["net"], order["gross"]) == (15_500, 18_600)
    assert next(one["net"] for one in listed["sums"] if one["state"] == "approved") == 15_500


def test_page_paper_and_order_say_the_same_to_the_cent(customer, desk, prices, quote):
    """Two rates, thirds of a cent, a discount on a line and one on the whole: what is read with tax adds up."""
    low = {"name": "Low", "category": "reduced", "rates": [{"percent": "6", "valid_from": "2026-01-01"}]}
    assert prices.post("/pricing/tax-codes", low).status_code == 201
    lines = [
        {"key": "l1", "wording": "Plate", "unit_price": 3_333, "quantity": 3, "tax": "full-rate"},
        {"key": "l2", "wording": "Handbook", "unit_price": 1_001, "quantity": "0.7", "tax": "low"},
        {"key": "l3", "wording": "Screw", "unit_price": 7, "quantity": 13, "tax": "full-rate",
         "discount": {"name": "Box", "percent": "12.5"}},
    ]  # fmt: skip
    way = {"key": "a", "name": "All", "lines": lines, "discounts": [{"name": "Regular", "percent": "3"}]}
    changed = change(desk, quote, content={"options": [way]})
    assert changed.status_code == 200, changed.json()
    ready = send(desk, changed.json()).json()
    [shown] = customer.get(address(ready)).json()["options"]
    gross = shown["totals"]["gross"]
    assert sum(row["amount"] for row in shown["lines"]) - sum(row["amount"] for row in shown["discounts"]) == gross
    version = QuoteVersion.objects.get()
    paper = presenting._words(version, None)["options"][0]
    words = [presenting.money_words(row["amount"], version.content["currency"]) for row in shown["lines"]]
    assert [row["net"] for row in paper["lines"]] == words
    assert paper["gross"] == presenting.money_words(gross, version.content["currency"])
    body = {
        "option": "a",
        "ticked": [],
        "name": "Marta",
        "digest": version.digest,
        "gross": gross,
        "accepts_terms": True,
    }
    assert customer.post(f"{address(ready)}/approve", body).status_code == 200
    assert desk.get(f"/orders/{WorkOrder.objects.get().pk}").json()["sums"]["totals"]["gross"] == gross
