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


def actor_of(request: HttpRequest) -> Actor:
    """The account behind a request that Needs has let through, and the screen it sits at."""
    request.user.screen = request.headers.get("X-Screen", "")[:40]  # type: ignore[union-attr]
    return cast(Actor, request.user)
