"""Who somebody is, by address and password."""

from typing import Any

from django.contrib.auth.backends import ModelBackend
from django.http import HttpRequest

from apps.people.models import Account
from foundation.connections import give_back


class AccountBackend(ModelBackend):
    """As Django's own, but no connection to the database is held while the password is hashed: that takes a moment on
    purpose, and many sign in at eight in the morning."""

    def authenticate(  # type: ignore[override]
        self,
        request: HttpRequest | None,  # noqa: ARG002 - Django's signature
        email: str | None = None,
        password: str | None = None,
        **_more: Any,
    ) -> Account | None:
        if email is None or password is None:
            return None
        account = Account.objects.filter(email=email.strip().lower()).first()
        give_back()
        if account is None:
            Account().set_password(password)  # nobody learns from the time it takes who has an account
            return None
        return account if account.check_password(password) and self.user_can_authenticate(account) else None
