"""Who may do what: roles, the actions each one has, and how far they reach."""

from core.roles.composed import COMPOSABLE, NEEDS, WHOLE_COMPANY, composed
from core.roles.reach import EVERYWHERE, Reach
from core.roles.table import ALLOWED, DUTIES, WORDS, Action, Role

__all__ = [
    "ALLOWED",
    "COMPOSABLE",
    "DUTIES",
    "EVERYWHERE",
    "NEEDS",
    "WHOLE_COMPANY",
    "WORDS",
    "Action",
    "Reach",
    "Role",
    "composed",
]
