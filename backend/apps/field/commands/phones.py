"""Phones: known by the first sign-in, and signed out when they are lost."""

import secrets
from datetime import datetime
from uuid import UUID

from django.contrib.sessions.models import Session
from django.db import IntegrityError, transaction

from apps.field.models import Phone
from apps.field.queries import SIGNED_OUT, check_open
from core.roles import Action
from foundation import audit, live
from foundation.actors import Actor, require
from foundation.errors import Conflict, NotFound, NotPermitted

KEY_BYTES = 32


@transaction.atomic
def register_phone(*, actor: Actor, now: datetime, phone_id: UUID, name: str, session: str) -> Phone:
    """Make a phone known, or know it again: whoever has signed in on it gets the key to what it keeps.

    One that was signed out comes back by this, once somebody has signed in on it anew: in another session.

    Raises
    ------
    NotPermitted
        When it was signed out, and this is still the session of before.
    Conflict
        When another person's data is under this name; the phone gives itself a new one.
    """
    require(actor, Action.WORK_IN_FIELD)
    try:
        with transaction.atomic():
            found, made = Phone.objects.select_for_update().get_or_create(
                pk=phone_id, defaults={
                    "account_id": actor.id, "name": name, "key": secrets.token_bytes(KEY_BYTES), "made_at": now,
                    "seen_at": now, "session": session,
                },
            )  # fmt: skip
    except IntegrityError as error:  # pragma: no cover - two first sign-ins at the same instant
        raise Conflict("This phone is being made known at this moment.", code="phone_taken") from error
    if found.account_id != actor.id:
        raise Conflict("This phone is known as somebody else's.", code="phone_taken")
    if found.signed_out_at is not None and found.session == session:
        raise NotPermitted(SIGNED_OUT, code="phone_signed_out")
    if not made:
        found.session = session
        found.name, found.seen_at, found.signed_out_at, found.signed_out_by = name, now, None, ""
        found.save(update_fields=["name", "seen_at", "signed_out_at", "signed_out_by", "session"])
    return found


def locked_phone(*, actor: Actor, phone_id: UUID) -> Phone:
    """An own phone, locked: what comes from one phone is taken in one after the other.

    Raises
    ------
    NotFound
    NotPermitted
        When it was signed out.
    """
    Phone.objects.select_for_update().filter(pk=phone_id, account=actor.id).first()
    return check_open(actor=actor, phone_id=phone_id)


@transaction.atomic
def sign_out_phone(*, actor: Actor, now: datetime, phone_id: UUID) -> Phone:
    """Sign a lost phone out, and end its session: what it keeps cannot be read until somebody signs in on it again.

    Raises
    ------
    NotPermitted, NotFound
    """
    require(actor, Action.MANAGE_ACCOUNTS)
    found = Phone.objects.select_for_update().select_related("account").filter(pk=phone_id).first()
    if found is None:
        raise NotFound("There is no such phone.", code="no_phone")
    if found.signed_out_at is None:
        found.signed_out_at, found.signed_out_by = now, actor.name
        found.save(update_fields=["signed_out_at", "signed_out_by"])
        Session.objects.filter(pk=found.session).delete()
        audit.record(
            actor=actor, now=now, action="sign out", entity="account", entity_id=found.account_id,
            sentence=f"signed out the phone “{found.name}” of {found.account.name}",
        )  # fmt: skip
        live.announce("phone", technicians=[found.account.technician_id])
    return found
