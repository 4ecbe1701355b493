"""The report of a visit on paper (PDF), as the customer reads it: notes for the office and for oneself stay out."""

import base64
from collections.abc import Iterator
from datetime import datetime
from typing import Any

from apps.company.queries import company, logo, logo_mark, time_zone
from apps.orders import queries as orders
from apps.reports.models import Picture, RemovedPart, UsedPart, WorkAccepted
from apps.reports.queries import Report, report
from core.basics import minutes_in_words
from core.calendars import day_words, time_words
from core.forms import FILES, Question, questions_from
from core.pricing import UNITS
from core.reports import SORTS, minutes_of
from foundation import pictures
from foundation.papers import pdf

PHOTO_DOTS = (1000, 1000)
_OUT = {"defective": "defective", "kept": "taken along", "thrown away": "disposed of"}


def report_pdf(visit_id: int) -> tuple[str, bytes]:
    """Label and report of a visit.

    Raises
    ------
    NotFound
    """
    found = report(orders.visit(visit_id), reader=None)
    return found.visit.label, pdf("reports/report.html", _words(found))


def _words(found: Report) -> dict[str, Any]:
    visit, ours = found.visit, company()
    order = visit.order
    signature = found.acceptance.signature if found.acceptance else None
    return {
        "label": visit.label, "title": visit.title or order.title, "company": ours.name,
        "reach": " · ".join(filter(None, [" ".join(ours.address.split()), ours.phone, ours.email])),
        "logo": base64.b64encode(logo()).decode() if logo_mark() else "",
        "site": order.site, "customer": order.customer.name, "asset": order.asset.words if order.asset else "",
        "when": _when(found), "people": list(_people(found)), "wanted": order.description, "outcome": visit.outcome,
        "notes": [row.text for row in found.notes if row.reader == "customer"],
        "tasks": [(words, _clock(found.done[words].at) if words in found.done else "") for words in found.tasks],
        "answers": list(_answers(found)),
        "parts": [_part(row) for row in found.entries.used if row.quantity],
        "removed": [_removed(row) for row in found.entries.removed],
        "charges": [f"{row.quantity / 1000:g} × {row.words}" for row in found.entries.charges],
        "photos": [_photo(row) for row in [*found.photos, *_answering(found)] if row.file_id],
        "acceptance": _accepted(found.acceptance) if found.acceptance else "",
        "said": found.acceptance.words if found.acceptance else "",
        "signature": _drawn(signature) if signature is not None and signature.file_id else "",
    }  # fmt: skip


def _when(found: Report) -> str:
    visit = found.visit
    begins, ends = visit.arrived_at or visit.start, visit.finished_at
    if begins is None:
        return "not begun yet"
    words = f"{day_words(begins.astimezone(time_zone()), year=True)}, {_clock(begins)}"
    return f"{words} to {_clock(ends)}" if ends else words


def _people(found: Report) -> Iterator[str]:
    said = {(row.technician_id, row.sort): row.minutes for row in found.entries.times}
    for goer in found.entries.goers:
        times = []
        for sort in SORTS:
            minutes = said.get((goer.technician_id, sort), minutes_of(goer.presence, sort))
            if minutes is not None:
                times.append(f"{sort} {minutes_in_words(minutes * 60)}")
        yield ": ".join(filter(None, [goer.name, ", ".join(times)]))


def _answers(found: Report) -> Iterator[tuple[str, str]]:
    """What was answered, in the order of the questions; pictures stand among the photos."""
    for question in questions_from(found.questions):
        given = found.answers.get(question.key)
        if given is not None and question.kind not in FILES:
            yield question.label, _answer(question, given.value)


def _answer(question: Question, value: Any) -> str:
    if isinstance(value, bool):
        return "yes" if value else "no"
    return " ".join(filter(None, [str(value), question.unit]))


def _answering(found: Report) -> list[Picture]:
    """Photos that answer a question of the form."""
    asked = {question.key for question in questions_from(found.questions) if question.kind == "photo"}
    return [row for row in found.pictures if row.kind == "photo" and row.question in asked]


def _part(row: UsedPart) -> tuple[str, str, str]:
    unit = "×" if row.part.unit == "C62" else UNITS.get(row.part.unit, row.part.unit)
    return f"{row.quantity} {unit}", row.part.name, ", ".join(row.serials)


def _removed(row: RemovedPart) -> str:
    name = row.part.name if row.part else row.words
    number = f" ({row.serial})" if row.serial else ""
    return f"{row.quantity} × {name}{number}: {_OUT[row.what]}"


def _photo(row: Picture) -> dict[str, str]:
    assert row.file is not None  # only those that have come
    with row.file.content.open("rb") as file:
        content = pictures.as_jpeg(file.read(), PHOTO_DOTS)
    return {"content": base64.b64encode(content).decode(), "words": ": ".join(filter(None, [row.pair, row.caption]))}


def _drawn(row: Picture) -> str:
    assert row.file is not None
    with row.file.content.open("rb") as file:
        return base64.b64encode(file.read()).decode()


def _accepted(row: WorkAccepted) -> str:
    words = {
        "signed": f"Signed by {row.name}", "refused": f"{row.name or 'The customer'} refused to sign",
        "absent": "Nobody was there to sign",
    }[row.ended]  # fmt: skip
    rating = f", {row.rating} of 5" if row.rating else ""
    local = row.at.astimezone(time_zone())
    return f"{words}, {day_words(local)} {time_words(local)}{rating}"


def _clock(at: datetime) -> str:
    return time_words(at.astimezone(time_zone()))
