"""Signing in with the company's directory: whom it vouches for is let in if they were invited, and nobody else."""

from urllib.parse import parse_qs, urlsplit

import pytest
import requests
from allauth.socialaccount.models import SocialAccount
from django.test import Client

from apps.people.models import Account
from tests.apps.accounts.helpers import Visitor
from tests.apps.conftest import PASSWORD

URL = "http://127.0.0.1/stand-in/directory"
BACK = "/sign-in?from=directory"


@pytest.fixture(autouse=True)
def directory(settings, monkeypatch, world):
    """The stand-in, asked without a network: what is sent to it is answered by its views."""
    settings.DEMO, settings.OIDC_URL = True, URL
    app = {"provider_id": "directory", "name": "our directory", "client_id": "relay", "secret": "s" * 40,
           "settings": {"server_url": URL}}  # fmt: skip
    settings.SOCIALACCOUNT_PROVIDERS = {"openid_connect": {"OAUTH_PKCE_ENABLED": True, "APPS": [app]}}

    def ask(_session, method, url, *, headers=None, data=None, **_more):
        path = urlsplit(url).path
        answer = Client(HTTP_HOST="127.0.0.1").generic(
            method.upper(), path, _form(data), content_type="application/x-www-form-urlencoded",
            headers={name: value for name, value in (headers or {}).items() if name == "Authorization"},
        )  # fmt: skip
        response = requests.Response()
        response.status_code, response._content = answer.status_code, answer.content
        response.headers["content-type"] = answer.get("Content-Type", "")
        return response

    monkeypatch.setattr(requests.Session, "request", ask)


def _form(data):
    from urllib.parse import urlencode

    return urlencode(data) if data else ""


def go(visitor, **more):
    """To the directory: where the browser is sent."""
    token = visitor.session()["csrf_token"]
    form = {"provider": "directory", "process": "login", "callback_url": BACK, "csrfmiddlewaretoken": token, **more}
    return visitor.client.post("/api/auth/browser/v1/auth/provider/redirect", form)


def come_back(visitor, who, *, change=None):
    """Say there who one is, and be sent back; where that leads."""
    there = urlsplit(go(visitor)["Location"])
    answer = Client(HTTP_HOST="127.0.0.1").get(f"{there.path}?{there.query}&who={who}")
    back = urlsplit(answer["Location"])
    query = {name: values[0] for name, values in parse_qs(back.query).items()} | (change or {})
    return visitor.client.get(back.path, query)


def name_of(visitor):
    account = visitor.session()["account"]
    return account and account["name"]


def test_who_was_invited_comes_in_by_the_directory(world):
    visitor = Visitor()
    assert visitor.session()["directory"]
    assert come_back(visitor, "dispatcher@test.example")["Location"] == BACK
    assert name_of(visitor) == "The dispatcher"
    again = Visitor()
    come_back(again, "dispatcher@test.example")
    assert name_of(again) == "The dispatcher"
    assert SocialAccount.objects.count() == 1


def test_the_password_stays_beside_the_directory(world):
    visitor, desk = Visitor(), Visitor()
    desk.sign_in()
    come_back(visitor, "dispatcher@test.example")
    assert name_of(desk) == "The dispatcher"
    assert Visitor().sign_in().status_code == 200
    assert visitor.send("POST", "/auth/reauthenticate", {"password": PASSWORD}).status_code == 200


def test_who_was_invited_and_has_no_password_yet_comes_in_by_the_directory(world, as_role):
    account = world.accounts["dispatcher"]
    account.set_unusable_password()
    account.save()
    admin = as_role("administrator")
    [row] = [row for row in admin.get("/accounts").json() if row["id"] == account.pk]
    assert row["joined"] is False
    come_back(Visitor(), "dispatcher@test.example")
    [row] = [row for row in admin.get("/accounts").json() if row["id"] == account.pk]
    assert row["joined"] is True


@pytest.mark.parametrize("who", ["somebody@elsewhere.example", "unchecked.dispatcher@test.example"])
def test_nobody_comes_in_who_was_not_invited_or_whose_address_was_not_checked(world, who):
    if who.startswith("unchecked."):
        Account.objects.filter(email="dispatcher@test.example").update(email=who)
    accounts, visitor = Account.objects.count(), Visitor()
    assert "error=signup_closed" in come_back(visitor, who)["Location"]
    assert name_of(visitor) is None
    assert Account.objects.count() == accounts


def test_who_was_let_go_does_not_come_in(world):
    come_back(Visitor(), "dispatcher@test.example")
    Account.objects.filter(email="dispatcher@test.example").update(is_active=False)
    visitor = Visitor()
    come_back(visitor, "dispatcher@test.example")
    assert name_of(visitor) is None


def test_a_second_factor_is_asked_for_here_too(world):
    desk = Visitor()
    desk.sign_in()
    desk.set_up_a_second_factor()
    visitor = Visitor()
    assert come_back(visitor, "dispatcher@test.example")["Location"] == BACK
    assert name_of(visitor) is None
    flows = visitor.client.get("/api/auth/browser/v1/auth/session").json()["data"]["flows"]
    assert [flow["id"] for flow in flows if flow.get("is_pending")] == ["mfa_authenticate"]


@pytest.mark.parametrize("change", [{"state": "made-up"}, {"code": "made-up"}], ids=["state", "code"])
def test_an_answer_that_was_not_asked_for_brings_nobody_in(world, change):
    visitor = Visitor()
    answer = come_back(visitor, "dispatcher@test.example", change=change)
    assert answer.status_code == 302
    assert "error=" in answer["Location"]
    assert name_of(visitor) is None


def test_the_way_back_leads_nowhere_else(world):
    visitor = Visitor()
    answer = go(visitor, callback_url="https://elsewhere.example/")
    assert "elsewhere.example" not in answer.get("Location", "")


def test_without_a_directory_there_is_no_way_to_one(world, settings):
    settings.OIDC_URL, settings.SOCIALACCOUNT_PROVIDERS = "", {"openid_connect": {"APPS": []}}
    visitor = Visitor()
    assert visitor.session()["directory"] == ""
    assert "stand-in" not in go(visitor).get("Location", "")
