"""How far somebody may go down with a price by themselves."""

from apps.company.queries import settings
from core.roles import Action, Role
from foundation.actors import Actor, may

NO_LIMIT = 100


def discount_limit(actor: Actor) -> int:
    """The highest discount in percent that somebody may give without asking."""
    role = Role(actor.role)
    if role is Role.ADMINISTRATOR:
        return NO_LIMIT
    if role is Role.OWN and may(actor, Action.ALLOW_DISCOUNTS):
        return NO_LIMIT
    found: int = getattr(settings(), f"discount_{role.value}")
    return found
