"""Signing in as somebody else, to help them: said to them, and beside everything that is done meanwhile.

The session is a new one of theirs, so that "sign out everywhere" of either of the two ends it. Their password and
second factor stay out of reach.
"""

from collections.abc import Callable
from datetime import datetime
from typing import Any

from allauth.usersessions.models import UserSession
from django.contrib.auth import BACKEND_SESSION_KEY, HASH_SESSION_KEY, SESSION_KEY, logout
from django.db import transaction
from django.http import HttpRequest, HttpResponse
from django.middleware.csrf import rotate_token
from django.utils.crypto import constant_time_compare

from apps.accounts import letters
from apps.people.models import Account
from core.roles import Action, Role
from foundation import audit
from foundation.access import HELPER
from foundation.actors import Actor, require
from foundation.errors import NotFound, Rejected
from foundation.problems import problem

BACKEND = "apps.accounts.backends.AccountBackend"
# Below this is one's own account: password, second factors, sessions.
OWN = "/api/auth/"
SIGN_OUT = "/auth/session"

GetResponse = Callable[[HttpRequest], HttpResponse]


def begin(request: HttpRequest, *, actor: Actor, now: datetime, account_id: int, because: str, origin: str) -> None:
    """Go on as somebody else. Not as an administrator: that would be a way around the other's password.

    Raises
    ------
    Rejected
        Without a reason, or for somebody who may not sign in.
    """
    require(actor, Action.MANAGE_ACCOUNTS)
    account = Account.objects.filter(pk=account_id).first()
    if account is None:
        raise NotFound("There is no such account.", code="no_account")
    if not because.strip():
        raise Rejected("Say what for: they read it.", field="because")
    if account.role == Role.ADMINISTRATOR:
        raise Rejected("Administrators help themselves: nobody signs in as one.", field="because")
    if not account.is_active or not account.has_usable_password():
        raise Rejected(f"{account.name} does not sign in: there is nothing to help with.", field="because")
    own = Account.objects.get(pk=actor.id)
    with transaction.atomic():
        audit.record(
            actor=actor, now=now, action="account", entity="account", entity_id=account.pk, version=account.version,
            sentence=f"signed in as {account.name}, to help: {because.strip()}"[:300],
        )  # fmt: skip
        letters.ask(
            letters.HELP, account_id=account.pk, origin=origin,
            more={"helper": own.name, "because": because.strip()[:300]},
        )  # fmt: skip
        _become(request, account)
        request.session[HELPER] = {"id": own.pk, "name": own.name, "hash": own.get_session_auth_hash()}


def end(request: HttpRequest) -> None:
    """Back to one's own account; signed out where that may not sign in any more."""
    helper = request.session.get(HELPER)
    if helper is None:
        raise NotFound("You are signed in as yourself.", code="no_helper")
    own = _still_there(helper)
    if own is None:
        logout(request)
        return
    _become(request, own)


def _still_there(helper: dict[str, Any]) -> Account | None:
    """The administrator, as long as they are one and their password is the one they came with."""
    own = Account.objects.filter(pk=helper["id"], is_active=True, role=Role.ADMINISTRATOR).first()
    if own is None or not constant_time_compare(own.get_session_auth_hash(), helper["hash"]):
        return None
    return own


def _become(request: HttpRequest, account: Account) -> None:
    """A new session of that account. No sign-in of theirs: when they were last there stays as it is."""
    request.session.flush()
    request.session[SESSION_KEY] = str(account.pk)
    request.session[BACKEND_SESSION_KEY] = BACKEND
    request.session[HASH_SESSION_KEY] = account.get_session_auth_hash()
    request.session.save()
    request.user = account
    rotate_token(request)
    UserSession.objects.create_from_request(request)


def mind_helpers(get_response: GetResponse) -> GetResponse:
    """Django middleware, after the one that knows who is signed in: whoever helps stays out of the other's own account,
    and is out as soon as their own account is."""

    def call(request: HttpRequest) -> HttpResponse:
        helper = request.session.get(HELPER) if request.path.startswith("/api/") else None
        if helper is None:
            return get_response(request)
        if _still_there(helper) is None:
            logout(request)
        elif request.path.startswith(OWN) and not request.path.endswith(SIGN_OUT):
            return problem(403, "While you help, their password and second factor are out of reach.", "helping")
        return get_response(request)

    return call
