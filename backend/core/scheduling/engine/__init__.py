"""The compiled engine. It imports numba: only the planner's own process may import this package."""

from core.scheduling.engine.model import Model
from core.scheduling.engine.openings import Excluded, Opening, OpeningFinder, Openings, Seat
from core.scheduling.engine.operations import fill, improve, plan, propose, repair, sequence
from core.scheduling.engine.search import Budget, Found, Progress, Search
from core.scheduling.engine.tuning import Tuning

__all__ = [
    "Budget",
    "Excluded",
    "Found",
    "Model",
    "Opening",
    "OpeningFinder",
    "Openings",
    "Progress",
    "Search",
    "Seat",
    "Tuning",
    "fill",
    "improve",
    "plan",
    "propose",
    "repair",
    "sequence",
]
