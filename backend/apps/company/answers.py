"""Who keeps answers to a company's own fields, so that a field's uses can be shown and two fields can be made one."""

from collections import defaultdict
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from django.db import connection, models


@dataclass(frozen=True)
class Held:
    """One place where answers are kept.

    what : who keeps them, in the plural, as "customers".
    count : how many have an answer to a field.
    differing : how many have two answers to two fields, and not the same.
    move : let the answers to the first field be answers to the second.
    """

    what: str
    count: Callable[[str], int]
    differing: Callable[[str, str], int]
    move: Callable[[str, str], object]


_held: defaultdict[str, dict[str, Held]] = defaultdict(dict)


def hold(record: str, *places: Held) -> None:
    """Say in the `ready` of an app where answers to the own fields of a kind of record are kept."""
    _held[record].update({place.what: place for place in places})


def held(record: str) -> list[Held]:
    return list(_held[record].values())


# An answer that is there but says nothing.
_NOTHING = "('null'::jsonb, '\"\"'::jsonb)"


def in_column(what: str, model: type[models.Model], column: str = "extra") -> Held:
    """Answers in a JSON object of each row."""
    rows = model._default_manager

    def count(key: str) -> int:
        return rows.filter(**{f"{column}__has_key": key}).exclude(**{f"{column}__{key}": ""}).count()

    def differing(key: str, into: str) -> int:
        says = f"{{c}} -> %(key)s NOT IN {_NOTHING} AND {{c}} -> %(into)s NOT IN {_NOTHING}"
        unlike = "{c} ? %(key)s AND {c} ? %(into)s AND {c} -> %(key)s <> {c} -> %(into)s"
        return _run(f"SELECT count(*) FROM {{t}} WHERE {unlike} AND {says}", key=key, into=into)

    def move(key: str, into: str) -> None:
        says = f"{{c}} ? %(into)s AND {{c}} -> %(into)s NOT IN {_NOTHING}"
        kept = f"CASE WHEN {says} THEN {{c}} -> %(into)s ELSE {{c}} -> %(key)s END"
        put = f"({{c}} - %(key)s) || jsonb_build_object(%(into)s::text, {kept})"
        _run(f"UPDATE {{t}} SET {{c}} = {put} WHERE {{c}} ? %(key)s", key=key, into=into)

    def _run(statement: str, **values: Any) -> int:
        quote = connection.ops.quote_name
        with connection.cursor() as cursor:
            cursor.execute(statement.format(t=quote(model._meta.db_table), c=quote(column)), values)
            found = cursor.fetchone() if statement.startswith("SELECT") else None
        return int(found[0]) if found else 0

    return Held(what, count, differing, move)
