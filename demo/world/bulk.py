"""Rows by the million, made by the database itself from a query."""

from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from typing import Any

from django.contrib.postgres.fields import ArrayField
from django.db import connection, transaction
from django.db.models import Field, GeneratedField, JSONField, Model


def insert(model: type[Model], source: str, **columns: str) -> None:
    """Insert a row for each of `source` (a FROM clause).

    Parameters
    ----------
    columns
        SQL expressions by field name; what is left out gets the field's default.
    """
    rest = {name: value for name, value in _defaults(model).items() if name not in columns}
    fields = {field.name: field.column for field in model._meta.concrete_fields}
    names = ", ".join(f'"{fields[name]}"' for name in (*columns, *rest))
    values = ", ".join((*columns.values(), *("%s" for _ in rest)))
    with connection.cursor() as cursor:
        cursor.execute(f'INSERT INTO "{model._meta.db_table}" ({names}) SELECT {values} {source}', list(rest.values()))


def _defaults(model: type[Model]) -> Mapping[str, Any]:
    """What the fields that may not be empty hold when nothing is said."""
    found = {}
    for field in model._meta.concrete_fields:
        if field.primary_key or field.null or isinstance(field, GeneratedField):
            continue
        if field.has_default() or field.blank:
            found[field.name] = _plain(field, field.get_default())
    return found


def _plain(field: "Field[Any, Any]", value: Any) -> Any:
    if isinstance(field, JSONField | ArrayField):
        return field.get_db_prep_save(value, connection)
    return value


@contextmanager
def without_indexes(*models: type[Model]) -> Iterator[None]:
    """Indexes made at the end, all at once, take a fraction of the time; references and triggers rest meanwhile."""
    tables = [model._meta.db_table for model in models]
    with transaction.atomic(), connection.cursor() as cursor:
        cursor.execute(
            "SELECT indexname, indexdef FROM pg_indexes WHERE tablename = ANY(%s)"
            " AND indexname NOT IN (SELECT conname FROM pg_constraint)",
            [tables],
        )
        indexes = cursor.fetchall()
        for name, _ in indexes:
            cursor.execute(f'DROP INDEX "{name}"')
        cursor.execute("SET LOCAL session_replication_role = replica")
        yield
        cursor.execute("SET LOCAL session_replication_role = DEFAULT")
        for _, definition in indexes:
            cursor.execute(definition)
    with connection.cursor() as cursor:
        cursor.execute("ANALYZE")
