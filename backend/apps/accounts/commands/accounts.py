"""Inviting people, changing what they may do, letting them go."""

from datetime import datetime
from typing import cast

from allauth.mfa.models import Authenticator
from allauth.usersessions.models import UserSession
from django.core.exceptions import ValidationError
from django.core.validators import validate_email
from django.db import IntegrityError, transaction
from django.db.models import Q

from apps.accounts import letters
from apps.accounts.inputs import AccountFields
from apps.people.models import Account, OwnRole, Technician
from core.roles import Action, Role
from foundation import audit, live
from foundation.actors import Actor, require
from foundation.errors import Conflict, NotFound, Rejected

_ADMINISTRATORS = Q(role=Role.ADMINISTRATOR, is_active=True)


@transaction.atomic
def invite(*, actor: Actor, now: datetime, email: str, fields: AccountFields, origin: str) -> Account:
    """Make an account and send its owner a letter with a link, at which they choose a password.

    Raises
    ------
    Rejected
        For an address that is none or has an account already, or a technician somebody else works as.
    """
    require(actor, Action.MANAGE_ACCOUNTS)
    email = email.strip().lower()
    try:
        validate_email(email)
    except ValidationError as error:
        raise Rejected(f"“{email}” is no e-mail address.", field="email") from error
    if known := Account.objects.filter(email=email).first():
        raise Rejected(f"{known.name} has an account with this address already.", field="email")
    account = Account(version=0, email=email)
    account.set_unusable_password()
    try:
        with transaction.atomic():
            _write(account, fields)
    except IntegrityError as error:
        raise Rejected(f"{email} was invited by somebody else just now.", field="email") from error
    letters.ask(letters.INVITATION, account_id=account.pk, origin=origin)
    _tell(actor, now, account, f"invited {account.name} as {account.role_name}")
    return account


@transaction.atomic
def change_account(*, actor: Actor, now: datetime, account_id: int, version: int, fields: AccountFields) -> Account:
    """Another name, role or technician; holds from the next thing they do.

    Raises
    ------
    Conflict
        When somebody else changed the account since it was seen.
    Rejected
        When nobody would be administrator any more.
    """
    require(actor, Action.MANAGE_ACCOUNTS)
    account = _locked(actor, account_id, version)
    before = account.role_name
    if account.role == Role.ADMINISTRATOR != fields.role:
        _keep_one_administrator(account)
    _write(account, fields)
    after = account.role_name
    changed = f"made {account.name} {after}, no longer {before}" if before != after else ""
    _tell(actor, now, account, changed or f"changed the account of {account.name}")
    return account


@transaction.atomic
def set_active(*, actor: Actor, now: datetime, account_id: int, version: int, active: bool) -> Account:
    """Let somebody sign in no more, at once and everywhere; or again. What they did stays.

    Raises
    ------
    Rejected
        For one's own account, and when nobody would be administrator any more.
    """
    require(actor, Action.MANAGE_ACCOUNTS)
    account = _locked(actor, account_id, version)
    if account.pk == actor.id:
        raise Rejected("You cannot lock yourself out.", code="own_account")
    if not active:
        _keep_one_administrator(account)
        for session in UserSession.objects.filter(user=account):
            session.end()
    account.is_active, account.version = active, account.version + 1
    account.save(update_fields=["is_active", "version"])
    may = "may sign in again" if active else "may not sign in any more"
    _tell(actor, now, account, f"{account.name} {may}")
    return account


@transaction.atomic
def invite_again(*, actor: Actor, now: datetime, account_id: int, origin: str) -> str:
    """Send the invitation once more, and give its link, to be told in another way.

    Raises
    ------
    Rejected
        When its owner has a password already: then they ask for a new one themselves.
    """
    require(actor, Action.MANAGE_ACCOUNTS)
    account = _locked(actor, account_id)
    if account.has_usable_password():
        raise Rejected(f"{account.name} has come in already: “forgot the password” on the sign-in page helps.")
    if not account.is_active:
        raise Rejected(f"{account.name} may not sign in.")
    letters.ask(letters.INVITATION, account_id=account.pk, origin=origin)
    _tell(actor, now, account, f"invited {account.name} once more")
    return letters.link(letters.INVITATION, account, origin=origin)


@transaction.atomic
def remove_second_factor(*, actor: Actor, now: datetime, account_id: int) -> Account:
    """Let somebody in with the password alone: their phone is lost. They set up another one."""
    require(actor, Action.MANAGE_ACCOUNTS)
    account = _locked(actor, account_id)
    gone, _kinds = Authenticator.objects.filter(user=account).delete()
    if not gone:
        raise Rejected(f"{account.name} has no second factor.")
    _tell(actor, now, account, f"removed the second factor of {account.name}")
    return account


def _locked(actor: Actor, account_id: int, version: int | None = None) -> Account:
    """The account, locked together with all administrators, in the order of their keys: of two who change each other
    at once, one is first, and the other may not any more."""
    concerned = Q(pk__in=(account_id, actor.id)) | _ADMINISTRATORS
    locked = Account.objects.select_for_update(of=("self",)).filter(concerned).order_by("pk")
    rows = {row.pk: row for row in locked}
    if actor.id in rows:
        require(cast(Actor, rows[actor.id]), Action.MANAGE_ACCOUNTS)
    account = rows.get(account_id)
    if account is None:
        raise NotFound("There is no such account.", code="no_account")
    if version not in (None, account.version):
        newest = audit.since("account", account_id, version or 0)
        who = f"{newest[0].actor_name} has" if newest else "Somebody has"
        raise Conflict(f"{who} changed this account meanwhile.", current_version=account.version)
    return account


def _keep_one_administrator(account: Account) -> None:
    others = [row for row in Account.objects.filter(_ADMINISTRATORS) if row.pk != account.pk]
    if account.role == Role.ADMINISTRATOR and not any(row.has_usable_password() for row in others):
        raise Rejected("Somebody has to be administrator: make another one first.", code="last_administrator")


def _write(account: Account, fields: AccountFields) -> None:
    name = " ".join(fields.name.split())
    if not name:
        raise Rejected("An account needs a name.", field="name")
    if (fields.role == Role.OWN) != (fields.own_role_id is not None):
        raise Rejected("Say which role of your own.", field="role")
    if fields.own_role_id is not None and not OwnRole.objects.filter(pk=fields.own_role_id).exists():
        raise Rejected("There is no such role (any more).", field="role")
    account.name, account.role = name, fields.role
    account.own_role_id = fields.own_role_id
    account.version += 1
    account.save()
    _work_as(account, fields.technician_id)


def _work_as(account: Account, technician_id: int | None) -> None:
    if account.technician_id == technician_id:
        return
    Technician.objects.filter(account=account).update(account=None)
    if technician_id is None:
        return
    technician = Technician.objects.select_for_update(of=("self",)).filter(pk=technician_id).first()
    if technician is None:
        raise Rejected("There is no such technician (any more).", field="technician_id")
    if technician.account_id not in (None, account.pk):
        raise Rejected(f"{technician.name} has an account already.", field="technician_id")
    technician.account = account
    technician.save(update_fields=["account"])


def _tell(actor: Actor, now: datetime, account: Account, sentence: str) -> None:
    audit.record(
        actor=actor, now=now, action="account", entity="account", entity_id=account.pk, version=account.version,
        sentence=sentence,
    )  # fmt: skip
    live.announce("account", ids=[account.pk])
