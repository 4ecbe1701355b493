"""What is allowed on technicians' days and what it costs: one evaluator for everything that asks.

The search for good plans lives in `engine` and is not imported here: it brings a compiler with it.
"""

from core.scheduling.evaluation.day_walk import evaluate_day, whereabouts
from core.scheduling.evaluation.evaluate import Evaluation, evaluate
from core.scheduling.evaluation.safety import Lamp, lamp
from core.scheduling.evaluation.workload import Workload, workload
from core.scheduling.judgement.judge import Reason, Verdict, first_fit, is_new, judge, judge_crew, reason_of, relief
from core.scheduling.model.aims import AIMS, Aim
from core.scheduling.model.day import (
    Actual,
    Arrival,
    Day,
    Load,
    Stop,
    TechnicianSpec,
    VisitSpec,
    overdue_at,
    pressed_by,
)
from core.scheduling.model.limits import LIMITS, Broken, Limit
from core.scheduling.model.playbook import KEEP_PROMISES, LEAST_DRIVING, MOST_VALUE, READY_MADE, Playbook, Setting
from core.scheduling.model.problem import Plan, Problem
from core.scheduling.model.timetable import Kind, StopTimes, Stretch, Timetable

__all__ = [
    "AIMS",
    "KEEP_PROMISES",
    "LEAST_DRIVING",
    "LIMITS",
    "MOST_VALUE",
    "READY_MADE",
    "Actual",
    "Aim",
    "Arrival",
    "Broken",
    "Day",
    "Evaluation",
    "Kind",
    "Lamp",
    "Limit",
    "Load",
    "Plan",
    "Playbook",
    "Problem",
    "Reason",
    "Setting",
    "Stop",
    "StopTimes",
    "Stretch",
    "TechnicianSpec",
    "Timetable",
    "Verdict",
    "VisitSpec",
    "Workload",
    "evaluate",
    "evaluate_day",
    "first_fit",
    "is_new",
    "judge",
    "judge_crew",
    "lamp",
    "overdue_at",
    "pressed_by",
    "reason_of",
    "relief",
    "whereabouts",
    "workload",
]
