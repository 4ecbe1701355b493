"""Letters to who has an account: an invitation, or a link to choose a new password.

They go by Django's mail, not by the outbox: what is in them is for their reader alone.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from allauth.account import app_settings as account_settings
from allauth.account.utils import user_pk_to_url_str
from django.conf import settings
from django.core.mail import EmailMessage
from django.http import HttpRequest

from apps.company.queries import company
from apps.people.models import Account
from foundation.jobs import after_commit

SEND = "accounts.send_letter"
Kind = Literal["invitation", "reset", "help"]
INVITATION: Kind = "invitation"
RESET: Kind = "reset"
HELP: Kind = "help"


@dataclass(frozen=True)
class _Words:
    subject: str
    text: str


_WORDS: dict[Kind, _Words] = {
    INVITATION: _Words(
        subject="{company} invites you to Iron Relay",
        text="Dear {name},\n\n{company} has made an account for you as {role}. Choose a password here:\n\n{link}\n\n"
        "The link works once, and for {days} days.\n",
    ),
    RESET: _Words(
        subject="A new password for {company}",
        text="Dear {name},\n\nsomebody, probably you, has asked for a new password. Choose it here:\n\n{link}\n\n"
        "The link works once, and for {days} days. If it was not you, do nothing: your password stays as it is.\n",
    ),
    HELP: _Words(
        subject="{helper} has signed in as you",
        text="Dear {name},\n\n{helper} has signed in to {company} as you, to help: {because}\n\nWhat they do stands "
        "under both names. If you did not want this, talk to them; you can end it under your account, by signing out "
        "everywhere.\n",
    ),
}


def origin_of(request: HttpRequest) -> str:
    """Where the application is, as whoever asks sees it: like https://relay.example. Only allowed hosts get here."""
    return f"{request.scheme}://{request.get_host()}"


def ask(kind: Kind, *, account_id: int, origin: str, more: Mapping[str, str] | None = None) -> None:
    """Have a letter sent once what is being written holds."""
    after_commit(SEND, kind=kind, account_id=account_id, origin=origin, more=dict(more or {}))


def link(kind: Kind, account: Account, *, origin: str) -> str:
    """An address at which a password is chosen, for whoever has it. It is worth nothing once a password was chosen."""
    token = account_settings.PASSWORD_RESET_TOKEN_GENERATOR().make_token(account)
    page = "welcome" if kind == INVITATION else "new-password"
    return f"{origin}/{page}/{user_pk_to_url_str(account)}-{token}"


def send(kind: Kind, *, account_id: int, origin: str, more: Mapping[str, str] | None = None) -> bool:
    """Write and send a letter; not to who may not sign in, nor an invitation to who has come in already.

    `more`: what it says besides.
    """
    account = Account.objects.filter(pk=account_id, is_active=True).first()
    if account is None or (kind == INVITATION and account.has_usable_password()):
        return False
    words = {
        "company": company().name, "name": account.name, "role": account.role_name,
        "link": "" if kind == HELP else link(kind, account, origin=origin),
        "days": str(settings.PASSWORD_RESET_TIMEOUT // 86400), **(more or {}),
    }  # fmt: skip
    letter = _WORDS[kind]
    EmailMessage(letter.subject.format(**words), letter.text.format(**words), to=[account.email]).send()
    return True
