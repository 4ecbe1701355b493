"""Signing in as somebody else, to help: said to them, noted under both names, and no way to their password."""

import pytest
from django.core import mail

from apps.accounts import letters
from apps.people.models import Account, Technician
from core.roles import Role
from foundation.models import AuditEntry
from tests.apps.accounts.helpers import Visitor

BECAUSE = {"because": "The board stays empty"}


@pytest.fixture
def admin(world):
    visitor = Visitor()
    visitor.sign_in("administrator@test.example")
    return visitor


@pytest.fixture
def helping(world, admin):
    answer = admin.send("POST", f"/api/v1/accounts/{world.accounts['dispatcher'].pk}/help", BECAUSE)
    assert answer.status_code == 204
    return admin


def who(visitor):
    session = visitor.session()
    return (session["account"] and session["account"]["name"], session["helper"])


def test_what_is_done_meanwhile_stands_under_both_names(world, helping):
    assert who(helping) == ("The dispatcher", "The administrator")
    visit = world.visit()
    body = {"version": 1, "technician_id": world.ines.pk, "start": 1795438800}
    assert helping.send("POST", f"/api/v1/visits/{visit.pk}/place", body).status_code == 200
    entry = AuditEntry.objects.filter(entity="visit", entity_id=visit.pk).latest("pk")
    assert entry.actor_name == "The dispatcher (helped by The administrator)"
    assert Account.objects.get(pk=world.accounts["dispatcher"].pk).name == "The dispatcher"  # and is called as before
    noted = AuditEntry.objects.get(entity="account", entity_id=world.accounts["dispatcher"].pk)
    assert noted.sentence == "signed in as The dispatcher, to help: The board stays empty"


def test_the_other_gets_a_letter(world, admin, monkeypatch):
    asked = []
    monkeypatch.setattr(letters, "after_commit", lambda task, **what: asked.append(what))
    admin.send("POST", f"/api/v1/accounts/{world.accounts['dispatcher'].pk}/help", BECAUSE)
    [what] = asked
    letters.send(**what)
    [letter] = mail.outbox
    assert (letter.to, letter.subject) == (["dispatcher@test.example"], "The administrator has signed in as you")
    assert "The board stays empty" in letter.body
    assert "http" not in letter.body


def test_one_goes_back_to_one_s_own_account(world, helping):
    assert helping.send("POST", "/api/v1/session/back").status_code == 204
    assert who(helping) == ("The administrator", None)
    assert helping.send("POST", "/api/v1/session/back").status_code == 404
    assert helping.client.get("/api/v1/accounts").status_code == 200


def test_no_role_is_lent_and_no_way_leads_to_the_other_s_password(world, helping):
    assert helping.client.get("/api/v1/accounts").status_code == 403  # a dispatcher manages none
    other = world.accounts["manager"].pk
    assert helping.send("POST", f"/api/v1/accounts/{other}/help", BECAUSE).status_code == 403
    for path in ("/account/password/change", "/account/authenticators/totp", "/auth/sessions", "/auth/reauthenticate"):
        assert helping.client.get(f"/api/auth/browser/v1{path}").status_code == 403, path
        assert helping.send("POST", path, {"new_password": "a-password-of-mine"}).status_code == 403, path
    assert helping.send("DELETE", "/auth/session").status_code == 401  # out, as whoever signs out
    assert who(helping) == (None, None)


def test_when_they_were_last_there_stays_as_it_is(world, admin):
    before = Account.objects.get(pk=world.accounts["dispatcher"].pk).last_login
    admin.send("POST", f"/api/v1/accounts/{world.accounts['dispatcher'].pk}/help", BECAUSE)
    assert Account.objects.get(pk=world.accounts["dispatcher"].pk).last_login == before


@pytest.mark.parametrize("change", [{"is_active": False}, {"role": Role.MANAGER}, "password"])
def test_who_is_no_administrator_any_more_helps_nobody(world, helping, change):
    own = world.accounts["administrator"]
    if change == "password":
        own.set_password("another-long-password")
        own.save()
    else:
        Account.objects.filter(pk=own.pk).update(**change)
    assert helping.client.get("/api/v1/board").status_code == 401
    assert who(helping) == (None, None)


def test_whoever_is_let_go_takes_the_helper_along(world, helping):
    Account.objects.filter(pk=world.accounts["dispatcher"].pk).update(is_active=False)
    assert who(helping)[0] is None


def test_signing_out_everywhere_ends_it(world, helping):
    own = Visitor()
    own.sign_in()
    sessions = own.client.get("/api/auth/browser/v1/auth/sessions").json()["data"]
    others = [row["id"] for row in sessions if not row["is_current"]]
    assert len(others) == 1
    own.send("DELETE", "/auth/sessions", {"sessions": others})
    assert who(helping) == (None, None)


def test_some_cannot_be_helped(world, admin):
    another = Account.objects.create_account(
        email="two@test.example", name="Second", role=Role.ADMINISTRATOR, password="a-long-enough-password"
    )
    invited = Account(email="new@test.example", name="New", role=Role.DISPATCHER)
    invited.set_unusable_password()
    invited.save()
    for account, because in ((another, BECAUSE), (invited, BECAUSE), (world.accounts["dispatcher"], {"because": " "})):
        answer = admin.send("POST", f"/api/v1/accounts/{account.pk}/help", because)
        assert (answer.status_code, answer.json()["field"]) == (422, "because")
    assert who(admin) == ("The administrator", None)


def test_a_technician_is_helped_on_the_phone_s_pages(world, admin):
    assert Technician.objects.get(pk=world.ines.pk).account == world.accounts["technician"]
    admin.send("POST", f"/api/v1/accounts/{world.accounts['technician'].pk}/help", BECAUSE)
    assert admin.client.get("/api/v1/field/day").json()["technician_id"] == world.ines.pk


def test_only_administrators_help(world):
    manager = Visitor()
    manager.sign_in("manager@test.example")
    answer = manager.send("POST", f"/api/v1/accounts/{world.accounts['dispatcher'].pk}/help", BECAUSE)
    assert answer.status_code == 403
