"""Passwords."""

from datetime import datetime
from typing import cast

from django.db import transaction

from apps.people.models import Account
from foundation import audit
from foundation.actors import Actor
from foundation.errors import Conflict


def choose_password(*, now: datetime, account: Account, password: str) -> None:
    """Give an account the password that its owner chose, by a link or in place of the one they had.

    The caller has checked the link or the old password against `account` as it was read.

    Raises
    ------
    Conflict
        When the password was changed since then, or the account may not sign in any more.
    """
    seen, is_first = account.password, not account.has_usable_password()
    account.set_password(password)  # takes a moment on purpose: no connection is held meanwhile
    with transaction.atomic():
        rows = Account.objects.filter(pk=account.pk, password=seen, is_active=True)
        if not rows.update(password=account.password):
            account.password = seen
            raise Conflict("The password was changed meanwhile.")
        audit.record(
            actor=cast(Actor, account), now=now, action="password", entity="account", entity_id=account.pk,
            version=account.version, sentence="came in with a first password" if is_first else "chose a new password",
        )  # fmt: skip
