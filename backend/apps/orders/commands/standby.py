"""The standby list: visits whose customer would come forward."""

from datetime import datetime
from typing import Any

from django.db import transaction

from apps.orders.commands.steps import lock_visit
from apps.orders.events import PutOnStandby
from apps.orders.inputs import Conditions
from apps.orders.models import Visit
from core.orders import VisitState
from core.roles import Action
from foundation import audit, events, live
from foundation.actors import Actor, require
from foundation.errors import Rejected


@transaction.atomic
def put_on_standby(
    *, actor: Actor, now: datetime, visit_id: int, version: int, conditions: Conditions, tell: bool
) -> Visit:
    """Note that the customer would take an earlier time, and under which conditions."""
    require(actor, Action.OFFER_TIMES)
    visit = lock_visit(actor=actor, visit_id=visit_id, version=version)
    state = VisitState(visit.state)
    if state.is_ended or state.is_under_way:
        raise Rejected("It is too late to come earlier.", code="wrong_state")
    if conditions.part not in ("", "morning", "afternoon") or any(not 0 <= day <= 6 for day in conditions.weekdays):
        raise Rejected("These conditions cannot be.", field="standby")
    visit.standby = {
        "since": int(now.timestamp()),
        "not_before": conditions.not_before.isoformat() if conditions.not_before else None,
        "weekdays": sorted(set(conditions.weekdays)),
        "part": conditions.part,
        "notice_minutes": conditions.notice_minutes,
        "words": conditions.words.strip()[:200],
    }
    _save(actor, now, visit, "put it on standby")
    if tell:
        events.publish(PutOnStandby(visit=visit, at=now))
    return visit


@transaction.atomic
def take_off_standby(*, actor: Actor, now: datetime, visit_id: int, version: int) -> Visit:
    """The customer no longer waits for an earlier time."""
    require(actor, Action.OFFER_TIMES)
    visit = lock_visit(actor=actor, visit_id=visit_id, version=version)
    visit.standby = None
    _save(actor, now, visit, "took it off standby")
    return visit


@transaction.atomic
def set_standby(
    *, actor: Actor, now: datetime, visit_id: int, version: int, standby: dict[str, Any] | None, sentence: str
) -> Visit:
    """Put what was noted about standby back as it was, or take it off because the customer came forward."""
    require(actor, Action.CHANGE_VISITS)
    visit = lock_visit(actor=actor, visit_id=visit_id, version=version)
    visit.standby = standby
    _save(actor, now, visit, sentence)
    return visit


def _save(actor: Actor, now: datetime, visit: Visit, sentence: str) -> None:
    visit.version += 1
    visit.save(update_fields=["standby", "version"])
    audit.record(
        actor=actor, now=now, action="standby", entity="visit", entity_id=visit.pk, version=visit.version,
        sentence=sentence,
    )  # fmt: skip
    live.announce("visit", ids=[visit.pk])
