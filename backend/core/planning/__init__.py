"""What is allowed on a technician's day and what it leads to: one evaluator for everything that asks."""

from core.planning.evaluate import evaluate
from core.planning.explain import Reason, Verdict, judge
from core.planning.limits import LIMITS, Broken, Limit
from core.planning.problem import Actual, Day, Stop, TechnicianSpec, VisitSpec
from core.planning.safety import Lamp, lamp
from core.planning.timetable import Kind, StopTimes, Stretch, Timetable

__all__ = [
    "LIMITS",
    "Actual",
    "Broken",
    "Day",
    "Kind",
    "Lamp",
    "Limit",
    "Reason",
    "Stop",
    "StopTimes",
    "Stretch",
    "TechnicianSpec",
    "Timetable",
    "Verdict",
    "VisitSpec",
    "evaluate",
    "judge",
    "lamp",
]
