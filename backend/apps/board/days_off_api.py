"""HTTP: days off at the desk."""

from datetime import date
from typing import Any

from django.http import HttpRequest
from ninja import Field, Router, Schema

from apps.board.days_off import Effect, waiting
from apps.people import commands
from core.roles import Action
from foundation import clock
from foundation.access import Needs, actor_of
from foundation.schemas import Key, Text

router = Router()


class EffectOut(Schema):
    """Days off that wait for an answer, and what granting them means. `holiday_days` null: nobody counts them."""

    id: int
    technician_id: int
    technician: str
    first_day: date
    last_day: date
    kind: str
    words: str
    working_days: int
    visits: int
    promised: int
    others: list[str]
    holiday_days: int | None
    holiday_taken: int

    @classmethod
    def of(cls, row: Effect) -> "EffectOut":
        asked = row.asked
        return cls(
            id=asked.pk, technician_id=asked.technician_id, technician=asked.technician.name,
            first_day=asked.first_day, last_day=asked.last_day, kind=asked.kind, words=asked.words,
            working_days=row.working_days, visits=len(row.visits), promised=row.promised, others=list(row.others),
            holiday_days=row.allowance.days, holiday_taken=row.allowance.taken,
        )  # fmt: skip


class DaysAnswerIn(Schema):
    """`answer`: what the technician reads."""

    answer: Text = Field("", max_length=300)


@router.get("/board/days-off", response=list[EffectOut], auth=Needs(Action.PLAN))
def days_off(request: HttpRequest) -> list[EffectOut]:
    """What technicians asked for and nobody has answered, with what granting it means."""
    return [EffectOut.of(row) for row in waiting()]


@router.post("/board/days-off/{asked_id}/grant", response=list[EffectOut], auth=Needs(Action.PLAN))
def grant(request: HttpRequest, asked_id: Key, body: DaysAnswerIn) -> list[EffectOut]:
    """Grant days off: they are an absence. Answers what still waits."""
    _answer(request, commands.grant_days, asked_id, body)
    return days_off(request)


@router.post("/board/days-off/{asked_id}/decline", response=list[EffectOut], auth=Needs(Action.PLAN))
def decline(request: HttpRequest, asked_id: Key, body: DaysAnswerIn) -> list[EffectOut]:
    """Decline days off, with a reason. Answers what still waits."""
    _answer(request, commands.decline_days, asked_id, body)
    return days_off(request)


def _answer(request: HttpRequest, command: Any, asked_id: int, body: DaysAnswerIn) -> None:
    command(actor=actor_of(request), now=clock.now(), asked_id=asked_id, answer=body.answer)
