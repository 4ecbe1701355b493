"""How an endpoint says who may call it."""

from typing import Any, cast

from django.http import HttpRequest
from ninja.security import SessionAuth

from core.roles import Action
from foundation.actors import Actor, require


class Needs(SessionAuth):
    """Signed in, with the CSRF token on every change, and a role that has the action."""

    def __init__(self, action: Action) -> None:
        super().__init__(csrf=True)
        self.action = action

    def authenticate(self, request: HttpRequest, key: str | None) -> Any:
        account = super().authenticate(request, key)
        if account:
            require(account, self.action)
        return account


# Where a session says who acts in the name of its account.
HELPER = "helper"


def actor_of(request: HttpRequest) -> Actor:
    """The account behind a request that Needs has let through, and the screen it sits at. Who helps is named with it:
    what they do is noted under both names."""
    if helper := request.session.get(HELPER):
        name = request.user.name.split(" (helped by ")[0]  # type: ignore[union-attr]
        request.user.name = f"{name[:60]} (helped by {helper['name'][:40]})"  # type: ignore[union-attr]
    request.user.screen = request.headers.get("X-Screen", "")[:40]  # type: ignore[union-attr]
    return cast(Actor, request.user)
