"""Passkeys: made with the password, and in place of it from then on."""

import pytest
from allauth.mfa.models import Authenticator

from foundation.models import AuditEntry
from tests.apps.accounts.helpers import AUTH, Device, Visitor
from tests.apps.conftest import PASSWORD

EMAIL = "dispatcher@test.example"


@pytest.fixture(autouse=True)
def _plain_http(settings):
    """As on one's own machine: over plain HTTP browsers give passkeys to localhost only."""
    settings.MFA_WEBAUTHN_ALLOW_INSECURE_ORIGIN = True


@pytest.fixture
def desk(world):
    visitor = Visitor(HTTP_HOST="localhost")
    visitor.sign_in()
    return visitor


def name_of(visitor):
    account = visitor.session()["account"]
    return account and account["name"]


def test_a_passkey_brings_its_owner_in_without_a_password(desk):
    device = Device()
    assert desk.make_a_passkey(device).status_code == 200
    stranger = Visitor(HTTP_HOST="localhost")
    assert stranger.prove_passkey(device).status_code == 200
    assert name_of(stranger) == "The dispatcher"
    assert AuditEntry.objects.filter(sentence="set up a passkey").exists()
    [told] = [row for row in stranger.client.get(f"{AUTH}/account/authenticators").json()["data"] if "name" in row]
    assert (told["name"], told["last_used_at"] is not None) == ("Laptop", True)


def test_the_password_alone_opens_nothing_once_there_is_a_passkey(desk):
    device = Device()
    desk.make_a_passkey(device)
    other = Visitor(HTTP_HOST="localhost")
    answer = other.sign_in()
    assert answer.status_code == 401
    [second] = [flow for flow in answer.json()["data"]["flows"] if flow["id"] == "mfa_authenticate"]
    assert "webauthn" in second["types"]
    assert name_of(other) is None
    assert other.prove_passkey(device, "authenticate").status_code == 200
    assert name_of(other) == "The dispatcher"


def test_a_passkey_is_made_only_after_the_password(desk):
    desk.send("POST", "/auth/reauthenticate", {"password": PASSWORD})
    asked = desk.client.get(f"{AUTH}/account/authenticators/webauthn?passwordless").json()["data"]
    credential = Device().make(asked["creation_options"]["publicKey"])
    stale = desk.client.session
    stale["account_authentication_methods"] = [{"method": "password", "at": 0, "email": EMAIL}]
    stale.save()
    body = {"name": "Thief", "credential": credential, "passwordless": True}
    assert desk.send("POST", "/account/authenticators/webauthn", body).status_code == 401
    assert not Authenticator.objects.filter(type="webauthn").exists()


def test_what_proved_it_once_proves_nothing_twice(desk):
    device = Device()
    desk.make_a_passkey(device)
    listener = Visitor(HTTP_HOST="localhost")
    asked = listener.client.get(f"{AUTH}/auth/webauthn/login").json()["data"]["request_options"]["publicKey"]
    heard = device.prove(asked)
    assert listener.send("POST", "/auth/webauthn/login", {"credential": heard}).status_code == 200
    thief = Visitor(HTTP_HOST="localhost")
    thief.client.get(f"{AUTH}/auth/webauthn/login")
    assert thief.send("POST", "/auth/webauthn/login", {"credential": heard}).status_code == 400
    assert name_of(thief) is None


@pytest.mark.parametrize("device", [Device(), Device(host="relay.elsewhere.example")], ids=["unknown", "other place"])
def test_a_passkey_that_is_not_of_here_brings_nobody_in(desk, device):
    own = Device()
    desk.make_a_passkey(own)
    device.user = own.user
    if device.host != own.host:
        device.id, device.key = own.id, own.key
    thief = Visitor(HTTP_HOST="localhost")
    assert thief.prove_passkey(device).status_code == 400
    assert name_of(thief) is None


def test_a_device_that_asks_for_nothing_does_not_replace_the_password(desk):
    device = Device()
    desk.make_a_passkey(device)
    device.verifies = False
    thief = Visitor(HTTP_HOST="localhost")
    assert thief.prove_passkey(device).status_code == 400
    assert name_of(thief) is None


def test_who_is_let_go_does_not_come_in_by_a_passkey(world, desk):
    device = Device()
    desk.make_a_passkey(device)
    account = world.accounts["dispatcher"]
    account.is_active = False
    account.save()
    gone = Visitor(HTTP_HOST="localhost")
    assert gone.prove_passkey(device).status_code in (400, 401, 403)
    assert name_of(gone) is None


def test_an_administrator_removes_the_passkey_of_a_lost_device(world, desk, as_role):
    device = Device()
    desk.make_a_passkey(device)
    admin = as_role("administrator")
    account = world.accounts["dispatcher"]
    [row] = [row for row in admin.get("/accounts").json() if row["id"] == account.pk]
    assert row["second_factor"] is True
    assert admin.client.delete(f"/api/v1/accounts/{account.pk}/second-factor").status_code == 200
    lost = Visitor(HTTP_HOST="localhost")
    assert lost.prove_passkey(device).status_code == 400
    again = Visitor(HTTP_HOST="localhost")
    assert again.sign_in().status_code == 200
