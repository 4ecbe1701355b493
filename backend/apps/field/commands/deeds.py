"""Taking in what was done in the field: each deed once, in its order, and none of them lost."""

import logging
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Literal
from uuid import UUID

from django.db import transaction

from apps.field.bodies import Shapeless
from apps.field.commands.phones import locked_phone
from apps.field.doing import do
from apps.field.inputs import SentDeed
from apps.field.models import FieldDeed, Phone
from apps.orders.models import Visit
from core.field import Choice, Outcome
from core.roles import Action
from foundation import audit, live
from foundation.actors import Actor, require
from foundation.errors import Conflict, NotFound, NotPermitted, Rejected, RelayError

_log = logging.getLogger(__name__)
# What contradicts the records as they are now; a person decides.
_CLASHES = (Conflict, NotFound, NotPermitted, Rejected)


@dataclass(frozen=True, kw_only=True)
class Answer:
    """What has become of a deed. `again`: nothing yet; it is to be sent once more, after `missing` where that is
    named. `kept`: somebody has decided that it stands beside the visit, without an effect."""

    id: UUID
    outcome: Outcome | Literal["again", "kept"]
    sentence: str = ""
    missing: UUID | None = None


def take_in(*, actor: Actor, now: datetime, phone_id: UUID, deeds: Sequence[SentDeed]) -> list[Answer]:
    """Take in deeds in their order, each in a transaction of its own together with what it does.

    What is known already is answered as before. Where one cannot be taken in at the moment, the later ones of the same
    visit wait for it, and those of others go on.

    Raises
    ------
    NotFound, NotPermitted
        When the phone is not known, or was signed out.
    """
    require(actor, Action.WORK_IN_FIELD)
    answers: list[Answer] = []
    stuck: set[int | None] = set()
    for sent in deeds:
        if sent.visit_id in stuck:
            answers.append(Answer(id=sent.id, outcome="again"))
            continue
        answer = _tried(actor, now, phone_id, sent)
        if answer.outcome == "again":
            stuck.add(sent.visit_id)
        answers.append(answer)
    return answers


def _tried(actor: Actor, now: datetime, phone_id: UUID, sent: SentDeed) -> Answer:
    try:
        return _take_one(actor, now, phone_id, sent)
    except RelayError:
        raise
    except Exception:
        # A fault of ours: the deed stays on the phone, and no other visit's waits behind it.
        _log.exception("deed %s could not be taken in", sent.id)
        return Answer(id=sent.id, outcome="again", sentence="The server could not take this in yet. It is tried again.")


@transaction.atomic
def _take_one(actor: Actor, now: datetime, phone_id: UUID, sent: SentDeed) -> Answer:
    phone = locked_phone(actor=actor, phone_id=phone_id)
    known = FieldDeed.objects.filter(pk=sent.id).first()
    if known is not None:
        if known.phone_id != phone.pk:
            return Answer(id=sent.id, outcome=Outcome.REFUSED, sentence="This name belongs to something else.")
        return _answer(known)
    if sent.previous is not None and not FieldDeed.objects.filter(pk=sent.previous, phone=phone).exists():
        return Answer(id=sent.id, outcome="again", missing=sent.previous)
    outcome, sentence = _what_becomes(actor, now, sent)
    row = _write(actor, now, phone, sent, outcome, sentence)
    phone.seen_at = now
    phone.save(update_fields=["seen_at"])
    return _answer(row)


def _what_becomes(actor: Actor, now: datetime, sent: SentDeed) -> tuple[Outcome, str]:
    """Do it, if it can be done; what it contradicts is undone together with what it had begun."""
    before = _waits_before(actor, sent)
    if before is not None:
        return Outcome.WAITING, "It waits for what was done before it at this visit."
    try:
        with transaction.atomic():
            return Outcome.APPLIED, do(actor=actor, now=now, sent=sent)
    except Shapeless as error:
        return Outcome.REFUSED, str(error)[:400]
    except _CLASHES as error:
        # Of a day nobody at the office decides: whose day it is says it in another way.
        return (Outcome.WAITING if sent.visit_id is not None else Outcome.REFUSED), error.sentence[:400]


def _waits_before(actor: Actor, sent: SentDeed) -> FieldDeed | None:
    if sent.visit_id is None:
        return None
    rows = FieldDeed.objects.filter(
        visit=sent.visit_id, technician=actor.technician_id, outcome=Outcome.WAITING, settled_at=None
    )
    return rows.first()


def _write(actor: Actor, now: datetime, phone: Phone, sent: SentDeed, outcome: Outcome, sentence: str) -> FieldDeed:
    visit = Visit.objects.filter(pk=sent.visit_id).first() if sent.visit_id is not None else None
    if sent.visit_id is not None and visit is None:
        outcome, sentence = Outcome.REFUSED, "There is no such visit."
    assert actor.technician_id is not None  # only technicians have phones
    base = sent.based_on
    row = FieldDeed.objects.create(
        id=sent.id, phone=phone, technician_id=actor.technician_id, number=sent.number, kind=sent.kind[:20],
        visit=visit, body=dict(sent.body), based_on={"state": base.state, "start": base.start} if base else None,
        happened_at=sent.happened_at, device_at=sent.device_at, received_at=now,
        lon=sent.where.lon if sent.where else None, lat=sent.where.lat if sent.where else None,
        accuracy_metres=sent.accuracy_metres, outcome=outcome, sentence=sentence,
    )  # fmt: skip
    if outcome is Outcome.WAITING and visit is not None:
        audit.record(
            actor=actor, now=now, action="tell", entity="visit", entity_id=visit.pk, version=visit.version,
            sentence=f"told from the field what somebody has to decide: {sentence}",
        )  # fmt: skip
        live.announce("visit", ids=[visit.pk])
    return row


def _answer(row: FieldDeed) -> Answer:
    if row.choice == Choice.KEEP:
        words = f": {row.words}" if row.words else ""
        return Answer(id=row.pk, outcome="kept", sentence=f"{row.settled_by} kept it beside the visit{words}")
    return Answer(id=row.pk, outcome=Outcome(row.outcome), sentence=row.sentence)
