"""How an endpoint says who may call it."""

from typing import Any

from core.roles import Action
from django.http import HttpRequest
from foundation.actors import require
from ninja.security import SessionAuth


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
