"""Compiling the kernels, or loading them compiled: at set-up, and when the planner's process starts."""

from zoneinfo import ZoneInfo

import numpy as np

from core.basics import Interval
from core.calendars import Shift
from core.roads.travel import Leg, TravelTables
from core.scheduling.engine.kernels.compiled import forget_older
from core.scheduling.engine.openings import OpeningFinder
from core.scheduling.engine.operations import plan
from core.scheduling.engine.search import Budget
from core.scheduling.model.day import Day, TechnicianSpec, VisitSpec
from core.scheduling.model.playbook import KEEP_PROMISES
from core.scheduling.model.problem import Problem


class _Nowhere:
    """Everything is five minutes apart."""

    def leg(self, _origin: int, _destination: int, _departs: int) -> Leg:
        return Leg(300, 3000, False)

    def tables(self, *, start: int, end: int) -> TravelTables:  # noqa: ARG002 - always the same
        return TravelTables(
            seconds=np.full((1, 4, 4), 300, np.int32),
            metres=np.full((4, 4), 3000, np.int32),
            spans=np.array([[-(1 << 50), 1 << 50, 0]], np.int64),
        )


def warm_up() -> None:
    """Touch every kernel once. Compiling them all takes a minute or two, loading them half a second."""
    technicians = [
        Day(
            technician=TechnicianSpec(id=number, name="", skills={}),
            tz=ZoneInfo("UTC"),
            shift=Shift(hours=Interval(start=0, end=8 * 3600)),
            start_place=0,
            end_place=0,
        )
        for number in (1, 2)
    ]
    visits = tuple(VisitSpec(id=number, label="", place=number, duration=1800, crew=number) for number in (1, 2))
    problem = Problem(days=tuple(technicians), backlog=visits, playbook=KEEP_PROMISES, travel=_Nowhere())
    plan(problem, budget=Budget(iterations=5))
    OpeningFinder(problem).openings(1)
    forget_older()
