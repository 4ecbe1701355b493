"""Signing in and out."""

import pytest
from django.test import Client

from tests.apps.conftest import PASSWORD


@pytest.fixture
def visitor(world):
    return Client(HTTP_HOST="127.0.0.1", enforce_csrf_checks=True)


def sign_in(client, email="dispatcher@test.example", password=PASSWORD):
    token = client.get("/api/v1/session").json()["csrf_token"]
    body = {"email": email, "password": password}
    return client.post("/api/v1/session", body, content_type="application/json", headers={"X-CSRFToken": token})


def test_who_signs_in_learns_what_they_may_do(visitor):
    session = sign_in(visitor, email=" Dispatcher@test.example").json()
    assert session["account"]["role"] == "dispatcher"
    assert "plan" in session["may"]
    assert visitor.get("/api/v1/session").json()["account"]["name"] == "The dispatcher"


def test_signed_out_nothing_is_shown(visitor):
    sign_in(visitor)
    token = visitor.get("/api/v1/session").json()["csrf_token"]
    assert visitor.delete("/api/v1/session", headers={"X-CSRFToken": token}).json()["account"] is None
    answer = visitor.get("/api/v1/board")
    assert (answer.status_code, answer.json()["code"]) == (401, "signed_out")


def test_a_wrong_password_says_nothing_about_the_account(visitor):
    known = sign_in(visitor, password="wrong")
    unknown = sign_in(visitor, email="nobody@test.example", password="wrong")
    assert known.json()["title"] == unknown.json()["title"]
    assert known.status_code == unknown.status_code == 422


def test_after_five_failures_even_the_right_password_waits(visitor):
    for _ in range(5):
        sign_in(visitor, password="wrong")
    answer = sign_in(visitor)
    assert (answer.status_code, answer.json()["code"]) == (429, "locked_out")


def test_a_change_without_the_token_is_refused(visitor):
    sign_in(visitor)
    answer = visitor.post("/api/v1/board/undo", {}, content_type="application/json")
    assert answer.status_code == 403


def test_signing_in_without_the_token_is_refused(visitor):
    body = {"email": "dispatcher@test.example", "password": PASSWORD}
    assert visitor.post("/api/v1/session", body, content_type="application/json").status_code == 403


def test_the_demo_people_are_offered_only_in_a_demo(visitor, settings):
    assert visitor.get("/api/v1/session/demo").status_code == 200
    settings.DEMO = False
    assert visitor.get("/api/v1/session/demo").status_code == 404
