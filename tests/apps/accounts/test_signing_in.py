"""Signing in and out."""

import pytest
from django.test import Client

from tests.apps.accounts.helpers import AUTH, Visitor
from tests.apps.conftest import PASSWORD


@pytest.fixture
def visitor(world):
    return Visitor()


def test_who_signs_in_learns_what_they_may_do(visitor):
    assert visitor.sign_in(email=" Dispatcher@test.example").status_code == 200
    session = visitor.session()
    assert (session["account"]["role"], session["account"]["name"]) == ("dispatcher", "The dispatcher")
    assert "plan" in session["may"]


def test_signed_out_nothing_is_shown(visitor):
    visitor.sign_in()
    visitor.send("DELETE", "/auth/session")
    assert visitor.session()["account"] is None
    answer = visitor.client.get("/api/v1/board")
    assert (answer.status_code, answer.json()["code"]) == (401, "signed_out")


def test_a_wrong_password_says_nothing_about_the_account(visitor):
    known = visitor.sign_in(password="wrong")
    unknown = visitor.sign_in(email="nobody@test.example", password="wrong")
    assert known.json() == unknown.json()
    assert known.status_code == unknown.status_code == 400
    assert known.json()["errors"][0]["message"] == "This e-mail address and password do not belong together."


def test_after_five_failures_even_the_right_password_waits(visitor):
    answers = [visitor.sign_in(password="wrong").status_code for _ in range(5)]
    assert answers == [400] * 4 + [429]
    answer = visitor.sign_in()
    assert (answer.status_code, answer.json()["errors"][0]["code"]) == (429, "too_many_login_attempts")


def test_who_may_not_sign_in_any_more_is_told_the_same_as_a_stranger(visitor, world):
    world.accounts["dispatcher"].is_active = False
    world.accounts["dispatcher"].save()
    assert visitor.sign_in().json() == visitor.sign_in(email="nobody@test.example").json()


def test_a_change_without_the_token_is_refused(visitor):
    visitor.sign_in()
    answer = visitor.client.post("/api/v1/board/undo", {}, content_type="application/json")
    assert answer.status_code == 403


def test_signing_in_without_the_token_is_refused(visitor):
    body = {"email": "dispatcher@test.example", "password": PASSWORD}
    assert visitor.client.post(f"{AUTH}/auth/login", body, content_type="application/json").status_code == 403


def test_nobody_signs_up_and_no_address_is_added(visitor):
    body = {"email": "new@test.example", "password": "long-enough-for-anybody"}
    assert visitor.send("POST", "/auth/signup", body).status_code == 403
    visitor.sign_in()
    assert visitor.send("POST", "/account/email", {"email": "second@test.example"}).status_code == 404


def test_the_demo_people_are_offered_only_in_a_demo(world, settings):
    visitor = Client(HTTP_HOST="127.0.0.1")
    assert visitor.get("/api/v1/session/demo").status_code == 200
    settings.DEMO = False
    assert visitor.get("/api/v1/session/demo").status_code == 404
