"""Who may sign in: invited, changed, let go."""

import pytest
from allauth.mfa.models import Authenticator
from allauth.usersessions.models import UserSession
from django.core import mail
from django.test import TestCase

from apps.accounts import letters, tasks
from apps.people.models import Account, Technician
from core.roles import ALLOWED, DUTIES, WORDS, Action, Role
from foundation.models import AuditEntry
from tests.apps.accounts.helpers import Visitor, code_of
from tests.apps.conftest import PASSWORD

NEW = {"email": "Rui.Vale@test.example ", "name": "Rui Vale", "role": "dispatcher"}
CHOSEN = "a-password-of-my-own"


@pytest.fixture
def sent(monkeypatch, settings):
    """Letters go out at once, as the worker would send them."""
    settings.EMAIL_BACKEND = "django.core.mail.backends.locmem.EmailBackend"
    monkeypatch.setattr(letters, "after_commit", lambda _task, **asked: tasks.send_letter(**asked))
    return mail.outbox


@pytest.fixture
def administrator(as_role):
    return as_role("administrator")


def link_in(letter):
    [link] = [word for word in letter.body.split() if word.startswith("http")]
    return link


def choose(visitor, link, password=CHOSEN):
    return visitor.send("POST", "/auth/password/reset", {"key": link.rsplit("/", 1)[1], "password": password})


def test_who_is_invited_chooses_a_password_and_is_in(administrator, sent):
    made = administrator.post("/accounts", NEW).json()
    assert (made["email"], made["joined"], made["active"]) == ("rui.vale@test.example", False, True)
    [letter] = sent
    assert letter.to == ["rui.vale@test.example"]
    assert "Test Lifts" in letter.subject
    assert link_in(letter).startswith("http://127.0.0.1/welcome/")
    visitor = Visitor()
    key = link_in(letter).rsplit("/", 1)[1]
    seen = visitor.client.get("/api/auth/browser/v1/auth/password/reset", headers={"X-Password-Reset-Key": key}).json()
    assert (seen["data"]["user"]["display"], seen["data"]["user"]["email"]) == ("Rui Vale", "rui.vale@test.example")
    assert choose(visitor, link_in(letter)).status_code == 200
    assert visitor.session()["account"]["name"] == "Rui Vale"
    [row] = [row for row in administrator.get("/accounts").json() if row["name"] == "Rui Vale"]
    assert row["joined"] is True
    assert row["last_seen"] is not None


def test_a_link_works_once(administrator, sent):
    administrator.post("/accounts", NEW)
    assert choose(Visitor(), link_in(sent[0])).status_code == 200
    again = choose(Visitor(), link_in(sent[0]), "another-long-password")
    assert again.status_code == 400
    assert again.json()["errors"][0]["message"] == "This link was used already, or is too old."
    assert Visitor().sign_in("rui.vale@test.example", CHOSEN).status_code == 200


def test_a_weak_password_is_refused_with_the_reason(administrator, sent):
    administrator.post("/accounts", NEW)
    short = choose(Visitor(), link_in(sent[0]), "short")
    common = choose(Visitor(), link_in(sent[0]), "password1234")
    assert [answer.status_code for answer in (short, common)] == [400, 400]
    assert "at least 10 characters" in short.json()["errors"][0]["message"]
    assert "too common" in common.json()["errors"][0]["message"]


def test_an_invitation_is_sent_again_with_a_link_to_tell_until_its_owner_is_in(administrator, sent):
    made = administrator.post("/accounts", NEW).json()
    link = administrator.post(f"/accounts/{made['id']}/invitation").json()["link"]
    assert len(sent) == 2
    assert choose(Visitor(), link).status_code == 200
    refused = administrator.post(f"/accounts/{made['id']}/invitation")
    assert refused.status_code == 422
    assert "Rui Vale has come in already" in refused.json()["title"]
    assert choose(Visitor(), link_in(sent[0])).status_code == 400


@pytest.mark.parametrize(
    ("change", "field"),
    [({"email": "no-address"}, "email"), ({"email": "dispatcher@test.example"}, "email"), ({"name": " "}, "name")],
)
def test_what_cannot_be_an_account_is_refused_and_nothing_is_sent(administrator, sent, change, field):
    answer = administrator.post("/accounts", {**NEW, **change})
    assert (answer.status_code, answer.json()["field"]) == (422, field)
    assert sent == []


def test_a_technician_works_with_one_account(administrator, sent, world):
    made = administrator.post("/accounts", {**NEW, "role": "technician", "technician_id": world.ivor.pk}).json()
    assert made["technician_id"] == world.ivor.pk
    taken = administrator.post(
        "/accounts", {**NEW, "email": "b@test.example", "role": "technician", "technician_id": world.ivor.pk}
    )
    assert (taken.status_code, taken.json()["field"]) == (422, "technician_id")
    free = {"version": made["version"], "name": "Rui Vale", "role": "technician", "technician_id": None}
    assert administrator.put(f"/accounts/{made['id']}", free).json()["technician_id"] is None
    assert Technician.objects.get(pk=world.ivor.pk).account_id is None


def test_a_role_that_is_changed_holds_from_the_next_thing_somebody_does(administrator, world):
    visitor = Visitor()
    visitor.sign_in()
    account = world.accounts["dispatcher"]
    body = {"version": account.version, "name": account.name, "role": "reviewer", "technician_id": None}
    assert administrator.put(f"/accounts/{account.pk}", body).status_code == 200
    assert "plan" not in visitor.session()["may"]
    assert visitor.send("POST", "/api/v1/board/undo").status_code == 403
    stale = administrator.put(f"/accounts/{account.pk}", body)
    assert stale.status_code == 409
    assert "The administrator has changed this account meanwhile" in stale.json()["title"]
    assert AuditEntry.objects.filter(sentence="made The dispatcher reviewer, no longer dispatcher").exists()


def test_who_is_let_go_is_out_at_once_and_everywhere(administrator, world):
    phone, desk = Visitor(), Visitor()
    for visitor in (phone, desk):
        visitor.sign_in()
    account = world.accounts["dispatcher"]
    assert UserSession.objects.filter(user=account).count() == 2
    body = {"version": account.version, "active": False}
    assert administrator.post(f"/accounts/{account.pk}/active", body).json()["active"] is False
    assert [visitor.client.get("/api/v1/board").status_code for visitor in (phone, desk)] == [401, 401]
    assert Visitor().sign_in().status_code == 400
    body = {"version": account.version + 1, "active": True}
    assert administrator.post(f"/accounts/{account.pk}/active", body).json()["active"] is True
    assert Visitor().sign_in().status_code == 200


def test_somebody_stays_administrator(administrator, world):
    account = world.accounts["administrator"]
    own = administrator.post(f"/accounts/{account.pk}/active", {"version": account.version, "active": False})
    assert (own.status_code, own.json()["code"]) == (422, "own_account")
    body = {"version": account.version, "name": account.name, "role": "manager"}
    last = administrator.put(f"/accounts/{account.pk}", body)
    assert (last.status_code, last.json()["code"]) == (422, "last_administrator")
    other = Account.objects.create_account(
        email="second@test.example", name="Second", role=Role.ADMINISTRATOR, password=PASSWORD
    )
    assert administrator.put(f"/accounts/{account.pk}", body).status_code == 200
    other.refresh_from_db()
    assert other.role == Role.ADMINISTRATOR


def test_a_manager_is_no_administrator(as_role):
    assert as_role("manager").post("/accounts", NEW).status_code == 403


def test_the_page_of_roles_says_what_the_table_of_roles_allows(administrator):
    told = administrator.get("/roles").json()
    rows = {row["role"]: row for row in told["roles"]}
    assert set(rows) == {role.value for role in ALLOWED}
    for role in ALLOWED:
        assert set(rows[role.value]["actions"]) == ALLOWED[role]
        assert rows[role.value]["duty"] == DUTIES[role]
    assert {row["action"]: row["words"] for row in told["deeds"]} == WORDS
    assert set(WORDS) == set(Action) - {Action.USE}


# --- one's own account ------------------------------------------------------------------------------------


def test_a_forgotten_password_is_chosen_anew_and_every_other_session_ends(world, sent):
    desk, asking = Visitor(), Visitor()
    desk.sign_in()
    assert asking.send("POST", "/auth/password/request", {"email": "Dispatcher@test.example"}).status_code == 200
    [letter] = sent
    assert "/new-password/" in link_in(letter)
    assert choose(asking, link_in(letter)).status_code == 200
    assert asking.session()["account"]["name"] == "The dispatcher"
    assert desk.session()["account"] is None
    assert Visitor().sign_in(password=CHOSEN).status_code == 200


def test_who_is_locked_out_gets_in_by_a_new_password(world, sent):
    for _ in range(5):
        Visitor().sign_in(password="wrong")
    Visitor().send("POST", "/auth/password/request", {"email": "dispatcher@test.example"})
    assert choose(Visitor(), link_in(sent[0])).status_code == 200
    assert Visitor().sign_in(password=CHOSEN).status_code == 200


def test_the_password_is_changed_with_the_old_one(world):
    visitor, elsewhere = Visitor(), Visitor()
    for one in (visitor, elsewhere):
        one.sign_in()
    wrong = visitor.send("POST", "/account/password/change", {"current_password": "no", "new_password": CHOSEN})
    assert (wrong.status_code, wrong.json()["errors"][0]["param"]) == (400, "current_password")
    right = visitor.send("POST", "/account/password/change", {"current_password": PASSWORD, "new_password": CHOSEN})
    assert right.status_code == 200
    assert visitor.session()["account"] is not None
    assert elsewhere.session()["account"] is None


def test_a_second_factor_is_asked_for_at_the_next_sign_in(world, administrator):
    visitor = Visitor()
    visitor.sign_in()
    secret = visitor.client.get("/api/auth/browser/v1/account/authenticators/totp").json()["meta"]["secret"]
    body = {"code": code_of(secret)}
    assert visitor.send("POST", "/account/authenticators/totp", {"code": "000000"}).status_code == 400
    not_asked_again = visitor.send("POST", "/account/authenticators/totp", body)
    assert (not_asked_again.status_code, not_asked_again.json()["data"]["flows"][0]["id"]) == (401, "reauthenticate")
    assert visitor.send("POST", "/auth/reauthenticate", {"password": "wrong"}).status_code == 400
    visitor.set_up_a_second_factor()
    assert AuditEntry.objects.filter(sentence="set up a second factor", actor_name="The dispatcher").exists()
    codes = visitor.client.get("/api/auth/browser/v1/account/authenticators/recovery-codes").json()["data"]
    assert len(codes["unused_codes"]) == 10

    again = Visitor()
    asked = again.sign_in()
    assert asked.status_code == 401
    assert {"mfa_authenticate"} == {flow["id"] for flow in asked.json()["data"]["flows"] if flow.get("is_pending")}
    assert again.session()["account"] is None
    assert again.send("POST", "/auth/2fa/authenticate", {"code": "000000"}).status_code == 400
    assert again.send("POST", "/auth/2fa/authenticate", {"code": codes["unused_codes"][0]}).status_code == 200
    assert again.session()["account"]["name"] == "The dispatcher"

    reused = Visitor()
    reused.sign_in()
    assert reused.send("POST", "/auth/2fa/authenticate", {"code": codes["unused_codes"][0]}).status_code == 400

    account = world.accounts["dispatcher"]
    with TestCase.captureOnCommitCallbacks(execute=True):
        gone = administrator.client.delete(f"/api/v1/accounts/{account.pk}/second-factor")
    assert gone.json()["second_factor"] is False
    assert Visitor().sign_in().status_code == 200


def test_the_secret_of_a_second_factor_is_not_readable_in_the_database(world):
    visitor = Visitor()
    visitor.sign_in()
    secret = visitor.set_up_a_second_factor()
    kept = Authenticator.objects.get(type="totp").data
    assert secret not in str(kept)


def test_own_sessions_are_listed_and_ended(world):
    here, there = Visitor(), Visitor(HTTP_USER_AGENT="A phone")
    here.sign_in()
    there.sign_in()
    rows = here.client.get("/api/auth/browser/v1/auth/sessions").json()["data"]
    assert [row["is_current"] for row in sorted(rows, key=lambda row: row["id"])] == [True, False]
    [other] = [row for row in rows if not row["is_current"]]
    assert other["user_agent"] == "A phone"
    assert here.send("DELETE", "/auth/sessions", {"sessions": [other["id"]]}).status_code == 200
    assert there.session()["account"] is None
    assert here.session()["account"] is not None
