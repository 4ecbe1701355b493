"""Who may do what: roles and the actions each one has."""

from core.roles.table import ALLOWED, Action, Role, may

__all__ = ["ALLOWED", "Action", "Role", "may"]
