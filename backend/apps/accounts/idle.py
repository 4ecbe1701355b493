"""Signing out whoever has left the desk: the page says that somebody is there, the server minds when it last did."""

import time
from collections.abc import Callable

from django.contrib.auth import logout
from django.http import HttpRequest, HttpResponse

from apps.people.models import Account
from apps.people.queries import idle_minutes_of

SEEN = "seen_at"
# The page says so once a minute: it may be that late.
GRACE_SECONDS = 90

GetResponse = Callable[[HttpRequest], HttpResponse]


def sign_out_idle(get_response: GetResponse) -> GetResponse:
    """Django middleware, after the one that knows who is signed in."""

    def call(request: HttpRequest) -> HttpResponse:
        account = request.user
        if request.path.startswith("/api/") and isinstance(account, Account):
            minutes = idle_minutes_of(account)
            if minutes and _idle_seconds(request) > 60 * minutes + GRACE_SECONDS:
                logout(request)
        return get_response(request)

    return call


def note_here(request: HttpRequest) -> None:
    """Somebody is there. By the machine's clock: a session does not live in the demo's time."""
    request.session[SEEN] = int(time.time())


def _idle_seconds(request: HttpRequest) -> float:
    seen = request.session.get(SEEN)
    if seen is None:  # just signed in, or from before this was noted
        note_here(request)
        return 0
    return time.time() - float(seen)
