"""Who tries to get into an account: asking who has one, using a link twice or at once, guessing, reaching over."""

from concurrent.futures import ThreadPoolExecutor
from threading import Barrier

import pytest
from django.core import mail
from django.core.cache import cache
from django.db import connection
from django.test import Client

from apps.accounts import letters, tasks
from apps.people.models import Account
from core.roles import Role
from tests.apps.accounts.helpers import AUTH, Visitor
from tests.apps.conftest import PASSWORD


@pytest.fixture
def sent(monkeypatch, settings):
    settings.EMAIL_BACKEND = "django.core.mail.backends.locmem.EmailBackend"
    monkeypatch.setattr(letters, "after_commit", lambda _task, **asked: tasks.send_letter(**asked))
    cache.clear()
    return mail.outbox


def key_in(letter):
    return next(word for word in letter.body.split() if word.startswith("http")).rsplit("/", 1)[1]


def choose(key, password):
    visitor = Visitor()
    return visitor.send("POST", "/auth/password/reset", {"key": key, "password": password})


@pytest.mark.django_db
def test_asking_for_a_new_password_tells_nobody_who_has_an_account(world, sent):
    known = Visitor().send("POST", "/auth/password/request", {"email": "dispatcher@test.example"})
    unknown = Visitor().send("POST", "/auth/password/request", {"email": "nobody@test.example"})
    assert (known.status_code, known.json()) == (unknown.status_code, unknown.json())
    assert [letter.to for letter in sent] == [["dispatcher@test.example"]]


@pytest.mark.django_db
def test_nobody_s_mailbox_is_flooded(world, sent):
    answers = [
        Visitor().send("POST", "/auth/password/request", {"email": "dispatcher@test.example"}).status_code
        for _ in range(8)
    ]
    assert answers.count(429) == 3
    assert len(sent) == 5


@pytest.mark.django_db
def test_a_link_leads_to_no_other_host_than_ours(world, sent):
    visitor = Client(HTTP_HOST="attacker.example")
    assert visitor.post(f"{AUTH}/auth/password/request", {"email": "dispatcher@test.example"}).status_code == 400
    assert sent == []


@pytest.mark.django_db(transaction=True)
def test_of_two_who_use_a_link_at_the_same_moment_one_is_first(world, sent):
    Visitor().send("POST", "/auth/password/request", {"email": "dispatcher@test.example"})
    key, together = key_in(sent[0]), Barrier(2)

    def use(password):
        try:
            visitor = Visitor()
            visitor.session()
            together.wait(timeout=20)
            return visitor.send("POST", "/auth/password/reset", {"key": key, "password": password}).status_code
        finally:
            connection.close()

    with ThreadPoolExecutor(2) as pool:
        answers = list(pool.map(use, ["first-long-password", "second-long-password"]))
    # Who comes late is refused by the link, or by the password that is not the one it was made for any more.
    assert sorted(answers)[0] == 200
    assert sorted(answers)[1] in (400, 409)
    works = [Visitor().sign_in(password=word).status_code for word in ("first-long-password", "second-long-password")]
    assert works[answers.index(200)] == 200
    assert sorted(works) == [200, 400]


@pytest.mark.django_db
def test_a_link_of_who_was_let_go_opens_nothing(world, sent, as_role):
    administrator = as_role("administrator")
    made = administrator.post("/accounts", {"email": "r@test.example", "name": "Rui", "role": "dispatcher"}).json()
    administrator.post(f"/accounts/{made['id']}/active", {"version": made["version"], "active": False})
    assert choose(key_in(sent[0]), "a-long-password-of-mine").status_code in (400, 409)
    assert not Account.objects.get(pk=made["id"]).has_usable_password()


@pytest.mark.django_db
def test_codes_are_not_guessed(world, sent):
    visitor = Visitor()
    visitor.sign_in()
    visitor.set_up_a_second_factor()
    thief = Visitor()
    thief.sign_in()
    answers = [
        thief.send("POST", "/auth/2fa/authenticate", {"code": f"{number:06d}"}).json()["errors"][0]["code"]
        for number in range(100, 108)
    ]
    assert answers[-1] == "too_many_login_attempts"
    assert thief.session()["account"] is None


@pytest.mark.django_db
def test_without_the_second_step_nothing_is_reached(world, sent):
    visitor = Visitor()
    visitor.sign_in()
    visitor.set_up_a_second_factor()
    thief = Visitor()
    thief.sign_in()
    assert thief.client.get("/api/v1/board").status_code == 401
    assert thief.client.get(f"{AUTH}/account/authenticators/recovery-codes").status_code == 401
    assert thief.send("DELETE", "/account/authenticators/totp").status_code == 401
    change = {"current_password": PASSWORD, "new_password": "a-long-password-of-mine"}
    assert thief.send("POST", "/account/password/change", change).status_code == 401


@pytest.mark.django_db
def test_nobody_ends_the_session_of_somebody_else(world, sent):
    one, other = Visitor(), Visitor()
    one.sign_in()
    other.sign_in("other@test.example")
    [session] = other.client.get(f"{AUTH}/auth/sessions").json()["data"]
    assert one.send("DELETE", "/auth/sessions", {"sessions": [session["id"]]}).status_code == 400
    assert other.session()["account"] is not None


@pytest.mark.django_db(transaction=True)
def test_two_administrators_who_demote_each_other_leave_one(world, sent):
    second = Account.objects.create_account(
        email="second@test.example", name="Second", role=Role.ADMINISTRATOR, password=PASSWORD
    )
    first, together = world.accounts["administrator"], Barrier(2)

    def demote(who, other):
        try:
            visitor = Visitor()
            visitor.sign_in(who.email)
            body = {"version": other.version, "name": other.name, "role": "manager"}
            together.wait(timeout=20)
            return visitor.send("PUT", f"/api/v1/accounts/{other.pk}", body).status_code
        finally:
            connection.close()

    with ThreadPoolExecutor(2) as pool:
        answers = list(pool.map(demote, [first, second], [second, first]))
    assert sorted(answers) == [200, 403]
    assert Account.objects.filter(role=Role.ADMINISTRATOR).count() == 1


@pytest.mark.django_db(transaction=True)
def test_one_address_invited_twice_at_once_is_one_account(world, sent):
    together = Barrier(2)
    body = {"email": "rui@test.example", "name": "Rui", "role": "dispatcher"}

    def invite(_number):
        try:
            visitor = Visitor()
            visitor.sign_in("administrator@test.example")
            together.wait(timeout=20)
            return visitor.send("POST", "/api/v1/accounts", body).status_code
        finally:
            connection.close()

    with ThreadPoolExecutor(2) as pool:
        answers = sorted(pool.map(invite, range(2)))
    assert answers == [201, 422]
    assert Account.objects.filter(email="rui@test.example").count() == 1
    assert len(sent) == 1
