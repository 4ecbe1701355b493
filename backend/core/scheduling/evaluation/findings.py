"""What does not hold on some days, counted once: the same list in the bar, in lists, and in what a plan comes to."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date

from core.scheduling.model.limits import Broken, Limit
from core.scheduling.model.reasons import Code, Why, why
from core.scheduling.model.timetable import Timetable


@dataclass(frozen=True, kw_only=True)
class Finding:
    """A limit that does not hold: at a visit, or (`visit_id` None) on a technician's day as a whole.

    `key` is the same wherever it is found: a crew's visit stands on several days and is told once.
    """

    key: str
    limit: Limit
    visit_id: int | None
    technician_id: int
    day: date
    why: Why


def findings_of(days: Iterable[tuple[int, date, Timetable]]) -> tuple[Finding, ...]:
    """What is broken on these days, as (technician, date, timetable), each once, in their order."""
    found: dict[str, Finding] = {}
    for technician_id, day, timetable in days:
        for row in timetable.broken:
            where = f"{technician_id} {day}" if row.visit_id is None else f"{row.visit_id}"
            key = f"{row.limit.value} {where}"
            found.setdefault(
                key,
                Finding(
                    key=key, limit=row.limit, visit_id=row.visit_id, technician_id=technician_id, day=day,
                    why=row.why,
                ),
            )  # fmt: skip
    return tuple(found.values())


def crew_broken(visit_id: int, label: str, *, wanted: int, going: int) -> Broken | None:
    """More or fewer go to a visit than it takes."""
    if wanted == going:
        return None
    reason = why(Code.CREW_SIZE, visit=label, wanted=wanted, going=going)
    return Broken(limit=Limit.CREW, visit_id=visit_id, why=reason)
