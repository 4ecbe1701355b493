"""The report of a visit: what was done there, and what has still to be."""

from core.reports.acceptance import Acceptance, Ended
from core.reports.lately import Line, PastVisit, Readings, lately
from core.reports.steps import (
    DEFAULT,
    KINDS,
    WAY,
    Facts,
    Standing,
    WorkStep,
    in_the_way,
    next_of,
    standings,
    steps_from,
)
from core.reports.times import LONGEST_MINUTES, SORTS, Presence, Sort, minutes_of

__all__ = [
    "DEFAULT",
    "KINDS",
    "LONGEST_MINUTES",
    "SORTS",
    "WAY",
    "Acceptance",
    "Ended",
    "Facts",
    "Line",
    "PastVisit",
    "Presence",
    "Readings",
    "Sort",
    "Standing",
    "WorkStep",
    "in_the_way",
    "lately",
    "minutes_of",
    "next_of",
    "standings",
    "steps_from",
]
