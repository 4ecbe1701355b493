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

__all__ = [
    "DEFAULT",
    "KINDS",
    "WAY",
    "Acceptance",
    "Ended",
    "Facts",
    "Line",
    "PastVisit",
    "Readings",
    "Standing",
    "WorkStep",
    "in_the_way",
    "lately",
    "next_of",
    "standings",
    "steps_from",
]
