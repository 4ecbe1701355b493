"""The compiled search: ruin and recreate with simulated annealing over technicians' shifts.

Slack induction by string removals (Christiaens & Vanden Berghe, Transportation Science 54(2), 2020), on a model with
breaks, crews, links, absences and driving that depends on the hour. docs/planner.md says what the arrays mean and why;
`fields` names their columns, `bundles` says which travel together, `tuning` holds the numbers.

From the ground up: chance, clock, walk (a day), places (where a task would go), routes (changing them), ruin, crews,
ties, recreate, anneal.
"""

from core.scheduling.engine.kernels.anneal import anneal, keep_best
from core.scheduling.engine.kernels.places import rank
from core.scheduling.engine.kernels.recreate import recreate
from core.scheduling.engine.kernels.routes import load
from core.scheduling.engine.kernels.ties import insert_tied
from core.scheduling.engine.kernels.walk import recompute, timetable

__all__ = ["anneal", "insert_tied", "keep_best", "load", "rank", "recompute", "recreate", "timetable"]
