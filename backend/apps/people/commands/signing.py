"""Signing in and out."""

from datetime import timedelta

from axes.handlers.proxy import AxesProxyHandler
from axes.models import AccessAttempt
from django.conf import settings
from django.contrib.auth import authenticate, login, logout
from django.db.models import Sum
from django.http import HttpRequest
from django.utils import timezone

from apps.people.models import Account
from foundation.errors import Rejected, TryAgain
from foundation.origin import client_address


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
    if _too_many_from_here(request) or not AxesProxyHandler.is_allowed(request, credentials):
        raise TryAgain("Too many failed sign-ins. Wait a quarter of an hour.", code="locked_out", status=429)
    account = authenticate(request, username=credentials["username"], email=credentials["email"], password=password)
    if account is None:
        if not AxesProxyHandler.is_allowed(request, credentials):
            raise TryAgain("Too many failed sign-ins. Wait a quarter of an hour.", code="locked_out", status=429)
        raise Rejected("This e-mail address and password do not belong together.", code="wrong_password")
    login(request, account)
    return account


def _too_many_from_here(request: HttpRequest) -> bool:
    """Whoever tries one account after the other from one address."""
    since = timezone.now() - timedelta(hours=settings.AXES_COOLOFF_TIME)
    tried = AccessAttempt.objects.filter(ip_address=client_address(request), attempt_time__gte=since)
    failures = tried.aggregate(failures=Sum("failures_since_start"))["failures"] or 0
    return failures >= settings.SIGN_IN_FAILURES_PER_ADDRESS


def sign_out(request: HttpRequest) -> None:
    logout(request)
