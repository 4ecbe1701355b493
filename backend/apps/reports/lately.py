"""What happened at a visit's equipment lately, or at its site where there is no equipment."""

from collections import defaultdict
from collections.abc import Sequence

from django.db.models import prefetch_related_objects

from apps.orders import order_details
from apps.orders.models import Visit
from apps.orders.work import work_of
from apps.reports.models import DoneTask, FormAnswer, UsedPart, VisitNote
from core.forms import questions_from
from core.reports import Line, PastVisit, Readings, lately

_VISITS = 5
_READINGS = 8


def lines_for(visit: Visit) -> tuple[Line, ...]:
    """What whoever goes to a visit should know of what happened there; see `lines_at`."""
    return lines_at(asset_id=visit.order.asset_id, site_id=visit.order.site_id, but_for=visit.pk)


def lines_at(*, asset_id: int | None, site_id: int | None, but_for: int | None = None) -> tuple[Line, ...]:
    """The lines, see core.reports: of the equipment where there is one, else of the site.

    From the last few finished visits and readings; however long the history is, nothing before them is read.
    """
    there = []
    if asset_id is not None:
        there = order_details.work_done_on(asset_id, limit=_VISITS + 1)
    elif site_id is not None:
        there = order_details.work_done_at(site_id, limit=_VISITS + 1)
    past = [one for one in there if one.pk != but_for][:_VISITS]
    prefetch_related_objects(past, "order__edition")
    return lately(_past(past), _readings(asset_id) if asset_id is not None else [])


def _past(visits: Sequence[Visit]) -> list[PastVisit]:
    ids = [visit.pk for visit in visits]
    done: defaultdict[int, set[str]] = defaultdict(set)
    for visit_id, words in DoneTask.objects.filter(visit__in=ids).values_list("visit_id", "words"):
        done[visit_id].add(words)
    used: defaultdict[int, list[str]] = defaultdict(list)
    rows = UsedPart.objects.filter(visit__in=ids, quantity__gt=0).order_by("part__name")
    for visit_id, count, name in rows.values_list("visit_id", "quantity", "part__name"):
        used[visit_id].append(f"{count} {name}")
    notes = dict(VisitNote.objects.filter(visit__in=ids, reader="office").values_list("visit_id", "text"))
    return [
        PastVisit(
            order_id=visit.order_id,
            at=int(visit.finished_at.timestamp()) if visit.finished_at else 0,
            technician=visit.technician.name if visit.technician else "nobody",
            title=visit.title or visit.order.title,
            outcome=visit.outcome,
            parts=used[visit.pk],
            # Where nothing was ticked, nobody kept a report: that says nothing of what was left.
            left_open=[words for words in work_of(visit.order, "tasks") if words not in done[visit.pk]]
            if done[visit.pk]
            else [],
            note=notes.get(visit.pk, ""),
        )
        for visit in visits
    ]


def _readings(asset_id: int) -> list[Readings]:
    """Numbers that were measured at an asset, each with the bounds it was last asked with."""
    rows = FormAnswer.objects.filter(asset=asset_id).select_related("visit__order__edition").order_by("-at", "-id")
    found: defaultdict[str, list[FormAnswer]] = defaultdict(list)
    # The latest answers only: an asset has a few questions, and a year has dozens of visits.
    for row in rows[: _READINGS * 12]:
        if isinstance(row.value, int | float) and not isinstance(row.value, bool) and len(found[row.key]) < _READINGS:
            found[row.key].append(row)
    return [one for key, answers in found.items() if (one := _reading(key, answers)) is not None]


def _reading(key: str, newest_first: Sequence[FormAnswer]) -> Readings | None:
    if not newest_first:
        return None
    last = newest_first[0]
    questions = questions_from(work_of(last.visit.order, "questions"))
    question = next((one for one in questions if one.key == key), None)
    return Readings(
        label=last.label,
        unit=question.unit if question else "",
        least=question.least if question else None,
        most=question.most if question else None,
        values=[(int(row.at.timestamp()), float(row.value), row.visit.order_id) for row in reversed(newest_first)],
    )
