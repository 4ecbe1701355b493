"""The compiled engine. It imports numba: only the planner's own process may import this package."""

from core.planning.engine.model import Model
from core.planning.engine.offering import OfferFinder
from core.planning.engine.openings import Excluded, Opening, OpeningFinder, Openings, Seat
from core.planning.engine.operations import chain, fill, improve, plan, propose, repair
from core.planning.engine.search import Budget, Found, Progress, Search, Tuning

__all__ = [
    "Budget",
    "Excluded",
    "Found",
    "Model",
    "OfferFinder",
    "Opening",
    "OpeningFinder",
    "Openings",
    "Progress",
    "Search",
    "Seat",
    "Tuning",
    "chain",
    "fill",
    "improve",
    "plan",
    "propose",
    "repair",
]
