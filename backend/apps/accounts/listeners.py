"""What is noted when somebody comes in, or changes how they do."""

from typing import Any, cast

from allauth.mfa.signals import authenticator_added, authenticator_removed, authenticator_reset

from apps.people.models import Account
from foundation import audit, clock
from foundation.actors import Actor

_SENTENCES = {"totp": "a second factor", "recovery_codes": "recovery codes", "webauthn": "a passkey"}


def listen() -> None:
    authenticator_added.connect(_added, dispatch_uid="accounts")
    authenticator_removed.connect(_removed, dispatch_uid="accounts")
    authenticator_reset.connect(_renewed, dispatch_uid="accounts")


def _added(user: Account, authenticator: Any, **_more: Any) -> None:
    _tell(user, f"set up {_SENTENCES[authenticator.type]}")


def _removed(user: Account, authenticator: Any, **_more: Any) -> None:
    _tell(user, f"removed {_SENTENCES[authenticator.type]}")


def _renewed(user: Account, authenticator: Any, **_more: Any) -> None:
    _tell(user, f"renewed {_SENTENCES[authenticator.type]}")


def _tell(account: Account, sentence: str) -> None:
    audit.record(
        actor=cast(Actor, account), now=clock.now(), action="account", entity="account", entity_id=account.pk,
        version=account.version, sentence=sentence,
    )  # fmt: skip
