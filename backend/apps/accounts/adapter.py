"""How signing in, passwords and second factors are done here: what differs from allauth's own ways.

Source: django-allauth's documentation of `DefaultAccountAdapter` and `DefaultMFAAdapter`.
"""

import base64
import hashlib
from datetime import timedelta
from typing import Any, ClassVar, NoReturn

from allauth.account.adapter import DefaultAccountAdapter
from allauth.core.exceptions import ImmediateHttpResponse
from allauth.mfa.adapter import DefaultMFAAdapter
from axes.handlers.proxy import AxesProxyHandler
from axes.models import AccessAttempt
from axes.utils import reset
from cryptography.fernet import Fernet
from django.conf import settings
from django.db.models import Sum
from django.http import HttpRequest, JsonResponse
from django.utils import timezone

from apps.accounts import letters
from apps.accounts.commands import choose_password
from apps.people.models import Account
from foundation import clock
from foundation.connections import give_back
from foundation.errors import Conflict
from foundation.origin import client_address


class AccountAdapter(DefaultAccountAdapter):  # type: ignore[misc]
    """Nobody signs up: who may come in is invited. Guessing is stopped by axes, whose counts every process shares."""

    error_messages: ClassVar[dict[str, str]] = {
        **DefaultAccountAdapter.error_messages,
        "email_password_mismatch": "This e-mail address and password do not belong together.",
        "enter_current_password": "This is not your present password.",
        "incorrect_password": "This is not your password.",
        "incorrect_code": "This code is not right.",
        "invalid_password_reset": "This link was used already, or is too old.",
        "too_many_login_attempts": "Too many failed sign-ins. Wait a quarter of an hour.",
        "rate_limited": "Too many tries. Wait a little.",
    }

    def is_open_for_signup(self, request: HttpRequest) -> bool:  # noqa: ARG002 - allauth's signature
        return False

    def get_client_ip(self, request: HttpRequest) -> str:
        return client_address(request)

    def pre_authenticate(self, request: HttpRequest, **credentials: Any) -> None:
        if _too_many_from_here(request):
            self._stop()
        self._stop_when_locked(request, credentials)

    def authentication_failed(self, request: HttpRequest, **credentials: Any) -> None:
        self._stop_when_locked(request, credentials)

    def _stop_when_locked(self, request: HttpRequest, credentials: dict[str, Any]) -> None:
        email = str(credentials.get("email", "")).strip().lower()
        if not AxesProxyHandler.is_allowed(request, {"email": email, "username": email}):
            self._stop()

    def _stop(self) -> NoReturn:
        raise ImmediateHttpResponse(_errors(429, "too_many_login_attempts", self.error_messages))

    def set_password(self, user: Account, password: str) -> None:
        """See `choose_password`: of two who have the same link one is first."""
        give_back()
        try:
            choose_password(now=clock.now(), account=user, password=password)
        except Conflict as error:
            answer = _errors(409, "invalid_password_reset", self.error_messages)
            raise ImmediateHttpResponse(answer) from error
        reset(username=user.email)

    def get_reset_password_from_key_url(self, key: str) -> str:  # noqa: ARG002 - allauth's signature
        return ""  # the letter makes its own

    def send_password_reset_mail(self, user: Account, email: str, context: dict[str, Any]) -> None:  # noqa: ARG002
        # The worker makes the link: no secret waits in the queue, and the answer takes no longer for whom we know.
        letters.ask(letters.RESET, account_id=user.pk, origin=letters.origin_of(self.request))

    def send_mail(self, template_prefix: str, email: str, context: dict[str, Any]) -> None:
        raise NotImplementedError(f"No letter is written for {template_prefix}.")


class SecondFactorAdapter(DefaultMFAAdapter):  # type: ignore[misc]
    """Secrets of second factors lie encrypted in the database."""

    error_messages: ClassVar[dict[str, str]] = {
        **DefaultMFAAdapter.error_messages,
        "incorrect_code": "This code is not right. Codes change every half minute: is the phone's clock right?",
    }

    def encrypt(self, text: str) -> str:
        return _cipher().encrypt(text.encode()).decode()

    def decrypt(self, encrypted_text: str) -> str:
        return _cipher().decrypt(encrypted_text.encode()).decode()


def _cipher() -> Fernet:
    key = hashlib.sha256(f"second factors {settings.SECRET_KEY}".encode()).digest()
    return Fernet(base64.urlsafe_b64encode(key))


def _errors(status: int, code: str, messages: dict[str, str]) -> JsonResponse:
    """An answer in the shape of allauth's own."""
    return JsonResponse({"status": status, "errors": [{"code": code, "message": messages[code]}]}, status=status)


def _too_many_from_here(request: HttpRequest) -> bool:
    """Whoever tries one account after the other from one address."""
    since = timezone.now() - timedelta(hours=settings.AXES_COOLOFF_TIME)
    tried = AccessAttempt.objects.filter(ip_address=client_address(request), attempt_time__gte=since)
    failures = tried.aggregate(failures=Sum("failures_since_start"))["failures"] or 0
    return failures >= settings.SIGN_IN_FAILURES_PER_ADDRESS
