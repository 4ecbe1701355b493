"""Saved views of a list."""

from collections.abc import Mapping
from typing import Any

from django.db import transaction

from apps.orders.models import SavedView
from core.roles import Action
from foundation.actors import Actor, require
from foundation.errors import NotFound, Rejected

PAGES = ("orders", "backlog", "quotes")
MOST_VIEWS = 40


@transaction.atomic
def keep_view(*, actor: Actor, page: str, name: str, shared: bool, query: Mapping[str, Any]) -> SavedView:
    """Keep filters, columns and order of a list under a name; one's own view of that name is replaced."""
    require(actor, Action.SEE_ORDERS)
    if page not in PAGES:
        raise NotFound("There is no such list.", code="no_page")
    if not name.strip():
        raise Rejected("Give the view a name.", field="name")
    own = SavedView.objects.filter(page=page, owner_id=actor.id)
    if own.count() >= MOST_VIEWS and not own.filter(name=name.strip()).exists():
        raise Rejected(f"At most {MOST_VIEWS} views: remove one first.", field="name")
    view, _made = SavedView.objects.update_or_create(
        page=page, owner_id=actor.id, name=name.strip(), defaults={"shared": shared, "query": dict(query)}
    )
    return view


@transaction.atomic
def remove_view(*, actor: Actor, view_id: int) -> None:
    """Remove a view of one's own."""
    require(actor, Action.SEE_ORDERS)
    gone, _ = SavedView.objects.filter(pk=view_id, owner_id=actor.id).delete()
    if not gone:
        raise NotFound("This view is not yours, or not here any more.", code="no_view")
