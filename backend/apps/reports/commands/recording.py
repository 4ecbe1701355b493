"""Recording what was done at a visit: tasks, answers, notes, how the customer took it."""

from datetime import datetime
from typing import Any
from uuid import UUID

from django.db import transaction

from apps.orders.work import work_of
from apps.reports.commands.visits import tell, visit_of
from apps.reports.inputs import AcceptanceFields, AnswerFields, Doing, Reader
from apps.reports.models import DoneTask, FormAnswer, Looked, Picture, VisitNote, WorkAccepted
from core.forms import FILES, Question, check_answers, questions_from, stored
from foundation.actors import Actor
from foundation.errors import Rejected


@transaction.atomic
def look(*, actor: Actor, doing: Doing) -> None:
    """Somebody has looked at what there is to know.

    Raises
    ------
    NotPermitted, NotFound, Rejected
        As for every piece of a report: see `visit_of`.
    """
    visit = visit_of(actor, doing)
    Looked.objects.get_or_create(visit=visit, technician_id=doing.technician_id, defaults={"at": doing.at})


@transaction.atomic
def set_task(*, actor: Actor, now: datetime, doing: Doing, words: str, done: bool) -> None:
    """Tick a task, or take the tick back.

    Raises
    ------
    Rejected
        When the order has no such task (any more).
    """
    visit = visit_of(actor, doing)
    if done and words not in work_of(visit.order, "tasks"):
        raise Rejected(f"“{words}” is none of the tasks (any more).", code="no_task")
    if done:
        DoneTask.objects.get_or_create(
            visit=visit, words=words, defaults={"technician_id": doing.technician_id, "at": doing.at}
        )
    else:
        DoneTask.objects.filter(visit=visit, words=words).delete()
    tell(actor, now, visit, f"{'ticked' if done else 'took the tick back from'} “{words}”")


@transaction.atomic
def answer(*, actor: Actor, now: datetime, doing: Doing, fields: AnswerFields) -> None:
    """Answer a question of the form, or take the answer away.

    Raises
    ------
    Rejected
        When it is not asked (any more), or cannot be answered like that; `field` is the question's key.
    """
    visit = visit_of(actor, doing)
    question = _question(questions_from(work_of(visit.order, "questions")), fields.key)
    if fields.value is None or (isinstance(fields.value, str) and not fields.value.strip()):
        FormAnswer.objects.filter(visit=visit, key=fields.key).delete()
        tell(actor, now, visit, f"took the answer to “{question.label}” away")
        return
    value = _read(visit.pk, question, fields)
    FormAnswer.objects.update_or_create(
        visit=visit, key=fields.key,
        defaults={
            "technician_id": doing.technician_id, "at": doing.at, "asset": visit.order.asset,
            "label": question.label[:200], "value": value,
        },
    )  # fmt: skip
    tell(actor, now, visit, f"answered “{question.label}”")


def _question(questions: tuple[Question, ...], key: str) -> Question:
    found = next((question for question in questions if question.key == key), None)
    if found is None:
        raise Rejected("This question is not asked (any more).", code="no_question", field=key[:60])
    return found


def _read(visit_id: int, question: Question, fields: AnswerFields) -> Any:
    if question.kind in FILES:
        return str(_picture(visit_id, fields.value).pk)
    # Whether it comes up hangs on other answers, which may still be on their way: only the answer itself is looked at.
    alone = stored([question])[0] | {"shown_if": None}
    if fields.sure:
        alone |= {"least": None, "most": None}
    clean, problems = check_answers(questions_from([alone]), {question.key: fields.value})
    if problems:
        raise Rejected(f"{question.label}: {problems[question.key]}.", code="wrong_answer", field=question.key)
    return clean[question.key]


def _picture(visit_id: int, name: Any) -> Picture:
    try:
        found = Picture.objects.filter(pk=UUID(str(name)), visit=visit_id, removed=False).first()
    except ValueError:
        found = None
    if found is None:
        raise Rejected("There is no such picture at this visit.", code="no_picture")
    return found


@transaction.atomic
def write_note(*, actor: Actor, now: datetime, doing: Doing, reader: Reader, text: str) -> None:
    """Write down what somebody is to read; with no text it is taken away."""
    visit = visit_of(actor, doing)
    about: dict[str, Any] = {"visit": visit, "technician_id": doing.technician_id, "reader": reader}
    if text.strip():
        VisitNote.objects.update_or_create(**about, defaults={"text": text.strip(), "at": doing.at})
    else:
        VisitNote.objects.filter(**about).delete()
    if reader != "self":
        tell(actor, now, visit, f"wrote a note for the {reader}")


@transaction.atomic
def accept_work(*, actor: Actor, now: datetime, doing: Doing, fields: AcceptanceFields) -> None:
    """The customer signed, refused, or was not there.

    Raises
    ------
    Rejected
        When the signature is not known.
    """
    visit, said = visit_of(actor, doing), fields.acceptance
    signature = _picture(visit.pk, fields.signature) if fields.signature else None
    WorkAccepted.objects.create(
        visit=visit, technician_id=doing.technician_id, at=doing.at, ended=said.ended, name=said.name.strip(),
        rating=said.rating, words=said.words.strip(), signature=signature, shown=list(fields.shown),
    )  # fmt: skip
    words = {"signed": f"{said.name} signed", "refused": "the customer refused", "absent": "nobody was there to sign"}
    tell(actor, now, visit, f"recorded that {words[said.ended]}")
