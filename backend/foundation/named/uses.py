"""Who holds the keys of what a company names, so that a use can be shown and two can be merged."""

from collections import defaultdict
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any, cast

from django.db import connection, models

from foundation.named.rows import Named


@dataclass(frozen=True)
class Use:
    """One way of holding a key.

    what : who holds it, in the plural, as "work orders".
    count : how many hold this key.
    replace : let whoever holds the first key hold the second one instead.
    """

    what: str
    count: Callable[[str], int]
    replace: Callable[[str, str], object]


_uses: defaultdict[type[Named], dict[str, Use]] = defaultdict(dict)


def used(kind: type[Named], *uses: Use) -> None:
    """Say in the `ready` of an app who of it holds keys of this kind."""
    _uses[kind].update({use.what: use for use in uses})


def uses_of(kind: type[Named]) -> Sequence[Use]:
    return list(_uses[kind].values())


def in_list(what: str, model: type[models.Model], field: str) -> Use:
    """Keys in an array of texts."""

    def count(code: str) -> int:
        return model._default_manager.filter(**{f"{field}__contains": [code]}).count()

    def replace(old: str, new: str) -> None:
        table, column = _quoted(model, field)
        both = f"{column} @> ARRAY[%(old)s, %(new)s]::varchar[]"
        instead = (
            f"CASE WHEN {both} THEN array_remove({column}, %(old)s) ELSE array_replace({column}, %(old)s, %(new)s) END"
        )
        _run(f"UPDATE {table} SET {column} = {instead} WHERE {column} @> ARRAY[%(old)s]::varchar[]", old=old, new=new)

    return Use(what, count, replace)


def in_json_list(what: str, model: type[models.Model], field: str, name: str) -> Use:
    """Keys in a list that stands under a name in a JSON object; rows are few, and each is written by itself."""

    def holders(code: str) -> models.QuerySet[models.Model]:
        return model._default_manager.filter(**{f"{field}__{name}__contains": [code]}).order_by("pk")

    def replace(old: str, new: str) -> None:
        for row in holders(old).select_for_update():
            content = getattr(row, field)
            kept = list(dict.fromkeys(new if code == old else code for code in content[name]))
            setattr(row, field, content | {name: kept})
            row.save(update_fields=[field])

    return Use(what, lambda code: holders(code).count(), replace)


def in_levels(what: str, model: type[models.Model], field: str) -> Use:
    """Keys of a JSON object whose values are levels; of two that become one, the higher is kept."""

    def count(code: str) -> int:
        return model._default_manager.filter(**{f"{field}__has_key": code}).count()

    def replace(old: str, new: str) -> None:
        table, column = _quoted(model, field)
        level = f"greatest(({column}->>%(old)s)::int, ({column}->>%(new)s)::int)"
        kept = f"({column} - %(old)s) || jsonb_build_object(%(new)s::text, {level})"
        _run(f"UPDATE {table} SET {column} = {kept} WHERE {column} ? %(old)s", old=old, new=new)

    return Use(what, count, replace)


def in_amounts(what: str, model: type[models.Model], field: str) -> Use:
    """Keys of a JSON object whose values are quantities; of two that become one, they are added up."""

    def count(code: str) -> int:
        return model._default_manager.filter(**{f"{field}__has_key": code}).count()

    def replace(old: str, new: str) -> None:
        table, column = _quoted(model, field)
        both = f"coalesce(({column}->>%(old)s)::int, 0) + coalesce(({column}->>%(new)s)::int, 0)"
        kept = f"({column} - %(old)s) || jsonb_build_object(%(new)s::text, {both})"
        _run(f"UPDATE {table} SET {column} = {kept} WHERE {column} ? %(old)s", old=old, new=new)

    return Use(what, count, replace)


def _quoted(model: type[models.Model], field: str) -> tuple[str, str]:
    column = cast("models.Field[Any, Any]", model._meta.get_field(field)).column
    return connection.ops.quote_name(model._meta.db_table), connection.ops.quote_name(str(column))


def _run(sql: str, **parameters: Any) -> None:
    with connection.cursor() as cursor:
        cursor.execute(sql, parameters)
