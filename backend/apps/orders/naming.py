"""Saved views that filter by what a company names."""

from typing import Any

from apps.company.answers import Held
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


def _of_field(key: str) -> list[SavedView]:
    """Saved views that filter by an own field of orders, or show it."""
    views = SavedView.objects.filter(page="orders").order_by("id")
    return [view for view in views if key in (view.query.get("extra") or {}) or _column(key) in str(view.query)]


def _column(key: str) -> str:
    return f"extra.{key}'"


def _renamed(value: Any, key: str, into: str) -> Any:
    if isinstance(value, list):
        return list(dict.fromkeys(_renamed(one, key, into) for one in value))
    return f"extra.{into}" if value == f"extra.{key}" else value


def _show_field(key: str, into: str) -> None:
    views = _of_field(key)
    for view in views:
        query = {name: _renamed(value, key, into) for name, value in view.query.items()}
        if key in (query.get("extra") or {}):
            kept = dict(query["extra"])
            said = kept.pop(key)
            query["extra"] = {into: said} | kept
        view.query = query
    SavedView.objects.bulk_update(views, ["query"])


FIELD_VIEWS = Held("saved views", lambda key: len(_of_field(key)), lambda _key, _into: 0, _show_field)


def _holds(value: Any, code: str) -> bool:
    return code in value if isinstance(value, list) else value == code


def _with(value: Any, old: str, new: str) -> Any:
    if isinstance(value, list):
        return list(dict.fromkeys(new if code == old else code for code in value))
    return new if value == old else value
