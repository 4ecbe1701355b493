"""The page of a quote, attacked: no address is found by guessing, nothing else is signed than what was read, and
however often and at once it is signed, there is one order."""

from concurrent.futures import ThreadPoolExecutor
from threading import Barrier

import pytest
from django.db import connection
from django.test import Client

from apps.orders.models import WorkOrder
from apps.quotes.models import Answer, Question, QuoteVersion
from tests.apps.quotes.conftest import PNG, address, approval, desk, prices, quote, send, sent  # noqa: F401

# Fixtures of the quotes' own tests are used here as they are.
SCRIPT = "<script>alert(1)</script>"


def post(path, body, **more):
    return Client(HTTP_HOST="127.0.0.1").post(f"/api/v1{path}", body, content_type="application/json", **more)


def get(path):
    return Client(HTTP_HOST="127.0.0.1").get(f"/api/v1{path}")


@pytest.mark.django_db
@pytest.mark.parametrize(
    "guess",
    [
        "a" * 32,
        "1" * 20,
        "A-_" * 10,
        "0" * 40,
        "..%2F..%2Fquotes%2F1",
        "'%20OR%201=1--aaaaaaaaaaaa",
        "%00" * 20,
        "é" * 30,
    ],
)
def test_no_address_is_found_by_guessing(sent, guess):  # noqa: F811
    for path in ("", "/pdf"):
        assert get(f"/public/quotes/{guess}{path}").status_code in (400, 404, 422)
    for path in ("/approve", "/refuse", "/ask", "/seen", "/total"):
        body = {"option": "a", "name": "X", "digest": "x", "gross": 1, "accepts_terms": True, "text": "Who?"}
        assert post(f"/public/quotes/{guess}{path}", body).status_code in (400, 404, 422)
    assert not Answer.objects.exists()


@pytest.mark.django_db
def test_an_address_is_long_enough_and_says_nothing_of_its_quote(sent, desk):  # noqa: F811
    again = desk.post(f"/quotes/{sent['id']}/revise", {"version": sent["version"]}).json()
    send(desk, again)
    nonces = list(QuoteVersion.objects.values_list("nonce", flat=True))
    assert all(len(nonce) == 32 for nonce in nonces)
    assert len(set(nonces)) == 2
    # Nobody who is signed in and may not see quotes finds it by number, nor anybody from outside.
    assert get(f"/quotes/{sent['id']}").status_code == 401


@pytest.mark.django_db
def test_lines_and_totals_cannot_be_changed_from_outside(sent):  # noqa: F811
    at = address(sent)
    shown = get(at).json()
    lines = [{"key": "l1", "wording": "Everything", "unit_price": 1}]
    for more in ({"gross": 1}, {"gross": -9_000}, {"gross": 9_000.5}, {"ticked": ["l2"]}, {"option": "b"}):
        assert post(f"{at}/approve", {**approval(shown), **more}).status_code in (409, 422)
    # What is sent besides is of no account.
    done = post(f"{at}/approve", {**approval(shown), "lines": lines, "quote_id": 1, "version": 99, "at": 0})
    assert done.status_code == 200
    [order] = WorkOrder.objects.all()
    assert [row["wording"] for row in order.lines] == ["Hour of a fitter"]
    assert order.lines[0]["price"] == 5_000


@pytest.mark.django_db
def test_script_in_names_and_words_is_words(sent):  # noqa: F811
    at = address(sent)
    assert post(f"{at}/ask", {"name": SCRIPT, "text": SCRIPT}).status_code == 201
    assert post(f"{at}/approve", approval(get(at).json(), name=SCRIPT, drawing=PNG)).status_code == 200
    pdf = get(f"{at}/pdf")
    assert (pdf.status_code, pdf["Content-Type"]) == (200, "application/pdf")
    assert get(at)["Content-Type"].startswith("application/json")


@pytest.mark.django_db
@pytest.mark.parametrize(
    "drawing",
    ["data:image/svg+xml;base64,PHN2Zz4=", "A" * 124_000, "data:image/png;base64," + "A" * 200, "\x00", "🙂"],
)
def test_a_signature_that_is_no_picture_is_refused(sent, drawing):  # noqa: F811
    at = address(sent)
    answer = post(f"{at}/approve", approval(get(at).json(), drawing=drawing))
    assert answer.status_code == 422
    assert not WorkOrder.objects.exists()


@pytest.mark.django_db
@pytest.mark.parametrize(
    "body",
    [
        "",
        "{",
        "[]",
        '{"option": null}',
        '{"ticked": "l2"}',
        '{"gross": "NaN"}',
        '{"gross": 1e400}',
        '{"name": {"a": 1}}',
    ],
)
def test_what_is_no_answer_is_refused_and_nothing_breaks(sent, body):  # noqa: F811
    client = Client(HTTP_HOST="127.0.0.1", raise_request_exception=False)
    for path in ("/approve", "/refuse", "/ask", "/total"):
        answer = client.post(f"/api/v1{address(sent)}{path}", body, content_type="application/json")
        assert 400 <= answer.status_code < 500, path


@pytest.mark.django_db
def test_nobody_floods_the_author_with_questions(sent):  # noqa: F811
    at = address(sent)
    answers = [post(f"{at}/ask", {"name": "X", "text": f"Why {number}?"}).status_code for number in range(14)]
    assert answers.count(201) == 10
    assert set(answers) == {201, 429}
    assert Question.objects.count() == 10


@pytest.mark.django_db(transaction=True)
def test_signed_by_many_at_once_there_is_one_order(sent):  # noqa: F811
    at = address(sent)
    shown = get(at).json()
    together = Barrier(6)

    def sign(number):
        together.wait()
        try:
            return post(f"{at}/approve", approval(shown, name=f"Signer {number % 3}")).status_code
        finally:
            connection.close()

    with ThreadPoolExecutor(6) as pool:
        found = list(pool.map(sign, range(6)))
    assert set(found) <= {200, 409}
    # Whoever was first, and whoever sent just the same again.
    assert 1 <= found.count(200) <= 2
    assert (WorkOrder.objects.count(), Answer.objects.count()) == (1, 1)


@pytest.mark.django_db(transaction=True)
def test_signed_while_a_new_version_is_sent_one_of_the_two_holds(sent, desk):  # noqa: F811
    at = address(sent)
    shown = get(at).json()
    again = desk.post(f"/quotes/{sent['id']}/revise", {"version": sent["version"]}).json()
    together = Barrier(2)

    def sign():
        together.wait()
        try:
            return post(f"{at}/approve", approval(shown)).status_code
        finally:
            connection.close()

    def replace():
        together.wait()
        try:
            return desk.client.post(
                f"/api/v1/quotes/{again['id']}/send", {"version": again["version"], "how": "on paper"},
                content_type="application/json",
            ).status_code  # fmt: skip
        finally:
            connection.close()

    with ThreadPoolExecutor(2) as pool:
        signed, replaced = pool.submit(sign), pool.submit(replace)
    assert (signed.result(), replaced.result()) in ((200, 409), (409, 200), (200, 422))
    assert WorkOrder.objects.count() == (signed.result() == 200)
