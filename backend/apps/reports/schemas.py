"""Wire shapes of reports. Times are epoch seconds."""

from typing import Any, Self
from uuid import UUID

from ninja import Schema

from apps.reports.models import Picture, VisitNote, WorkAccepted
from apps.reports.queries import Report
from core.reports import Line, Standing


class TaskOut(Schema):
    """A task of the order; `at` null: not done yet."""

    words: str
    at: int | None
    by: str


class GivenOut(Schema):
    """An answer as it was given."""

    key: str
    value: Any
    at: int
    by: str


class VisitNoteOut(Schema):
    """`reader`: for whom it was written."""

    reader: str
    text: str
    at: int
    by: str

    @classmethod
    def of(cls, row: VisitNote) -> Self:
        return cls(reader=row.reader, text=row.text, at=int(row.at.timestamp()), by=row.technician.name)


class VisitPictureOut(Schema):
    """`here`: it has come itself; until then it is on the phone. `original`: the photo that was drawn on."""

    id: UUID
    kind: str
    caption: str
    pair: str
    question: str
    original: UUID | None
    size: int
    here: bool
    at: int
    by: str

    @classmethod
    def of(cls, row: Picture) -> Self:
        return cls(
            id=row.pk, kind=row.kind, caption=row.caption, pair=row.pair, question=row.question,
            original=row.original_id, size=row.size,
            here=row.file_id is not None, at=int(row.at.timestamp()), by=row.technician.name,
        )  # fmt: skip


class AcceptanceOut(Schema):
    ended: str
    name: str
    rating: int | None
    words: str
    signature: UUID | None
    at: int
    by: str

    @classmethod
    def of(cls, row: WorkAccepted) -> Self:
        return cls(
            ended=row.ended, name=row.name, rating=row.rating, words=row.words, signature=row.signature_id,
            at=int(row.at.timestamp()), by=row.technician.name,
        )  # fmt: skip


class WorkStepOut(Schema):
    kind: str
    must: bool


class StandingOut(Schema):
    """How a step stands, and what it lacks in words."""

    kind: str
    must: bool
    done: bool
    missing: list[str]

    @classmethod
    def of(cls, row: Standing) -> Self:
        return cls(kind=row.kind, must=row.must, done=row.done, missing=list(row.missing))


class LatelyOut(Schema):
    """One line of what happened there lately; `order_id` is where it comes from, `pressing` asks to be minded."""

    words: str
    order_id: int
    at: int
    pressing: bool

    @classmethod
    def of(cls, line: Line) -> Self:
        return cls(words=line.words, order_id=line.order_id, at=line.at, pressing=line.pressing)


class ReportOut(Schema):
    """The report of a visit. `steps` as its job type composes them, `standings` how they stand."""

    visit_id: int
    part: int
    state: str
    technician: str
    steps: list[WorkStepOut]
    standings: list[StandingOut]
    tasks: list[TaskOut]
    questions: list[dict[str, Any]]
    answers: list[GivenOut]
    notes: list[VisitNoteOut]
    pictures: list[VisitPictureOut]
    acceptance: AcceptanceOut | None
    looked: bool

    @classmethod
    def of(cls, found: Report) -> Self:
        visit = found.visit
        return cls(
            visit_id=visit.pk, part=visit.part, state=visit.state,
            technician=visit.technician.name if visit.technician else "",
            steps=[WorkStepOut(kind=step.kind, must=step.must) for step in found.steps],
            standings=[StandingOut.of(row) for row in found.standings],
            tasks=[_task(found, words) for words in found.tasks],
            questions=found.questions,
            answers=[
                GivenOut(key=row.key, value=row.value, at=int(row.at.timestamp()), by=row.technician.name)
                for row in found.answers.values()
            ],
            notes=[VisitNoteOut.of(row) for row in found.notes],
            pictures=[VisitPictureOut.of(row) for row in found.pictures],
            acceptance=AcceptanceOut.of(found.acceptance) if found.acceptance else None,
            looked=found.looked,
        )  # fmt: skip


def _task(found: Report, words: str) -> TaskOut:
    row = found.done.get(words)
    if row is None:
        return TaskOut(words=words, at=None, by="")
    return TaskOut(words=words, at=int(row.at.timestamp()), by=row.technician.name)
