"""Deciding what becomes of deeds that wait."""

from datetime import datetime
from typing import cast
from uuid import UUID

from django.db import transaction
from django.db.models import QuerySet

from apps.field.doing import do, step_of
from apps.field.inputs import SentDeed
from apps.field.models import FieldDeed, Phone
from apps.orders import commands as orders
from apps.orders import queries as order_queries
from apps.orders.inputs import Base
from apps.orders.models import Visit
from core.basics import Place
from core.field import Choice, Outcome
from core.orders import Step, VisitState
from core.roles import Action
from foundation import audit, live
from foundation.actors import Actor, require
from foundation.errors import Conflict, NotFound, Rejected, RelayError


@transaction.atomic
def settle(*, actor: Actor, now: datetime, deed_id: UUID, choice: Choice, words: str = "") -> FieldDeed:
    """Let a deed that waits count as it was told, or keep it without an effect.

    Where it counts, what waited behind it at the same visit follows in its order, as far as it can.

    Raises
    ------
    NotPermitted, NotFound
    Conflict
        When somebody has decided already, or something before it still waits.
    Rejected
        When it cannot be done as things are: the sentence says what stands in the way.
    """
    require(actor, Action.CHANGE_VISITS)
    deed = _locked(deed_id)
    if deed.outcome != Outcome.WAITING or deed.settled_at is not None:
        raise Conflict("Somebody has decided about this already.", code="settled")
    if _waiting_with(deed).filter(number__lt=deed.number).exists():
        raise Conflict("What was done before it waits too: decide about that first.", code="not_the_first")
    if choice is Choice.APPLY:
        _apply(actor, now, deed)
    _close(actor, now, deed, choice, words)
    if choice is Choice.APPLY:
        _follow(actor, now, deed)
    return deed


def _locked(deed_id: UUID) -> FieldDeed:
    """The deed, locked behind its phone: nothing new comes in from there meanwhile."""
    phone_id = FieldDeed.objects.filter(pk=deed_id).values_list("phone_id", flat=True).first()
    if phone_id is None:
        raise NotFound("There is no such deed.", code="no_deed")
    Phone.objects.select_for_update().get(pk=phone_id)
    rows = FieldDeed.objects.select_for_update(of=("self",)).select_related("technician__account")
    return rows.get(pk=deed_id)


def _waiting_with(deed: FieldDeed) -> QuerySet[FieldDeed]:
    """What else of the same phone waits at the same visit, in its order."""
    rows = FieldDeed.objects.filter(phone=deed.phone_id, visit=deed.visit_id, outcome=Outcome.WAITING, settled_at=None)
    return rows.exclude(pk=deed.pk).order_by("number")


def _apply(actor: Actor, now: datetime, deed: FieldDeed) -> None:
    """Do it as whoever did it, on the visit as it is now."""
    account = deed.technician.account
    doer = cast(Actor, account) if account is not None and account.is_active else actor
    visit = None
    if deed.visit_id is not None:
        visit = order_queries.visit(deed.visit_id)
        _check_whose(visit, deed)
        visit = _caught_up(actor, now, visit, deed)
    do(actor=doer, now=now, sent=_as_sent(deed, visit))


def _check_whose(visit: Visit, deed: FieldDeed) -> None:
    if deed.technician_id in (visit.technician_id, *visit.mates):
        return
    whose = f"{visit.technician.name}'s" if visit.technician is not None else f"nobody's, it is {visit.state}"
    raise Rejected(
        f"The visit is {whose} now. Give it to {deed.technician.name} on the board first, or keep what was told.",
        code="not_theirs",
    )


def _caught_up(actor: Actor, now: datetime, visit: Visit, deed: FieldDeed) -> Visit:
    """The visit as far as it has to be for what was done: nobody sets out to what was not sent and accepted."""
    step = step_of(deed.kind, deed.body)
    if step in (None, Step.DECLINE):
        return visit
    if visit.state == VisitState.PLACED:
        visit = orders.take_step(
            actor=actor, now=now, visit_id=visit.pk, version=visit.version, step=Step.SEND, tells="nobody"
        )
    if visit.state == VisitState.SENT and step is not Step.ACCEPT:
        visit = orders.take_step(actor=actor, now=now, visit_id=visit.pk, version=visit.version, step=Step.ACCEPT)
    return visit


def _as_sent(deed: FieldDeed, visit: Visit | None) -> SentDeed:
    base = None if visit is None else Base(state=VisitState(visit.state))
    return SentDeed(
        id=deed.pk, number=deed.number, previous=None, kind=deed.kind, visit_id=deed.visit_id, body=deed.body,
        based_on=base, happened_at=deed.happened_at, device_at=deed.device_at,
        where=Place(deed.lon, deed.lat) if deed.lon is not None and deed.lat is not None else None,
        accuracy_metres=deed.accuracy_metres, technician_id=deed.technician_id,
    )  # fmt: skip


def _close(actor: Actor, now: datetime, deed: FieldDeed, choice: Choice, words: str) -> None:
    deed.settled_at, deed.settled_by, deed.choice, deed.words = now, actor.name, choice, words
    if choice is Choice.APPLY:
        deed.outcome = Outcome.APPLIED
    deed.save(update_fields=["settled_at", "settled_by", "choice", "words", "outcome"])
    if deed.visit_id is None:
        return
    said = "let it count" if choice is Choice.APPLY else "kept it as told, without an effect"
    audit.record(
        actor=actor, now=now, action="settle", entity="visit", entity_id=deed.visit_id,
        sentence=f"decided about what {deed.technician.name} told from the field: {said}", words=words,
    )  # fmt: skip
    live.announce("visit", ids=[deed.visit_id], technicians=[deed.technician_id])


def _follow(actor: Actor, now: datetime, deed: FieldDeed) -> None:
    """What waited only for this one."""
    for row in _waiting_with(deed).select_related("technician__account"):
        try:
            with transaction.atomic():
                _apply(actor, now, row)
                _close(actor, now, row, Choice.APPLY, "")
        except RelayError as error:
            row.sentence = error.sentence[:400]
            row.save(update_fields=["sentence"])
            return
