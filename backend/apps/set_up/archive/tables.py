"""Which tables make a company, and how their rows go out and in."""

from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass
from typing import IO, Any

from django.apps import apps
from django.core.management.color import no_style
from django.db import connection, models

# Tables that belong to this installation and not to the company: who is signed in where, what waits to be done, what
# somebody is kept out by, and what is only kept for speed.
LEFT_OUT = frozenset({
    "auth_group", "auth_group_permissions", "auth_permission", "django_content_type", "django_migrations",
    "django_session", "usersessions_usersession", "axes_accessattempt", "axes_accessattemptexpiration",
    "axes_accessfailurelog", "axes_accesslog", "procrastinate_events", "procrastinate_jobs",
    "procrastinate_periodic_defers", "procrastinate_workers", "relay_cache", "set_up_archive",
    "foundation_answeredcall", "foundation_clockshift",
})  # fmt: skip
CHUNK = 1 << 20


@dataclass(frozen=True)
class Table:
    """A table with its columns, but for those that the database works out."""

    name: str
    columns: tuple[str, ...]

    @property
    def quoted(self) -> str:
        return connection.ops.quote_name(self.name)

    @property
    def list(self) -> str:
        return ", ".join(connection.ops.quote_name(column) for column in self.columns)


def tables() -> list[Table]:
    """Those of the company, by name."""
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT c.relname, array_agg(a.attname::text ORDER BY a.attnum) FROM pg_class c"
            " JOIN pg_namespace n ON n.oid = c.relnamespace AND n.nspname = current_schema()"
            " JOIN pg_attribute a ON a.attrelid = c.oid AND a.attnum > 0 AND NOT a.attisdropped"
            " AND a.attgenerated = '' WHERE c.relkind = 'r' GROUP BY c.relname ORDER BY c.relname"
        )
        return [Table(name, tuple(columns)) for name, columns in cursor.fetchall() if name not in LEFT_OUT]


def write(table: Table, file: IO[bytes]) -> int:
    """All rows as CSV with a line of headings; how many."""
    with connection.cursor() as cursor:
        order = "ORDER BY 1" if table.columns else ""
        query = f"COPY (SELECT {table.list} FROM {table.quoted} {order}) TO STDOUT (FORMAT csv, HEADER)"
        with cursor.copy(query) as rows:
            for chunk in rows:
                file.write(chunk)
        return int(cursor.rowcount)


def read(table: Table, file: IO[bytes]) -> int:
    """Put rows back as they were written; how many."""
    with connection.cursor() as cursor:
        query = f"COPY {table.quoted} ({table.list}) FROM STDIN (FORMAT csv, HEADER MATCH)"
        with cursor.copy(query) as rows:
            while chunk := file.read(CHUNK):
                rows.write(chunk)
        return int(cursor.rowcount)


def hold(found: Sequence[Table]) -> None:
    """Let nobody else write to them, or read, until the transaction ends; whoever is at work is waited for, and not for
    ever."""
    with connection.cursor() as cursor:
        cursor.execute("SET LOCAL lock_timeout = '15s'")
        cursor.execute(f"LOCK TABLE {', '.join(table.quoted for table in found)} IN ACCESS EXCLUSIVE MODE")


@contextmanager
def emptied(found: Sequence[Table]) -> Iterator[None]:
    """The tables without a row, to be filled: what they refer to is checked at the end, and nothing follows from what
    is put in. Afterwards keys are counted on from the highest. To be used in a transaction."""
    with connection.cursor() as cursor:
        cursor.execute("SET CONSTRAINTS ALL DEFERRED")
        for table in found:
            cursor.execute(f"ALTER TABLE {table.quoted} DISABLE TRIGGER USER")
        for table in found:
            cursor.execute(f"DELETE FROM {table.quoted}")
    yield
    with connection.cursor() as cursor:
        cursor.execute("SET CONSTRAINTS ALL IMMEDIATE")
        for table in found:
            cursor.execute(f"ALTER TABLE {table.quoted} ENABLE TRIGGER USER")
        for statement in connection.ops.sequence_reset_sql(no_style(), _models()):
            cursor.execute(statement)


def _models() -> list[type[models.Model]]:
    return list(apps.get_models(include_auto_created=True))


def migrations() -> dict[str, str]:
    """The last migration of each app: archives fit where they are the same."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT app, max(name) FROM django_migrations GROUP BY app ORDER BY app")
        found: dict[str, Any] = dict(cursor.fetchall())
    return found
