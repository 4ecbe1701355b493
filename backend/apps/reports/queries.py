"""Reading reports."""

from dataclasses import dataclass
from typing import Any, cast

from django.db.models import F, Q

from apps.customers.models import Contact
from apps.orders.models import Visit
from apps.orders.work import work_of
from apps.reports.entries import Entries, entries_of
from apps.reports.models import DoneTask, FormAnswer, Looked, Picture, SentReport, VisitNote, WorkAccepted
from core.forms import questions_from, unanswered
from core.reports import Facts, Standing, WorkStep, standings, steps_from


@dataclass(frozen=True, kw_only=True)
class Report:
    """All of a visit's report. `notes` are those that the reader may see."""

    visit: Visit
    steps: tuple[WorkStep, ...]
    tasks: list[str]
    questions: list[dict[str, Any]]
    done: dict[str, DoneTask]
    answers: dict[str, FormAnswer]
    notes: list[VisitNote]
    pictures: list[Picture]
    acceptance: WorkAccepted | None
    looked: bool
    entries: Entries

    @property
    def photos(self) -> list[Picture]:
        """Photos as they are shown: of one that was drawn on, the drawing; without those that answer a question."""
        under = {row.original_id for row in self.pictures}
        return [row for row in self.pictures if row.kind == "photo" and not row.question and row.pk not in under]

    @property
    def standings(self) -> tuple[Standing, ...]:
        """How its steps stand."""
        return standings(self.steps, self.facts)

    @property
    def facts(self) -> Facts:
        values = {key: row.value for key, row in self.answers.items()}
        must = unanswered(questions_from(self.questions), values, to="close")
        return Facts(
            state=self.visit.state, tasks=len(self.tasks), questions=len(self.questions),
            tasks_open=tuple(words for words in self.tasks if words not in self.done),
            questions_open=tuple(question.label for question in must), answered=len(values),
            photos=len(self.photos),
            looked=self.looked, noted=bool(self.notes), accepted=self.acceptance is not None,
            parts_open=self.entries.parts_open, parts_said=self.entries.parts_said,
            times_said=self.entries.times_said, charges_said=self.entries.charges_said,
        )  # fmt: skip


def report(visit: Visit, *, reader: int | None) -> Report:
    """The report of a visit, with the order around it read already.

    `reader`: the technician whose own notes are among it, and who has looked or not; None: somebody of the office, who
    sees nobody's own notes, and whether anybody has looked.
    """
    notes = VisitNote.objects.filter(visit=visit).select_related("technician").order_by("at", "id")
    tasks = DoneTask.objects.filter(visit=visit).select_related("technician")
    answers = FormAnswer.objects.filter(visit=visit).select_related("technician")
    pictures = (
        Picture.objects.filter(visit=visit, removed=False).select_related("technician", "file").order_by("at", "id")
    )
    accepted = (
        WorkAccepted.objects.filter(visit=visit)
        .select_related("technician", "signature__file")
        .order_by("-at", "-id")
        .first()
    )
    looked = Looked.objects.filter(visit=visit)
    if reader is not None:
        looked = looked.filter(technician=reader)
    return Report(
        visit=visit,
        steps=steps_from(_steps_of(visit)),
        tasks=cast(list[str], work_of(visit.order, "tasks")),
        questions=work_of(visit.order, "questions"),
        done={row.words: row for row in tasks},
        answers={row.key: row for row in answers},
        notes=[row for row in notes if row.reader != "self" or row.technician_id == reader],
        pictures=list(pictures),
        acceptance=accepted,
        looked=looked.exists(),
        entries=entries_of(visit),
    )


def _steps_of(visit: Visit) -> list[dict[str, Any]]:
    edition = visit.order.edition
    return (edition.content.get("steps") if edition else None) or []


def of_order(order_id: int) -> list[Report]:
    """The reports of an order's visits, as the office reads them."""
    rows = Visit.objects.filter(order=order_id).select_related("order__edition", "order__asset", "technician")
    return [report(visit, reader=None) for visit in rows.order_by("part", "id")]


def sent(visit_id: int) -> list[SentReport]:
    """To whom the report was sent, the newest first."""
    return list(SentReport.objects.filter(visit=visit_id).order_by("-id"))


def readers(visit: Visit) -> list[tuple[str, str]]:
    """Who might want the report: name and address of the site's contacts and the customer's, the site's first."""
    order = visit.order
    rows = Contact.objects.filter(customer=order.customer_id).exclude(email="")
    rows = rows.filter(Q(site=None) | Q(site=order.site_id)).order_by(F("site").asc(nulls_last=True), "name")
    found = [(row.name, row.email) for row in rows[:20]]
    email = order.customer.email
    if email and email not in {address for _name, address in found}:
        found.append((order.customer.name, email))
    return found


def picture(picture_id: Any) -> Picture | None:
    return Picture.objects.filter(pk=picture_id, removed=False).select_related("file").first()
