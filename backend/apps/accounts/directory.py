"""Signing in with the company's own directory, by OpenID Connect: what differs from allauth's own ways.

Source: django-allauth's documentation of `DefaultSocialAccountAdapter`; OpenID Connect Core 1.0.
"""

from typing import Any

from allauth.socialaccount.adapter import DefaultSocialAccountAdapter
from django.http import HttpRequest

from apps.people.models import Account
from foundation.connections import give_back

PATIENCE_SECONDS = 10


class DirectoryAdapter(DefaultSocialAccountAdapter):  # type: ignore[misc]
    """The directory says who somebody is; whether they may come in is decided here, by an invitation."""

    def is_open_for_signup(self, request: HttpRequest, sociallogin: Any) -> bool:  # noqa: ARG002 - allauth's signature
        return False

    def pre_social_login(self, request: HttpRequest, sociallogin: Any) -> None:
        """Whom the directory vouches for by an address that it has checked is who was invited at that address. Nobody
        here has an account they made themselves, so the password that is there stays."""
        if sociallogin.is_existing:
            return
        checked = [address.email.lower() for address in sociallogin.email_addresses if address.verified]
        account = Account.objects.filter(email__in=checked, is_active=True).first()
        if account is not None:
            sociallogin.connect(request, account)

    def get_requests_session(self) -> Any:
        # No connection to the database is held while the directory thinks.
        give_back()
        session = super().get_requests_session()
        session.request = _patient(session.request)
        return session


def _patient(request: Any) -> Any:
    """Asks with an end to the waiting."""

    def ask(*args: Any, **more: Any) -> Any:
        return request(*args, **{"timeout": PATIENCE_SECONDS, **more})

    return ask
