"""Saved views that filter by what a company names."""

from typing import Any

from apps.orders.models import SavedView
from foundation.named import Use


def views_by(*filters: str) -> Use:
    """Saved views with a key in one of these filters, alone or in a list."""

    def holders(code: str) -> list[SavedView]:
        views = SavedView.objects.order_by("id")
        return [view for view in views if any(_holds(view.query.get(name), code) for name in filters)]

    def replace(old: str, new: str) -> None:
        views = holders(old)
        for view in views:
            view.query = view.query | {
                name: _with(view.query[name], old, new) for name in filters if name in view.query
            }
        SavedView.objects.bulk_update(views, ["query"])

    return Use("saved views", lambda code: len(holders(code)), replace)


def _holds(value: Any, code: str) -> bool:
    return code in value if isinstance(value, list) else value == code


def _with(value: Any, old: str, new: str) -> Any:
    if isinstance(value, list):
        return list(dict.fromkeys(new if code == old else code for code in value))
    return new if value == old else value
