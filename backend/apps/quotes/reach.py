"""Who may do what with a quote."""

from apps.orders.models import Visit
from apps.people import reach
from apps.pricing.limits import discount_limit
from apps.quotes.models import Quote
from core.roles import Action
from foundation.actors import Actor, may
from foundation.errors import NotFound, NotPermitted


def check_written_by(actor: Actor, quote: Quote, action: Action = Action.MAKE_QUOTES) -> None:
    """Somebody who writes (or sends) quotes, in the office or about the visit they are at.

    Raises
    ------
    NotFound
        When somebody in the field asks for a quote of others.
    NotPermitted
    """
    if may(actor, action):
        site = quote.site
        if actor.reach.areas and site is not None:
            reach.check_area(actor, site.area_id, site.area.name if site.area else "")
        return
    if not may(actor, Action.WORK_IN_FIELD):
        raise NotPermitted(f"As {actor.role_name} you cannot do this.")
    if quote.author_id != actor.id:
        raise NotFound("There is no such quote.", code="no_quote")


def check_at_visit(actor: Actor, visit: Visit) -> None:
    """Whoever works at a visit may write a quote there; so may the office. Raises NotFound."""
    if may(actor, Action.MAKE_QUOTES):
        return
    if actor.technician_id is None or actor.technician_id not in (visit.technician_id, *visit.mates):
        raise NotFound("This visit is not yours (any more).", code="no_visit")


def discount_problem(actor: Actor, quote: Quote) -> str:
    """Why a quote cannot be shown to the customer yet: more is taken off than its sender may give, and nobody who may
    has agreed. Nothing when it can."""
    limit = max(discount_limit(actor), quote.agreed)
    if quote.given <= limit:
        return ""
    return (
        f"It takes {quote.given} % off, and you give {limit} % at most by yourself. "
        "Somebody who may agree to more has to do so first."
    )
