"""Why a visit stands where it stands: who put it there and why, what holds it there, when it is likely to begin."""

from dataclasses import dataclass
from datetime import datetime

from apps.company.queries import time_zone
from apps.orders import queries as orders
from apps.people.working_days import working_date_of
from apps.scheduling.schedule import day_of
from core.basics import Interval
from core.orders import Step
from core.scheduling import evaluate_day, pressed_by
from core.scheduling.evaluation.safety import Spread, likely_start
from core.scheduling.judgement.slack import slack_of, slip_in_words
from foundation import audit
from foundation.errors import TryAgain
from foundation.models import AuditEntry


@dataclass(frozen=True, kw_only=True)
class WhyHere:
    """`decided` put it there; `reasons` and `slips` are sentences; `likely` is when it begins in eight of ten plays."""

    decided: AuditEntry | None
    reasons: tuple[str, ...]
    slips: tuple[str, ...]
    likely: Interval | None


def why_here(*, visit_id: int, now: datetime) -> WhyHere | None:
    """Why a visit stands where it stands; None while it stands nowhere. A crew's is told from the lead's day.

    Raises
    ------
    NotFound
    """
    line = orders.line(visit_id)
    if line.technician_id is None or line.start is None:
        return None
    day, days, others = day_of(line, line.technician_id, working_date_of(line.technician_id, line.start, time_zone()))
    if not any(stop.visit.id == visit_id for stop in day.stops):
        raise TryAgain("This visit is being moved just now. Look again.")
    travel = days.travel
    pressed = pressed_by(day, int(now.timestamp()))
    found = slack_of(day, visit_id, travel, now=pressed)
    timetable = evaluate_day(day, travel, now=pressed)
    likely = None
    if found.later is not None:
        likely = likely_start(day, timetable, visit_id, spread=Spread(work=days.facts.spread(others)))
    decided = audit.last("visit", visit_id, action=Step.PLACE)
    return WhyHere(decided=decided, reasons=found.reasons, slips=slip_in_words(found), likely=likely)
