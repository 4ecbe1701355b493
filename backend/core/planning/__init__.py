"""What is allowed on technicians' days and what it costs: one evaluator for everything that asks.

The search for good plans lives in `engine` and is not imported here: it brings a compiler with it.
"""

from core.planning.aims import AIMS, Aim
from core.planning.day_walk import evaluate_day, pressed_by, whereabouts
from core.planning.evaluate import Evaluation, evaluate
from core.planning.explain import Reason, Verdict, first_fit, is_new, judge, judge_crew, reason_of, relief
from core.planning.limits import LIMITS, Broken, Limit
from core.planning.plan import Plan, Problem
from core.planning.playbook import KEEP_PROMISES, LEAST_DRIVING, MOST_VALUE, READY_MADE, Playbook, Setting
from core.planning.problem import Actual, Day, Link, LinkKind, Stop, TechnicianSpec, VisitSpec, overdue_at
from core.planning.safety import Lamp, lamp
from core.planning.timetable import Kind, StopTimes, Stretch, Timetable
from core.planning.workload import Workload, workload

__all__ = [
    "AIMS",
    "KEEP_PROMISES",
    "LEAST_DRIVING",
    "LIMITS",
    "MOST_VALUE",
    "READY_MADE",
    "Actual",
    "Aim",
    "Broken",
    "Day",
    "Evaluation",
    "Kind",
    "Lamp",
    "Limit",
    "Link",
    "LinkKind",
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
