"""Who may do what: roles and the actions each one has."""

from core.roles.table import ALLOWED, DUTIES, WORDS, Action, Role, may

__all__ = ["ALLOWED", "DUTIES", "WORDS", "Action", "Role", "may"]
