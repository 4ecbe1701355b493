"""Signing in and out."""

from axes.handlers.proxy import AxesProxyHandler
from django.contrib.auth import authenticate, login, logout
from django.http import HttpRequest

from apps.people.models import Account
from foundation.errors import Rejected, TryAgain


def sign_in(request: HttpRequest, *, email: str, password: str) -> Account:
    """Begin a session.

    Raises
    ------
    TryAgain
        After too many failures from one place for one address.
    Rejected
        When address and password do not belong together.
    """
    credentials = {"email": email.strip().lower(), "username": email.strip().lower()}
    if not AxesProxyHandler.is_allowed(request, credentials):
        raise TryAgain("Too many failed sign-ins. Wait a quarter of an hour.", code="locked_out", status=429)
    account = authenticate(request, username=credentials["username"], email=credentials["email"], password=password)
    if account is None:
        if not AxesProxyHandler.is_allowed(request, credentials):
            raise TryAgain("Too many failed sign-ins. Wait a quarter of an hour.", code="locked_out", status=429)
        raise Rejected("This e-mail address and password do not belong together.", code="wrong_password")
    login(request, account)
    return account


def sign_out(request: HttpRequest) -> None:
    logout(request)
